import { screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Pack, PackChanged } from "#contract/pack.ts";
import type { PanelDefinition } from "#contract/panels/index.ts";
import { usePack } from "../app/questions.ts";
import { Refusal, renderPage, type Answers, type Asked } from "#testing/render-page.tsx";
import { usePackChanges } from "./use-pack-changes.ts";

const panel = (key: string, title: string, version: number) => ({
  key,
  kind: "time-chart" as const,
  kpi: "fuel",
  title,
  version,
});
const packOf = (...panels: Pack["pages"][number]["panels"]): Pack => ({
  key: "review",
  name: "Review",
  version: 1,
  problem: null,
  pages: [{ key: "cover", name: "Cover", scope: {}, version: 1, problem: null, panels }],
});
const START = packOf(panel("a", "A", 1), panel("b", "B", 1));

/** A page of buttons: what they do is the hook's. */
function Harness({ pack }: { pack: Pack }) {
  const changes = usePackChanges(pack, "cover");
  const save = (key: string, title: string) =>
    void changes.save({ key, kind: "time-chart", kpi: "fuel", title } satisfies PanelDefinition);
  return (
    <>
      {pack.pages[0]!.panels.map((p) => (
        <p key={p.key} data-testid={p.key}>
          {"title" in p ? p.title : ""}
        </p>
      ))}
      {["A1", "A2", "B1"].map((title) => (
        <button key={title} type="button" onClick={() => save(title[0]!.toLowerCase(), title)}>
          {title}
        </button>
      ))}
      <button type="button" onClick={() => changes.undo?.()}>
        Undo
      </button>
      <button type="button" onClick={changes.takeTheirs}>
        Theirs
      </button>
      <button type="button" onClick={changes.keepMine}>
        Mine
      </button>
      <output aria-label="conflict">{changes.conflict ? JSON.stringify(changes.conflict.yours) : "none"}</output>
      <output aria-label="state">{changes.isSaving ? "saving" : "still"}</output>
    </>
  );
}
function Loaded() {
  const { data } = usePack("review");
  return data ? <Harness pack={data} /> : null;
}
const titleOf = (key: string) => screen.getByTestId(key).textContent;
const conflict = () => screen.getByLabelText("conflict").textContent;
const settled = () => waitFor(() => expect(screen.getByLabelText("state").textContent).toBe("still"));

/** A server that keeps panels by version, as the real one does; `others` is what somebody else made before. */
function server(others: Readonly<Record<string, string>> = {}) {
  const kept = new Map(
    START.pages[0]!.panels.map((p) => [
      p.key,
      others[p.key] ? panel(p.key, others[p.key]!, 2) : panel(p.key, (p as { title: string }).title, 1),
    ]),
  );
  const pack = () => packOf(...kept.values());
  let isFirst = true;
  let change = 0;
  const saves: unknown[] = [];
  const answers: Answers = {
    // The page was opened before the other's change.
    pack: () => {
      const shown = isFirst ? START : pack();
      isFirst = false;
      return shown;
    },
    changePanel: ({ params, body }: Asked): PackChanged | Refusal => {
      const { panel: next, version } = body as { panel: { key: string; title: string }; version: number };
      saves.push([next.title, version]);
      const now = kept.get(params["panel"]!)!;
      if (now.version !== version)
        return new Refusal({
          code: "changed-meanwhile",
          detail: "Somebody was first.",
          both: { current: now, yours: next },
        });
      kept.set(next.key, panel(next.key, next.title, version + 1));
      return { pack: pack(), change: (change += 1) };
    },
  };
  return { answers, saves, titles: () => [...kept.values()].map((p) => p.title) };
}

describe("changes of a page's panels", () => {
  it("are sent one after the other, each on top of what the one before led to, and shown at once", async () => {
    const { answers, saves, titles } = server();
    const { user } = renderPage(<Loaded />, { answers });
    await user.click(await screen.findByRole("button", { name: "A1" }));
    await user.click(screen.getByRole("button", { name: "A2" }));
    expect(titleOf("a")).toBe("A2");
    await settled();
    await waitFor(() =>
      expect(saves).toEqual([
        ["A1", 1],
        ["A2", 2],
      ]),
    );
    expect([titles(), conflict()]).toEqual([["A2", "B"], "none"]);
  });
  it("that are made on top of a refused one do not go over the other's version unasked", async () => {
    const { answers, saves, titles } = server({ a: "Other" });
    const { user } = renderPage(<Loaded />, { answers });
    const first = await screen.findByRole("button", { name: "A1" });
    // Both presses come before the first is answered.
    first.click();
    screen.getByRole("button", { name: "A2" }).click();
    await waitFor(() => expect(conflict()).toContain("A2"));
    await settled();
    expect(saves).toEqual([["A1", 1]]);
    expect(titles()).toEqual(["Other", "B"]);
    await user.click(screen.getByRole("button", { name: "Theirs" }));
    expect([titleOf("a"), conflict()]).toEqual(["Other", "none"]);
  });
  it("go on top of the other's version when that is said", async () => {
    const { answers, saves, titles } = server({ a: "Other" });
    const { user } = renderPage(<Loaded />, { answers });
    await user.click(await screen.findByRole("button", { name: "A1" }));
    await waitFor(() => expect(conflict()).toContain("A1"));
    await user.click(screen.getByRole("button", { name: "Mine" }));
    await waitFor(() => expect(titles()).toEqual(["A1", "B"]));
    expect(saves).toEqual([
      ["A1", 1],
      ["A1", 2],
    ]);
    expect(conflict()).toBe("none");
  });
  it("of different panels do not meet", async () => {
    const { answers, titles } = server({ a: "Other" });
    const { user } = renderPage(<Loaded />, { answers });
    await user.click(await screen.findByRole("button", { name: "B1" }));
    await waitFor(() => expect(titles()).toEqual(["Other", "B1"]));
    await waitFor(() => expect(titleOf("a")).toBe("Other"));
    expect(conflict()).toBe("none");
  });
});
