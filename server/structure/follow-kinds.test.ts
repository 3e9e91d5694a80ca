import { afterAll, beforeAll, beforeEach, expect, inject, it } from "vitest";
import type { LibraryKpi } from "#contract/kpis.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { delimited, sayKind, type Rows } from "#testing/shape-files.ts";
import { startCompany } from "#testing/stranger.ts";
import type { ScorecardAnswer } from "#core/panels/scorecard/schema.ts";

/** What was posted as income and is a cost: changed later, with everything that follows from it. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "kinds", { empty: true });
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

const post = async (name: string, rows: Rows, sign?: "result") => {
  const draft = await client.upload(name, delimited(rows, ","));
  // Of extras nothing says what they are: they are taken for income at first.
  const { rules } = sayKind(draft.definition, "income");
  const mapping = { ...rules.mapping, sign: sign ?? rules.mapping.sign };
  const answered = await client.change(draft, { rules: { ...rules, mapping } });
  expect(await client.post(answered)).toMatchObject({ state: "done" });
};
const setKind = async (name: string, kind: "income" | "expense") => {
  const { accounts } = await client.get<EditableStructure>("/api/structure");
  const { version, isUsed: _, ...item } = accounts.find((account) => account.name === name)!;
  const { status, body } = await api.send("POST", "/api/structure/accounts", {
    do: "change",
    key: item.key,
    version,
    item: { ...item, kind },
  });
  expect(status).toBe(200);
  return (body as EditableStructure).changes[0]!.id;
};
const kpis = async () =>
  Object.fromEntries(
    (await client.get<LibraryKpi[]>("/api/kpis")).map(({ definition }) => [
      definition.name,
      [definition.formula, definition.direction],
    ]),
  );
const shown = async (pack: string) => {
  const card = await client.get<ScorecardAnswer>(`/api/packs/${pack}/pages/overview/panels/scorecard?unit=units`);
  return Object.fromEntries(
    card.groups.flatMap(({ rows }) =>
      rows.map(({ kpi, actual }) => [kpi.name, "value" in actual ? actual.value : null]),
    ),
  );
};

it("the KPIs that were made of the accounts read it as what it is, and back again", async () => {
  const months = ["2026-01", "2026-02"];
  await post("Shop.csv", [["Month", "Sales", "Extras", "Wages"], ...months.map((month) => [month, "100", "30", "40"])]);
  const before = await kpis();
  expect(before).toMatchObject({
    Result: ["sales + extras - (wages)", "higher"],
    Income: ["sales + extras", "higher"],
    Extras: ["extras", "higher"],
  });
  expect(await shown("shop")).toMatchObject({ Result: 90, Extras: 30 });

  const change = await setKind("Extras", "expense");
  expect(await kpis()).toMatchObject({
    Result: ["sales - (extras + wages)", "higher"],
    Income: ["sales", "higher"],
    Extras: ["extras", "lower"],
  });
  // The file has costs positive: what is a cost now stays as it is.
  expect(await shown("shop")).toMatchObject({ Result: 30, Income: 100, Extras: 30 });

  expect((await api.send("POST", `/api/structure/changes/${change}/undo`, {})).status).toBe(200);
  expect(await shown("shop")).toMatchObject({ Result: 90, Extras: 30 });
  expect((await kpis())["Extras"]).toEqual(before["Extras"]);
});

it("amounts that the file signed by what they are turn round", async () => {
  await post(
    "Result.csv",
    [
      ["Month", "Sales", "Extras", "Wages"],
      ["2026-01", "100", "-30", "-40"],
      ["2026-02", "100", "-30", "-40"],
    ],
    "result",
  );
  expect(await shown("result")).toMatchObject({ Extras: -30, Wages: 40, Result: 30 });
  await setKind("Extras", "expense");
  expect(await shown("result")).toMatchObject({ Extras: 30, Wages: 40, Result: 30 });
  // Undoing the load and bringing it back keeps what it is by now.
  const { loads } = await client.get<{ loads: { id: number }[] }>("/api/loads");
  await api.send("POST", `/api/loads/${loads[0]!.id}/undo`, {});
  await api.send("POST", `/api/loads/${loads[0]!.id}/redo`, {});
  expect(await shown("result")).toMatchObject({ Extras: 30, Result: 30 });
});

it("what somebody wrote themselves stays as they wrote it", async () => {
  await post("Shop.csv", [
    ["Month", "Sales", "Extras", "Wages"],
    ["2026-01", "100", "30", "40"],
    ["2026-02", "100", "30", "40"],
  ]);
  const library = await client.get<LibraryKpi[]>("/api/kpis");
  const own = library.find(({ definition }) => definition.name === "Income")!.definition;
  const definition = { ...own, key: "both", name: "Both", formula: "2 * sales + extras" };
  expect((await api.send("POST", "/api/kpis", { key: null, definition, version: null })).status).toBe(200);
  await setKind("Extras", "expense");
  expect((await kpis())["Both"]).toEqual(["2 * sales + extras", "higher"]);
});
