import writeWorkbook from "write-excel-file/node";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Alerts } from "#contract/alerts.ts";
import type { Draft } from "#contract/intake.ts";
import type { AnswerOf } from "#core/panels/schemas.ts";
import type { Difference, LoadDetail, LoadList } from "#contract/loads.ts";
import { correctedLedger, ledgerWorkbook, nextMonthLedger } from "#demo/generate/feed.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
const get = <T>(path: string) => client.get<T>(path);
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "intake");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
  client = intakeClient(api);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const finding = (draft: Draft, rule: string) => {
  if (!draft.report) throw new Error(`there is no report: ${JSON.stringify(draft.job)}`);
  return draft.report.findings.find((f) => f.rule === rule);
};
const sums = async () =>
  (
    await database.knex.raw<{ rows: unknown[] }>(
      "select count(*)::text, sum(amount)::text, sum(amount * month)::text, sum(amount * line)::text, sum(hashtext(reference))::text from fact",
    )
  ).rows[0];
const lastClosed = async () => (await get<{ lastClosed: string }>("/api/frame")).lastClosed;

describe("a draft that is looked at while it is checked", () => {
  it("never says that the check is done without its report", async () => {
    const read: string[] = [];
    const note = ({ sql }: { sql: string }) => {
      const table = /^select .* from "(job|draft)"/.exec(sql)?.[1];
      if (table) read.push(table);
    };
    const draft = await client.upload(
      "one-line.csv",
      "Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,5\n",
    );
    database.knex.on("query", note);
    await get(`/api/drafts/${draft.id}`);
    database.knex.off("query", note);
    // Whatever is committed between the two reads, the report is at least as new as the job.
    expect(read.slice(-2)).toEqual(["job", "draft"]);
    expect((await api.send("DELETE", `/api/drafts/${draft.id}`)).status).toBe(204);
  });
});

