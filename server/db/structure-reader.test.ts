import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { LibraryKpi } from "#contract/kpis.ts";
import { diffRecords } from "#core/history/records-diff.ts";
import type { Pack } from "#contract/pack.ts";
import { recordsOfPack } from "#contract/pack-records.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { readStructureRows } from "./structure-rows.ts";
import { structureReader, type Structure } from "./structure.ts";

let database: OwnDatabase;
let api: ApiClient;
let read: () => Promise<Structure>;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "structure_reader");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
  read = structureReader(database.knex);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

/** Of what two states have in common, what is the very same. */
const sameIn = (a: Structure, b: Structure) =>
  (["coverage", "dimensions", "ids", "kpis", "knownEvents", "ground"] as const).filter((name) => a[name] === b[name]);
async function change(method: string, path: string, body: unknown): Promise<void> {
  const { status, body: said } = await api.send(method, path, body);
  expect([status, said]).toEqual([200, expect.anything()]);
}
async function renamePage(name: string): Promise<void> {
  const { body } = await api.get("/api/packs/monthly-review");
  const records = recordsOfPack(body as Pack);
  const page = "page/monthly-review/cover";
  const diff = diffRecords(records, { ...records, [page]: { ...(records[page] as object), name } });
  await change("POST", "/api/packs/monthly-review/edits", { edit: crypto.randomUUID(), diff });
}

describe("the structure that is kept", () => {
  it("stays as it is for what a page that is arranged does not touch, and is what is stored after every change", async () => {
    const first = await read();
    expect(await read()).toBe(first);
    const steps: [what: string, work: () => Promise<void>, same: string[]][] = [
      ["a page", () => renamePage("Front page"), ["coverage", "dimensions", "ids", "kpis", "knownEvents", "ground"]],
      [
        "an event",
        () =>
          change("POST", "/api/events", {
            kpi: "fuel",
            from: "2026-10-03",
            to: "2026-10-05",
            at: null,
            isOfWhole: true,
            verdict: "confirmed",
            reason: "A storm",
          }),
        ["coverage", "dimensions", "ids", "kpis"],
      ],
      [
        "a KPI",
        async () => {
          const { body } = await api.get("/api/kpis");
          const { definition, version } = (body as LibraryKpi[])[0]!;
          const said = { ...definition, description: "Said anew." };
          await change("POST", "/api/kpis", { key: definition.key, version, definition: said });
        },
        ["coverage", "dimensions", "ids", "knownEvents"],
      ],
      ["the structure", () => change("PUT", "/api/structure/datasets/targets", { name: "Aims" }), []],
    ];
    let before = first;
    for (const [what, work, same] of steps) {
      await work();
      const after = await read();
      expect([what, sameIn(before, after)]).toEqual([what, same]);
      expect(after.rows).toEqual(await readStructureRows(database.knex));
      before = after;
    }
  });
});
