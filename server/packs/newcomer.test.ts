import { afterAll, beforeAll, expect, inject, it } from "vitest";
import type { Draft } from "#contract/intake.ts";
import type { LoadDetail } from "#contract/loads.ts";
import type { PackList } from "#contract/pack.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "newcomer");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
  client = intakeClient(api);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

interface Scorecard {
  readonly frame: { readonly words: Record<string, string> };
  readonly groups: readonly { readonly rows: readonly { actual: unknown; basis: unknown; words: string }[] }[];
}

/** Posts a file as it is understood, and opens the page it is given. */
async function throughToPage(draft: Draft): Promise<{ load: LoadDetail; page: Scorecard; structure: FrameChoices }> {
  expect(draft.mappingProblems).toEqual([]);
  expect(draft.report?.findings.filter((f) => f.severity === "stop")).toEqual([]);
  const job = await client.post(draft);
  expect(job.state).toBe("done");
  const load = await client.get<LoadDetail>(`/api/loads/${job.loadId}`);
  const pack = load.review!.pack;
  return {
    load,
    page: await client.get<Scorecard>(`/api/packs/${pack}/pages/overview/panels/scorecard`),
    structure: await client.get<FrameChoices>(`/api/frame?pack=${pack}`),
  };
}

it("budget and actual by department becomes a dataset with a first page, to which the load leads", async () => {
  const months = ["2026-04", "2026-05", "2026-06"];
  const rows = months.flatMap((m, i) => ["Kitchen", "Garden"].map((d, k) => `${m},${d},${100 + i},${90 + i * 10 + k}`));
  const draft = await client.upload(
    "department-spending.csv",
    `Month,Unit of work,Budget,Actual\n${rows.join("\n")}\n`,
  );
  const { load, page, structure } = await throughToPage(draft);
  expect(load.review?.name).toBe("Department spending");
  expect((await client.get<PackList>("/api/packs")).map((p) => p.name)).toContain("Department spending");
  expect(page.frame.words).toMatchObject({ asOf: "June FY27", basis: "Budget", scope: "all values of Unit of work" });
  expect(page.groups[0]!.rows[0]).toMatchObject({
    actual: { value: 603 },
    basis: { value: 606 },
    words: "€ 3 (0.5%) below Budget, on plan",
  });
  // What the file does not have is not offered to narrow it by.
  expect(structure.dimensions.map((d) => d.name)).toEqual(["Unit of work"]);
});

it("an ordinary sales list with decimal commas does too, by day and by customer", async () => {
  const rows = Array.from({ length: 120 }, (_, i) => {
    const date = new Date(Date.UTC(2026, 3, 1 + i));
    const day = [date.getUTCDate(), date.getUTCMonth() + 1].map((n) => String(n).padStart(2, "0")).join(".");
    return `${day}.2026;Customer ${"ABC"[i % 3]};${1 + (i % 4)};${100 + i},50`;
  });
  const draft = await client.upload("sales-list.csv", `Date;Customer;Pieces;Net sales\n${rows.join("\n")}\n`);
  expect(draft.definition.reading).toMatchObject({ delimiter: ";", decimalMark: "," });
  const { load, page } = await throughToPage(draft);
  expect(load.totals.map((t) => [t.account, t.amount])).toEqual([
    ["Pieces", "300"],
    ["Net sales", String(120 * 100.5 + (119 * 120) / 2) + ".00"],
  ]);
  // 1 April 2026 and 120 days: July ends on the 122nd, so June is the last whole month.
  expect(page.frame.words).toMatchObject({ asOf: "June FY27", scope: "all customers" });
  // Of a first year the page compares months: 1 April is day 0, so June is days 61 to 90.
  expect(page.frame.words).toMatchObject({ span: "month", basis: "Prior period" });
  const june = rows.slice(61, 91);
  expect(page.groups[0]!.rows[0]).toMatchObject({
    actual: { value: june.reduce((sum, row) => sum + Number(row.split(";")[3]!.replace(",", ".")), 0) },
  });
});