describe("the month's ledger", () => {
  let loadId = 0;
  let before: unknown;

  it("is understood as it comes, dirt and all", async () => {
    before = await sums();
    const draft = await client.upload("november-ledger.csv", nextMonthLedger().text);
    expect(draft.definition.reading).toEqual({
      encoding: "utf-8",
      delimiter: ",",
      sheet: null,
      headerLine: 4,
      headerRows: 1,
      decimalMark: ".",
    });
    const { steps, mapping: found } = draft.definition.rules;
    expect(steps.map(({ kind }) => kind)).toEqual(["skip-totals", "skip-notes"]);
    expect(found).toMatchObject({ dataset: "management-accounts", dateFormat: "month-name", sign: "result" });
    expect(Object.fromEntries(Object.entries(found.columns).map(([name, m]) => [name, m.as]))).toEqual({
      Period: "period",
      Account: "account",
      Route: "dimension",
      "Service line": "dimension",
      "Cost centre": "dimension",
      Vessel: "dimension",
      "Home market": "dimension",
      Amount: "amount",
      Units: "quantity",
      Document: "reference",
    });
    expect(draft.report).toMatchObject({ mayPost: false, months: "November FY27", scenarios: "Actual" });
    expect(draft.report?.findings.map((f) => [f.rule, f.severity, f.count])).toEqual([
      ["fraction", "stop", 3],
      ["unknown-account", "stop", 1],
      ["no-amount", "stop", 1],
      ["posted-double", "warn", 1],
      ["control-total", "note", 0],
    ]);
    expect(finding(draft, "control-total")?.message).toContain("which is the control figure to the last digit");
    expect(draft.report?.effects[0]).toMatchObject({ changed: 1, after: { rows: draft.report!.before.rows - 1 } });
  });

  it("is refused while a stop is open, and posted once each is answered", async () => {
    const [{ id }] = (await get<{ id: number }[]>("/api/drafts")) as [{ id: number }];
    let draft = await client.checked(id);
    const failed = await client.post(draft);
    expect(failed).toMatchObject({ state: "failed", loadId: null });
    expect(failed.message).toContain("3 lines have a fraction");
    expect(await sums()).toEqual(before);

    const double = finding(draft, "posted-double")!.lines[0]!.line;
    draft = await client.change(draft, {
      rules: {
        ...draft.definition.rules,
        rejectedLines: [double],
        rejectedRules: ["no-amount"],
        mapping: {
          ...draft.definition.rules.mapping,
          fractions: "round",
          accounts: { "Harbour levy": { to: "port_dues" } },
        },
      },
    });
    expect(draft.report?.mayPost).toBe(true);
    expect(finding(draft, "no-amount")).toMatchObject({ severity: "stop", answer: "1 line left out" });
    expect(finding(draft, "rounded")?.count).toBe(3);
    const rejected = (await api.get(`/api/drafts/${id}/rejected.csv`)).body as string;
    expect(
      rejected
        .split("\r\n")
        .slice(1, 3)
        .map((line) => line.split(",").slice(0, 2)),
    ).toEqual([
      [String(double), "Line that was rejected"],
      [expect.any(String), "No amount"],
    ]);

    const job = await client.post(draft);
    expect(job).toMatchObject({ state: "done", loadId: expect.any(Number) as number });
    loadId = job.loadId!;
    expect(await lastClosed()).toBe("2026-11");
    const packs = await get<{ name: string }[]>("/api/packs");
    expect(packs[0]?.name).toBe("November review");
  });

  it("is listed with what it brought and the figures it moved", async () => {
    const list = await get<LoadList>("/api/loads");
    expect(list.loads[0]).toMatchObject({
      id: loadId,
      fileName: "november-ledger.csv",
      rejected: 2,
      state: "in force",
    });
    const load = await get<LoadDetail>(`/api/loads/${loadId}`);
    expect(load.intake).toBe("Ledger");
    const revenue = load.moved.filter((m) => m.kpi.key === "total_revenue");
    expect(revenue.map((m) => [m.span, "value" in m.after])).toEqual([
      ["November FY27", true],
      ["year to date November FY27", true],
    ]);
    expect(load.moved.some((m) => m.kpi.key === "on_time_rate")).toBe(false);
    // From file to page to the cent: what the file signs by the result adds up to what is shown.
    const total = (kinds: RegExp) =>
      load.totals.filter((t) => kinds.test(t.account)).reduce((sum, t) => sum + Number(t.amount), 0);
    expect(total(/^Passenger fares$/)).toBeGreaterThan(0);
    expect((await api.get(`/api/loads/${loadId}/rejected.csv`)).body).toContain("Line that was rejected");
    expect((await api.get(`/api/loads/${loadId}/file`)).body).toBe(nextMonthLedger().text);
  });

  it("alerts to the KPIs whose status it turned, those who see the whole company", async () => {
    const alerts = await get<Alerts>("/api/alerts");
    expect(alerts.load).toMatchObject({ id: loadId, fileName: "november-ledger.csv" });
    expect(alerts.words).toBe("November FY27 and year to date, after October FY27");
    expect(alerts.changes.length).toBeGreaterThan(0);
    const standing = async (asOf: string, kpi: string, span: string) => {
      const query = `asOf=${asOf}&span=${span}`;
      const answer = await get<AnswerOf<"scorecard">>(
        `/api/packs/monthly-review/pages/cover/panels/scorecard?${query}`,
      );
      const row = answer.groups.flatMap((g) => g.rows).find((r) => r.kpi.key === kpi)!;
      return row.status === null ? row.variance.judgement : "word" in row.status ? row.status.word : null;
    };
    const onCover = [
      "total_revenue",
      "operating_result",
      "operating_margin",
      "tickets",
      "freight",
      "fuel",
      "overtime",
      "maintenance",
      "passenger_count",
    ];
    for (const span of ["month", "year-to-date"])
      for (const kpi of onCover) {
        const [before, after] = [await standing("2026-10", kpi, span), await standing("2026-11", kpi, span)];
        const told = alerts.changes.find((c) => c.kpi === kpi && c.span === span);
        expect([kpi, span, told?.from ?? before, told?.to ?? after]).toEqual([kpi, span, before, after]);
        expect([kpi, span, told !== undefined]).toEqual([kpi, span, before !== after]);
      }
    // What is out of the ordinary is what the panel of it says of the month.
    for (const kpi of ["total_revenue", "tickets", "freight", "fuel", "overtime", "crew", "maintenance"]) {
      const { body } = await api.send("POST", "/api/answers", {
        frame: { asOf: "2026-11" },
        panels: [{ panel: { key: "r", kind: "expected-range", kpi, grain: "month" }, choice: { last: "6" } }],
      });
      const { answer } = JSON.parse((body as unknown as string).trim()) as { answer: AnswerOf<"expected-range"> };
      const seen = answer.points.at(-1)!;
      const told = alerts.unusual.filter((one) => one.kpi === kpi);
      // What began earlier is no news of this load.
      const begun = answer.events.filter(({ from }) => from === "2026-11");
      expect([kpi, seen.period, told.map(({ words }) => words)]).toEqual([
        kpi,
        "2026-11",
        begun.map(({ words }) => words),
      ]);
    }
    expect(alerts.unusual.map(({ worst }) => Math.abs(worst))).toEqual(
      alerts.unusual.map(({ worst }) => Math.abs(worst)).toSorted((a, b) => b - a),
    );
    await api.signIn(SKERRY_MANAGER);
    expect(await get<Alerts>("/api/alerts")).toEqual({ load: null, words: "", changes: [], unusual: [] });
    await api.signIn(ANALYST);
  });

  it("is taken back exactly by undo, and brought back exactly by redo", async () => {
    const posted = await sums();
    const { status, body } = await api.send("POST", `/api/loads/${loadId}/undo`);
    expect([status, (body as LoadDetail).state]).toEqual([200, "undone"]);
    expect(await sums()).toEqual(before);
    expect(await lastClosed()).toBe("2026-10");
    expect((await api.send("POST", `/api/loads/${loadId}/undo`)).status).toBe(422);
    expect((await api.send("POST", `/api/loads/${loadId}/redo`)).status).toBe(200);
    expect(await sums()).toEqual(posted);
    expect(await lastClosed()).toBe("2026-11");
  });

  it("is remembered: the same kind of file needs nothing more, and its double is refused", async () => {
    const draft = await client.upload("november-ledger-again.csv", nextMonthLedger().text);
    expect(draft.intake?.name).toBe("Ledger");
    expect(finding(draft, "unknown-account")).toBeUndefined();
    expect(finding(draft, "already-posted")).toMatchObject({ severity: "stop", answer: null });
    expect(finding(draft, "already-posted")?.message).toMatch(
      /^November FY27 is posted already, from november-ledger\.csv\. .* a corrected version of the same data/,
    );
    expect((await api.send("DELETE", `/api/drafts/${draft.id}`)).status).toBe(204);
    expect((await api.get(`/api/drafts/${draft.id}`)).status).toBe(404);
  });
});

