import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { checkLoad } from "#core/checks/check-load.ts";
import { mappingProblems } from "#core/mapping/map-rows.ts";
import { plannedView, type MappingView } from "#core/mapping/mapping-view.ts";
import type { Fact } from "#core/cube/fact.ts";
import type { Definition } from "#contract/intake.ts";
import { finalColumns, headTable, proposeDefinition } from "#server/intake/drafts/detect.ts";
import { detectFile } from "#server/intake/drafts/open-draft.ts";
import { passFile } from "#server/intake/drafts/run-file.ts";
import { readLimits } from "#server/intake/limits.ts";
import { workbookHeads } from "#server/intake/reading/workbook-head.ts";
import type { ComposedTable } from "./compose-table.ts";
import type { ComposedFile } from "./write-table.ts";

const limits = readLimits({});

/** A company that has nothing yet, with a version of every kind. */
export function emptyCompany(startMonth: number): MappingView {
  return {
    calendar: { startMonth },
    currency: "EUR",
    rates: new Map(),
    accounts: [],
    dimensions: [],
    scenarios: (["actual", "budget", "forecast", "target"] as const).map((key) => ({
      key,
      name: `${key[0]!.toUpperCase()}${key.slice(1)}`,
      kind: key,
    })) as unknown as MappingView["scenarios"],
    datasets: [],
  };
}

/** What becomes of a file. */
export interface Verdict {
  readonly outcome: "right" | "wrong" | "stopped";
  /** Questions that a person had to answer. */
  readonly questions: number;
  /** What is wrong, or why it was stopped. */
  readonly why: string;
  readonly definition: Definition;
}

