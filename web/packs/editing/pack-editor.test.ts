import { describe, expect, it } from "vitest";
import { mergeDiff } from "#core/history/merge-diff.ts";
import { applyDiff, type Records } from "#core/history/records-diff.ts";
import type { Pack, PackChanged } from "#contract/pack.ts";
import { PACK_MERGE, recordsOfPack, withRecords, type PanelRecord } from "#contract/pack-records.ts";
import { ApiProblem } from "../../client/api.ts";
import { createPackEditor } from "./pack-editor.ts";
import { withPanel } from "./page-edits.ts";

const PLACE = { pack: "review", page: "front" };
const PANEL = "panel/review/front/chart";
const pack: Pack = {
  key: "review",
  name: "Review",
  written: "Review",
  isRetired: false,
  position: 1,
  problem: null,
  pages: [
    {
      key: "front",
      name: "Front",
      scope: {},
      look: {},
      position: 1,
      problem: null,
      panels: [
        {
          key: "chart",
          definition: { key: "chart", kind: "time-chart", kpi: "fuel" },
          place: { x: 0, y: 0, w: 12, h: 30 },
        },
      ],
    },
  ],
};

const titled = (title: string) => (records: Records) =>
  withPanel(records, PLACE, { key: "chart", kind: "time-chart", kpi: "fuel", title });
const titleIn = (records: Records) => (records[PANEL] as PanelRecord).definition["title"];

/** A server with a pack that others change too. */
function server() {
  let now: Records = recordsOfPack(pack);
  return {
    now: () => now,
    change: (edit: (records: Records) => Records) => {
      now = edit(now);
    },
    send: async (_: string, { diff }: { diff: Parameters<typeof mergeDiff>[1] }): Promise<PackChanged> => {
      const { conflicts, diff: merged } = mergeDiff(now, diff, PACK_MERGE);
      if (conflicts.length > 0) {
        const yours = (diff.changed[PANEL]?.to ?? null) as never;
        throw new ApiProblem("changed-meanwhile", "Somebody changed it.", {
          record: PANEL,
          current: now[PANEL] ?? null,
          yours,
        } as never);
      }
      now = applyDiff(now, merged);
      return { pack: withRecords(pack, now), change: 1 };
    },
  };
}

describe("an editor whose edit meets another's", () => {
  it("makes its own version on top of the other's, though it has not seen the pack anew", async () => {
    const kept = server();
    let refreshed = 0;
    const editor = createPackEditor("review", {
      send: kept.send,
      keep: { load: () => [], save: () => {} },
      newName: () => crypto.randomUUID(),
      retryAfter: () => 1_000_000,
      onSaved: () => {},
      onRefused: () => (refreshed += 1),
    });
    editor.rebase(pack);
    kept.change(titled("The first one's"));
    editor.edit(titled("The second one's"));
    await editor.flush();
    const { conflict, shown } = editor.store.getState();
    expect(conflict?.record).toBe(PANEL);
    expect(shown!.pages[0]!.panels[0]!.definition.title).toBe("The first one's");
    expect(refreshed).toBe(1);
    editor.keepMine();
    await editor.settled();
    expect(editor.store.getState().conflict).toBeNull();
    expect(titleIn(kept.now())).toBe("The second one's");
    editor.undo();
    await editor.settled();
    expect(titleIn(kept.now())).toBe("The first one's");
  });
});
