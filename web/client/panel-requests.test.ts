import { afterEach, describe, expect, it, vi } from "vitest";
import type { PageLine } from "#contract/page-answers.ts";
import { askPanel, type PanelRequest } from "./panel-requests.ts";

afterEach(() => vi.unstubAllGlobals());

/** A server whose lines come when the test lets them, and that notes what was asked and broken off. */
function server() {
  const asked: URL[] = [];
  const streams: ReadableStreamDefaultController<Uint8Array>[] = [];
  let isBrokenOff = false;
  vi.stubGlobal("fetch", (address: string, { signal }: RequestInit) => {
    asked.push(new URL(address, "http://test"));
    signal?.addEventListener("abort", () => (isBrokenOff = true));
    const body = new ReadableStream<Uint8Array>({
      start: (controller) => {
        streams.push(controller);
      },
    });
    return Promise.resolve(new Response(body));
  });
  return {
    asked,
    /** To the request that was made last. */
    send: (text: string) => streams.at(-1)!.enqueue(new TextEncoder().encode(text)),
    end: () => streams.forEach((stream) => stream.close()),
    isBrokenOff: () => isBrokenOff,
  };
}
const ask = (panel: string, change: Partial<PanelRequest> = {}) =>
  askPanel({
    place: { pack: "review", page: "cover", panel },
    panel: { key: panel, kind: "time-chart", kpi: "fuel" },
    frame: { span: "month" },
    pageFrame: { span: "month" },
    pageScope: {},
    storedAmong: 3,
    choice: {},
    signal: new AbortController().signal,
    ...change,
  });
const later = () => new Promise((resolve) => setTimeout(resolve, 5));
const refusal = (panel: string, detail: string): string => {
  const line: PageLine = {
    panel,
    problem: { type: "/problems/not-found", title: "", status: 404, code: "not-found", detail },
  };
  return `${JSON.stringify(line)}\n`;
};

describe("panels that ask in the same breath", () => {
  it("are one request, with their choices behind their keys", async () => {
    const { asked, send, end } = server();
    const answers = Promise.allSettled([
      ask("tiles", { choice: { top: "5" } }),
      ask("chart", { choice: { kpi: "fuel" } }),
      ask("chart", { choice: { kpi: "crew" } }),
      ask("tiles", { place: { pack: "review", page: "other", panel: "tiles" } }),
    ]);
    await later();
    expect(asked.map(({ pathname, searchParams }) => [pathname, Object.fromEntries(searchParams)])).toEqual([
      [
        "/api/packs/review/pages/cover/answers",
        { span: "month", panels: "tiles,chart", "tiles.top": "5", "chart.kpi": "fuel" },
      ],
      ["/api/packs/review/pages/cover/answers", { span: "month", panels: "chart", "chart.kpi": "crew" }],
      ["/api/packs/review/pages/other/answers", { span: "month", panels: "tiles" }],
    ]);
    send(refusal("tiles", "Gone."));
    end();
    expect((await answers)[3]).toMatchObject({ reason: { message: "Gone." } });
  });

  it("are answered as their lines come, wherever the stream breaks them", async () => {
    const { send, end } = server();
    const order: string[] = [];
    const settle = (panel: string) => ask(panel).catch((error: Error) => order.push(`${panel}: ${error.message}`));
    const both = [settle("a"), settle("b")];
    await later();
    const text = refusal("b", "Second – née first.");
    send(text.slice(0, 25));
    await later();
    expect(order).toEqual([]);
    send(text.slice(25));
    await both[1];
    expect(order).toEqual(["b: Second – née first."]);
    end();
    await both[0];
    expect(order[1]).toMatch(/^a: The connection broke off before all figures were there/);
  });

  it("break the request off only when none of them waits any more", async () => {
    const { isBrokenOff } = server();
    const [one, two] = [new AbortController(), new AbortController()];
    const answers = Promise.allSettled([ask("a", { signal: one.signal }), ask("b", { signal: two.signal })]);
    await later();
    one.abort();
    expect(isBrokenOff()).toBe(false);
    two.abort();
    expect(isBrokenOff()).toBe(true);
    expect((await answers).map(({ status }) => status)).toEqual(["rejected", "rejected"]);
  });

  it("are not asked for at all when they are gone before", async () => {
    const { asked } = server();
    const gone = new AbortController();
    const answer = ask("a", { signal: gone.signal });
    gone.abort();
    await expect(answer).rejects.toBeDefined();
    await later();
    expect(asked).toEqual([]);
  });
});