/** Loads a composed file as a new company would, answers by its truth what is asked, and compares what would be posted. */
export async function judgeTable(table: ComposedTable, file: ComposedFile): Promise<Verdict> {
  const folder = mkdtempSync(join(tmpdir(), "hackle-composed-"));
  try {
    const path = join(folder, file.name);
    writeFileSync(path, file.content);
    const view = emptyCompany(table.calendar.startMonth);
    const reader = {
      view,
      limits,
      workbookHeads: (of: string, request: never) => workbookHeads(of, request, limits),
    };
    const { detected, reading, tables } = await detectFile({ path, name: file.name }, reader as never);
    const proposed = proposeDefinition(detected.head, reading, {
      view,
      fileName: file.name,
      tables,
      further: detected.further,
    });
    const { definition, questions } = answered(proposed, table);
    const own = { definition, tables: new Map(tables.map((one) => [one.key, one])) };
    const { columns } = headTable(detected.head, definition.reading);
    const problems = mappingProblems(definition.rules.mapping, finalColumns(columns, own, view), view);
    if (problems.length > 0) return { outcome: "stopped", questions, why: problems.join(" "), definition };
    const facts: Fact[] = [];
    const run = async (purpose: "check" | "post") => {
      const pass = passFile({ path, size: file.content.length, ...own, view, limits, purpose });
      let step = await pass.next();
      for (; !step.done; step = await pass.next()) facts.push(...step.value.facts.map(({ fact }) => fact));
      return step.value;
    };
    const result = await run("check");
    const { rules, answers } = definition;
    const findings = checkLoad(result, {
      view,
      rules,
      answers,
      control: answers.control,
      posted: [],
      history: [],
    });
    const stops = findings.filter(({ severity, answer }) => severity === "stop" && answer === null);
    if (stops.length > 0)
      return { outcome: "stopped", questions, why: stops.map(({ message }) => message).join(" "), definition };
    await run("post");
    const why = difference(facts, table, plannedView(view, rules.mapping));
    return { outcome: why === "" ? "right" : "wrong", questions, why, definition };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Answers whether accounts are income or costs, as the truth has it. */
function answered(definition: Definition, table: ComposedTable): { definition: Definition; questions: number } {
  const { mapping } = definition.rules;
  let questions = 0;
  const accounts = mapping.creates.accounts.map(({ isGuess, ...account }) => {
    if (!isGuess) return account;
    questions = 1;
    const nature = natureOf(account.name, table)?.nature;
    return { ...account, kind: nature === "expense" ? ("expense" as const) : ("income" as const) };
  });
  const doubts = mapping.doubts ?? [];
  questions += doubts.length;
  const year = doubts.find(({ key }) => key === "year");
  const yearWay = year?.ways[table.isFiscalTitle ? 1 : 0];
  // Composed files write what comes in and what goes out alike, without a minus.
  const signWay = doubts.find(({ key }) => key === "sign")?.ways[0];
  const settled = doubts.map((doubt) =>
    doubt.key === "year" || doubt.key === "sign" ? { ...doubt, settled: doubt.ways[0]!.name } : doubt,
  );
  return {
    definition: {
      ...definition,
      rules: {
        ...definition.rules,
        steps: yearWay?.steps ?? definition.rules.steps,
        mapping: {
          ...mapping,
          ...(signWay?.sign ? { sign: signWay.sign } : {}),
          ...(settled.length > 0 ? { doubts: settled } : {}),
          creates: { ...mapping.creates, accounts },
        },
      },
    },
    questions,
  };
}

const plain = (name: string) => name.toLowerCase().replace(/\s+/g, " ").trim();

function natureOf(name: string, { truth }: ComposedTable) {
  return (
    truth.measures.find((measure) => plain(measure.name) === plain(name)) ??
    (truth.measures.length === 1 ? truth.measures[0] : undefined)
  );
}

/** How what was posted differs from what should have been; empty where it does not. */
function difference(facts: readonly Fact[], table: ComposedTable, planned: MappingView): string {
  const { truth } = table;
  const sums = new Map<string, number>();
  const add = (key: string, amount: number) => sums.set(key, (sums.get(key) ?? 0) + amount);
  for (const { measure, scenario, month, amount } of table.facts) add(`${measure}|${scenario}|${month}`, amount);
  const said: string[] = [];
  const accounts = new Map(planned.accounts.map((account) => [account.key, account]));
  const kinds = new Set<string>();
  for (const fact of facts) {
    const account = accounts.get(fact.account)!;
    const measure = natureOf(account.name, table);
    if (!measure) {
      if (!kinds.has(account.name)) said.push(`posts “${account.name}”`);
      kinds.add(account.name);
      continue;
    }
    if (!kinds.has(account.key)) {
      kinds.add(account.key);
      const { nature } = measure;
      const isBalance = nature.endsWith("balance");
      if ((account.behaviour === "balance") !== isBalance)
        said.push(`${account.name} is taken for a ${account.behaviour}`);
      const counts = nature.startsWith("count");
      if ((account.unit.kind === "count") !== counts) said.push(`${account.name} is counted in ${account.unit.kind}`);
      if (!isBalance && !counts && account.kind !== nature) said.push(`${account.name} is taken for ${account.kind}`);
    }
    const place = truth.measures.indexOf(measure);
    add(`${place}|${fact.scenario}|${fact.month}`, -fact.amount * 10 ** (2 - account.decimals));
  }
  const off = [...sums].filter(([, sum]) => Math.abs(sum) > 0.001);
  if (off.length > 0) {
    const [key, sum] = off[0]!;
    const [measure, scenario, month] = key.split("|");
    said.push(
      `${off.length} of ${sums.size} sums are off, such as ${truth.measures[Number(measure)]!.name} ${scenario} ${Math.floor(Number(month) / 12)}-${(Number(month) % 12) + 1} by ${(sum / 100).toFixed(2)}`,
    );
  }
  const members = new Set(facts.flatMap((fact) => Object.entries(fact.members).map(([key]) => key)));
  if (members.size < truth.dimensions.length && said.length === 0 && facts.length > 0)
    said.push(`keeps ${members.size} of ${truth.dimensions.length} dimensions`);
  return said.join("; ");
}