describe("a corrected month", () => {
  it("takes the place of the first one, differs by the doubled invoice, and can be undone", async () => {
    const before = await sums();
    let draft = await client.upload("ledger-2026-10-corrected.csv", correctedLedger().text);
    expect(finding(draft, "already-posted")?.message).toMatch(
      /^October FY27 is posted already, from ledger-2026-10\.csv\. /,
    );
    draft = await client.change(draft, { answers: { ...draft.definition.answers, posting: "restate" } });
    expect(draft.report?.findings.filter((f) => f.severity === "stop" && f.answer === null)).toEqual([]);
    const job = await client.post(draft);
    expect(job.state).toBe("done");
    const load = await get<LoadDetail>(`/api/loads/${job.loadId}`);
    expect(load.replaces).toMatchObject([{ fileName: "ledger-2026-10.csv", months: "October FY27" }]);
    const moved = load.moved.find((m) => m.kpi.key === "maintenance" && m.span === "October FY27")!;
    if (!("value" in moved.before) || !("value" in moved.after)) throw new Error("absent");
    expect(moved.after.value - moved.before.value).toBeCloseTo(-184_000, 6);

    const difference = await get<Difference>(`/api/loads/${load.replaces[0]!.id}/difference?to=${job.loadId}`);
    const repairs = difference.lines.filter((l) => l.account === "Repairs");
    expect(repairs).toMatchObject([{ side: "gone", reference: "INV-20618", amount: "184000.00" }]);
    // Beside the invoice only the balance sheet differs, whose accounts the cost had moved.
    expect(new Set(difference.byAccount.map((a) => a.account))).toEqual(
      new Set(["Repairs", "Cash", "Payables", "Equity"]),
    );
    expect(difference.same).toBeGreaterThan(1000);
    const first = await get<LoadDetail>(`/api/loads/${load.replaces[0]!.id}`);
    expect(first.state).toBe("replaced");
    expect((await api.send("POST", `/api/loads/${first.id}/undo`)).body).toMatchObject({
      code: "in-use",
      detail: expect.stringContaining("Undo that one first") as string,
    });
    expect((await api.send("POST", `/api/loads/${job.loadId}/undo`)).status).toBe(200);
    expect(await sums()).toEqual(before);
  });
});

