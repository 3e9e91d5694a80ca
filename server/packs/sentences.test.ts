import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { inWriting } from "#core/formats/writing.ts";
import { WRITING } from "#core/testing/writing.ts";
import { PANEL_COMPUTATIONS } from "#core/panels/index.ts";
import type { PanelTable } from "#core/panels/parts/panel-table.ts";
import { isReadable, type Pack } from "#contract/pack.ts";
import type { PanelAnswer } from "#core/panels/schemas.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";
import { INDEPENDENT_KPIS, independentSums, readFactTable } from "#testing/independent.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { isExplained, numbersIn } from "#testing/sentence-numbers.ts";

/** What panels say in words, held against the numbers behind them: in whichever frame, no figure of a sentence is made up. */
let database: OwnDatabase;
let api: ApiClient;
let pack: Pack;
let sums: ReturnType<typeof independentSums>;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "sentences");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
  sums = independentSums(await readFactTable(database.knex));
  pack = (await api.get("/api/packs/monthly-review")).body as Pack;
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const tableOf = (answer: PanelAnswer): PanelTable =>
  inWriting(WRITING, () =>
    (PANEL_COMPUTATIONS[answer.kind] as { table(answer: PanelAnswer): PanelTable }).table(answer),
  );
/** What has no sentence of its own. */
const SILENT = new Set(["text"]);
/** The numbers a sentence may name: those behind the panel, and of a chart over time those of the frame's whole span. */
function explaining(answer: PanelAnswer): PanelTable[] {
  if (answer.kind !== "time-chart" || !INDEPENDENT_KPIS.includes(answer.kpi.key)) return [tableOf(answer)];
  const { actual, basis, delta } = sums(answer.frame.scope).figure(answer.kpi.key, answer.frame);
  const span: PanelTable = { columns: [], rows: [[actual, basis, delta]] };
  return answer.ahead ? [tableOf(answer), span] : [span];
}
const saidBy = (answer: PanelAnswer): string =>
  "headline" in answer ? answer.headline : "message" in answer ? answer.message : "";

const frame = fc.record({
  asOf: fc.integer({ min: 0, max: 23 }).map((back) => {
    const month = 2026 * 12 + 9 - back;
    return `${Math.floor(month / 12)}-${String((month % 12) + 1).padStart(2, "0")}`;
  }),
  span: fc.constantFrom("month", "quarter", "quarter-to-date", "year-to-date", "full-year", "trailing-12"),
  basis: fc.constantFrom("budget", "forecast", "prior-year", "prior-period", "target"),
  scope: fc.constantFrom("", "route:skerry-sound", "route:lantern-bay", "route:northreach"),
  unit: fc.constantFrom("units", "thousand", "million"),
});

describe("the sentences of panels", () => {
  it("name no figure that is not among their numbers, or their sums and differences", async () => {
    const panels = pack.pages.flatMap((page) =>
      page.panels
        .filter(({ definition }) => isReadable(definition) && !SILENT.has(definition.kind))
        .map(({ key }) => ({ page: page.key, key })),
    );
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...panels), frame, async ({ page, key }, asked) => {
        const query = new URLSearchParams(Object.entries(asked).filter(([, value]) => value !== ""));
        const path = `/api/packs/monthly-review/pages/${page}/panels/${key}?${query}`;
        const { status, body } = await api.get(path);
        if (status === 422) return;
        const answer = body as PanelAnswer;
        const sentence = saidBy(answer);
        const unexplained = numbersIn(sentence).filter(
          (number) => !explaining(answer).some((table) => isExplained(number, table)),
        );
        expect([path, sentence, unexplained.map(({ text }) => text)]).toEqual([path, sentence, []]);
      }),
      { numRuns: 120 },
    );
  });
});
