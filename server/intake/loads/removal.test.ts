import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from "vitest";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { LoadDetail, LoadList } from "#contract/loads.ts";
import type { Pack, PackList } from "#contract/pack.ts";
import { recordsOfPack } from "#contract/pack-records.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { delimited, type Rows } from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";

/** What nothing uses any more can go, and comes back; what something uses stays, with the reason. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "removal", { empty: true });
  api = await serveApi(database.knex);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
beforeEach(async () => {
  await startCompany(api);
  client = intakeClient(api);
});

const MONTHS = ["2026-01", "2026-02", "2026-03"];
const sales = (countries: readonly string[], amount = 100): Rows => [
  ["Month", "Country", "Sales", "Rent"],
  ...MONTHS.flatMap((month) => countries.map((country) => [month, country, String(amount), "40"])),
];
async function post(name: string, rows: Rows, posting: "new" | "beside" = "new"): Promise<number> {
  const draft = await client.upload(name, delimited(rows, ","));
  const answered =
    posting === "new" ? draft : await client.change(draft, { answers: { ...draft.definition.answers, posting } });
  const job = await client.post(answered);
  expect(job).toMatchObject({ state: "done" });
  return job.loadId!;
}
const send = async (method: "POST" | "DELETE", path: string, body?: object) => {
  const answer = await api.send(method, path, body);
  return { status: answer.status, body: answer.body as { detail?: string; kept?: string[] } };
};
const undo = (load: number) => send("POST", `/api/loads/${load}/undo`, {});
const remove = (load: number, withBrought = true) => send("POST", `/api/loads/${load}/remove`, { withBrought });
const names = async () => {
  const structure = await client.get<EditableStructure>("/api/structure");
  const kpis = await client.get<LibraryKpi[]>("/api/kpis");
  const packs = await client.get<PackList>("/api/packs");
  return {
    accounts: structure.accounts.map(({ name }) => name),
    dimensions: structure.dimensions.map((d) => `${d.name}: ${d.members.map((m) => m.name).join(", ")}`),
    datasets: structure.datasets.map(({ name }) => name),
    kpis: kpis.map(({ definition }) => definition.name),
    packs: packs.map(({ name }) => name),
  };
};

describe("an undone load", () => {
  it("goes for good with all that it alone brought, and the structure comes back when that is taken back", async () => {
    const empty = await names();
    const load = await post("Country sales.csv", sales(["DE", "US"]));
    const full = await names();
    expect((await remove(load)).body.detail).toMatch(/Country sales.csv is active. Undo it first/);
    await undo(load);
    const detail = await client.get<LoadDetail>(`/api/loads/${load}`);
    expect(detail.brought).toEqual([
      "the pack: Country sales",
      "2 KPIs: Sales and Rent",
      "the dataset: Country sales",
      "2 accounts: Sales and Rent",
      "the dimension: Country",
    ]);
    expect((await remove(load)).body).toEqual({ kept: [] });
    expect(await names()).toEqual(empty);
    expect((await client.get<LoadList>("/api/loads")).loads).toEqual([]);
    expect((await api.get(`/api/loads/${load}`)).status).toBe(404);

    const { changes } = await client.get<EditableStructure>("/api/structure");
    expect(changes.filter(({ mayUndo }) => mayUndo).map(({ said }) => said)).toEqual(
      expect.arrayContaining([
        "Removed the dimension Country",
        "Removed what came with Country sales.csv",
        "Removed the dataset Country sales",
      ]),
    );
    for (const said of ["Removed the dimension Country", "Removed the dataset Country sales"])
      expect(
        (await send("POST", `/api/structure/changes/${changes.find((own) => own.said === said)!.id}/undo`, {})).status,
      ).toBe(200);
    const back = await names();
    expect([back.dimensions, back.datasets]).toEqual([full.dimensions, full.datasets]);
    // The file itself can be brought again, as if it had never been there.
    await post("Country sales.csv", sales(["DE", "US"]));
  });

  it("leaves what another load uses, and says so", async () => {
    const first = await post("Country sales.csv", sales(["DE", "US"]));
    await post("Country sales.csv", sales(["FR"], 70), "beside");
    await undo(first);
    const { kept } = (await remove(first)).body;
    expect(kept!.join(" ")).toMatch(/Sales is on the page|Country sales has what Country sales.csv brought/);
    const left = await names();
    expect(left.accounts).toEqual(["Sales", "Rent"]);
    expect(left.datasets).toEqual(["Country sales"]);
    expect((await client.get<LoadList>("/api/loads")).loads).toHaveLength(1);
  });

  it("leaves a pack that somebody worked on", async () => {
    const load = await post("Country sales.csv", sales(["DE", "US"]));
    const pack = await client.get<Pack>("/api/packs/country-sales");
    const name = "pack/country-sales";
    const record = recordsOfPack(pack)[name]!;
    const diff = { added: {}, changed: { [name]: { from: record, to: { ...record, name: "Ours" } } }, removed: {} };
    expect((await send("POST", "/api/packs/country-sales/edits", { edit: randomUUID(), diff })).status).toBe(200);
    await undo(load);
    const { kept } = (await remove(load)).body;
    expect(kept).toEqual(expect.arrayContaining([expect.stringMatching(/^The pack Ours was arranged since/)]));
    // What stands on its pages stays with it.
    const left = await names();
    expect([left.packs, left.kpis, left.accounts]).toEqual([["Ours"], ["Sales", "Rent"], ["Sales", "Rent"]]);
  });

  it("keeps its accounts and members as long as it can be brought back", async () => {
    const load = await post("Country sales.csv", sales(["DE", "US"]));
    const removal = (version: number) => ({ do: "remove", key: "sales", version });
    expect((await send("POST", "/api/structure/accounts", removal(1))).body.detail).toMatch(/Retire it instead/);
    await undo(load);
    expect((await send("POST", "/api/structure/accounts", removal(1))).body.detail).toBe(
      "Sales is in Country sales.csv, which was undone and can still be brought back. Remove that load for good first.",
    );
    const member = await send("POST", "/api/structure/dimensions/country/members", {
      do: "remove",
      key: "de",
      version: 1,
    });
    expect(member.body.detail).toMatch(/^DE is in Country sales.csv, which was undone/);
  });

  it("leaves what it brought where that is wanted", async () => {
    const load = await post("Country sales.csv", sales(["DE", "US"]));
    const full = await names();
    await undo(load);
    expect((await remove(load, false)).body).toEqual({ kept: [] });
    expect(await names()).toEqual(full);
  });
});

describe("a dimension, dataset or scenario", () => {
  it("is not removed while facts, pages or people name it", async () => {
    await post("Country sales.csv", sales(["DE", "US"]));
    const { dimensions, datasets } = await client.get<EditableStructure>("/api/structure");
    const dimension = await send("DELETE", `/api/structure/parts/dimension/${dimensions[0]!.key}`);
    expect([dimension.status, dimension.body.detail]).toEqual([
      409,
      expect.stringMatching(/^Country is named by the page Overview of Country sales\./),
    ]);
    const dataset = await send("DELETE", `/api/structure/parts/dataset/${datasets[0]!.key}`);
    expect([dataset.status, dataset.body.detail]).toEqual([
      409,
      expect.stringMatching(/^Country sales is named by the pack Country sales\./),
    ]);
    expect((await send("DELETE", "/api/structure/parts/scenario/actual")).body.detail).toMatch(
      /a company always has it/,
    );
    expect((await send("DELETE", "/api/structure/parts/scenario/none")).status).toBe(404);
    expect((await send("DELETE", "/api/structure/parts/person/1")).status).toBe(400);
  });

  it("goes where nothing does, and comes back as it was", async () => {
    await api.send("POST", "/api/structure/dimensions", { name: "Team", plural: "Teams" });
    const member = { key: "north", name: "North", parent: null, aliases: ["N"], isRetired: false, attributes: {} };
    await api.send("POST", "/api/structure/dimensions/team/members", { do: "add", item: member });
    const before = await client.get<EditableStructure>("/api/structure");
    expect((await send("DELETE", "/api/structure/parts/dimension/team")).status).toBe(200);
    expect((await send("DELETE", "/api/structure/parts/scenario/target")).status).toBe(200);
    const without = await client.get<EditableStructure>("/api/structure");
    expect([without.dimensions, without.scenarios.map(({ key }) => key)]).toEqual([[], ["actual", "budget"]]);
    for (const { id } of without.changes.slice(0, 2))
      expect((await send("POST", `/api/structure/changes/${id}/undo`, {})).status).toBe(200);
    const after = await client.get<EditableStructure>("/api/structure");
    expect([after.dimensions, after.scenarios]).toEqual([before.dimensions, before.scenarios]);
  });
});