describe("the workbook of the same month", () => {
  it("has its months turned into rows, keeps to the one that is new, and agrees with itself to the cent", async () => {
    const { fileName, sheetName, rows } = ledgerWorkbook();
    const cells = rows.map((row) => row.map((value) => (value === null ? null : { value })));
    const bytes = await writeWorkbook(cells, { sheet: sheetName }).toBuffer();
    let draft = await client.upload(fileName, new Uint8Array(bytes));
    expect(draft.sheets).toEqual(["Ledger"]);
    expect(draft.definition.rules.steps.map((s) => s.kind)).toEqual(["skip-totals", "skip-notes", "unpivot"]);
    // All but November is there already, and the file says so.
    expect(finding(draft, "already-posted")?.message).toContain("April–November FY27 are posted already");
    const { steps } = draft.definition.rules;
    const onlyNovember = {
      kind: "filter" as const,
      keep: true,
      column: "Period",
      test: "is" as const,
      values: ["Nov 2026"],
    };
    draft = await client.change(draft, {
      rules: { ...draft.definition.rules, steps: [...steps, onlyNovember] },
      answers: { ...draft.definition.answers, posting: "restate" },
    });
    expect(finding(draft, "control-total")?.message).toContain("All of it is posted");
    expect(draft.report).toMatchObject({ months: "November FY27", mayPost: true });
    const own = rows.slice(3).reduce((sum, row) => sum + Math.round(Number(row.at(-1)) * 100), 0);
    expect(Math.round(Number(draft.report!.amountInFile) * 100)).toBe(own);
    const job = await client.post(draft);
    expect(job.state).toBe("done");
    const load = await get<LoadDetail>(`/api/loads/${job.loadId}`);
    expect(load.replaces).toMatchObject([{ fileName: "november-ledger.csv" }]);
    expect((await api.send("POST", `/api/loads/${job.loadId}/undo`)).status).toBe(200);
  });
});

describe("access", () => {
  it("keeps loading to those who may", async () => {
    await api.signIn(SKERRY_MANAGER);
    expect((await api.upload("a.csv", "a,b\n1,2\n")).status).toBe(403);
    expect((await api.get("/api/drafts")).status).toBe(403);
    expect((await api.get("/api/loads/1")).status).toBe(403);
    expect((await api.get("/api/loads")).status).toBe(200);
    await api.signIn(ANALYST);
  });
});
