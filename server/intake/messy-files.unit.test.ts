import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { checkLoad } from "#core/checks/check-load.ts";
import { mappingProblems } from "#core/mapping/map-rows.ts";
import { plannedView, type MappingView } from "#core/mapping/mapping-view.ts";
import { messyChoice, messyFile, type MessyChoice } from "#testing/messy-files.ts";
import { finalColumns, headTable, proposeDefinition } from "./drafts/detect.ts";
import { detectFile } from "./drafts/open-draft.ts";
import { passFile } from "./drafts/run-file.ts";
import { sayKind } from "#testing/shape-files.ts";
import { readLimits } from "./limits.ts";
import { workbookHeads } from "./reading/workbook-head.ts";

const limits = readLimits({});
/** A company that has nothing yet. */
const EMPTY: MappingView = {
  calendar: { startMonth: 1 },
  currency: "EUR",
  rates: new Map(),
  accounts: [],
  dimensions: [],
  scenarios: (["actual", "budget", "target"] as const).map((key) => ({
    key,
    name: `${key[0]!.toUpperCase()}${key.slice(1)}`,
    kind: key,
  })) as unknown as MappingView["scenarios"],
  datasets: [],
};
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "hackle-messy-"));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** What becomes of a file: its sums by scenario, in hundredths, or why it is stopped. */
async function outcomeOf(name: string, content: Uint8Array) {
  const path = join(folder, name);
  writeFileSync(path, content);
  const reader = {
    view: EMPTY,
    limits,
    workbookHeads: (of: string, request: never) => workbookHeads(of, request, limits),
  };
  const { detected, reading, tables } = await detectFile({ path, name }, reader as never);
  const proposed = proposeDefinition(detected.head, reading, { view: EMPTY, fileName: name, tables });
  // Whether something is earned or spent is asked where nothing says it; no total depends on it.
  const definition = sayKind(proposed, "income");
  const own = { definition, tables: new Map(tables.map((table) => [table.key, table])) };
  const { columns } = headTable(detected.head, reading);
  const problems = mappingProblems(definition.rules.mapping, finalColumns(columns, own, EMPTY), EMPTY);
  if (problems.length > 0) return { said: problems, totals: [], definition };
  const pass = passFile({ path, size: content.length, ...own, view: EMPTY, limits, purpose: "check" });
  let step = await pass.next();
  while (!step.done) step = await pass.next();
  const { rules, answers } = definition;
  const found = checkLoad(step.value, {
    view: EMPTY,
    rules,
    answers,
    control: answers.control,
    posted: [],
    history: [],
  });
  const stops = found.filter(({ severity, answer }) => severity === "stop" && answer === null);
  const planned = plannedView(EMPTY, rules.mapping);
  const totals = new Map<string, number>();
  for (const { scenario, account, amount } of step.value.accounts) {
    const { decimals } = planned.accounts.find(({ key }) => key === account)!;
    const key = `${scenario}|${account}`;
    totals.set(key, (totals.get(key) ?? 0) + Number(amount) * 10 ** (2 - decimals));
  }
  return { said: stops.map(({ message }) => message), totals: [...totals], definition };
}

const sorted = (totals: readonly (readonly [string, number])[]) =>
  totals.map(([key, sum]) => `${key.split("|")[0]!.toLowerCase()} ${sum}`).sort();

/** Holds one drawn file against what has to become of it. */
async function judge(choice: MessyChoice): Promise<void> {
  const file = await messyFile(choice);
  const { said, totals } = await outcomeOf(file.name, file.content);
  if (file.stop) expect(said.join(" ")).toMatch(file.stop);
  else {
    expect(said).toEqual([]);
    expect(sorted(totals)).toEqual(sorted(file.totals));
  }
}

it("files of all layouts, ways of writing and faults are posted with exact totals, or stopped for what is wrong with them", async () => {
  await fc.assert(fc.asyncProperty(messyChoice, judge), { numRuns: Number(process.env["HACKLE_FILES"] ?? 500) });
});
