import ExcelJS from "exceljs";
import { expect } from "vitest";
import type { Definition, Draft } from "#contract/intake.ts";
import type { LoadDetail } from "#contract/loads.ts";
import type { IntakeClient } from "./intake-client.ts";
import type { ScorecardAnswer } from "#core/panels/scorecard/schema.ts";

/** What a file in one of the shapes that files come in holds, and what becomes of it. */
export interface Outcome {
  /** By account and scenario, what is posted. */
  readonly totals?: Readonly<Record<string, number>>;
  /** By KPI, what the scorecard shows. */
  readonly shown?: Readonly<Record<string, number>>;
  /** Why it is not posted as it is. */
  readonly stopped?: RegExp;
}

export type Rows = readonly (readonly string[])[];

/** A file as it is dropped. */
export interface DroppedFile {
  readonly name: string;
  readonly content: string | Uint8Array<ArrayBuffer>;
}

const quoted = (cell: string, mark: string) =>
  cell.includes(mark) || cell.includes('"') ? `"${cell.replaceAll('"', '""')}"` : cell;

/** Rows as delimited text. */
export const delimited = (rows: Rows, mark: string, end = "\n") =>
  rows.map((row) => row.map((cell) => quoted(cell, mark)).join(mark)).join(end) + end;

/** A number as a workbook keeps it; everything else as it is written. */
const typed = (cell: string) =>
  cell === "" ? null : /^-?\d+(\.\d+)?$/.test(cell) && !/^0\d/.test(cell) ? Number(cell) : cell;

/** Sheets of rows as a workbook, numbers kept as such. */
export const workbookOf = (sheets: Readonly<Record<string, Rows>>, hidden: readonly string[] = []) =>
  workbookOfCells(
    Object.fromEntries(Object.entries(sheets).map(([name, rows]) => [name, rows.map((row) => row.map(typed))])),
    hidden,
  );

/** Sheets of cells as a workbook: each as it is given. */
export async function workbookOfCells(
  sheets: Readonly<Record<string, readonly (readonly (string | number | null)[])[]>>,
  hidden: readonly string[] = [],
): Promise<Uint8Array<ArrayBuffer>> {
  const book = new ExcelJS.Workbook();
  for (const [name, rows] of Object.entries(sheets)) {
    const sheet = book.addWorksheet(name, { state: hidden.includes(name) ? "hidden" : "visible" });
    for (const row of rows) sheet.addRow([...row]);
  }
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** What stands against posting a file: what is missing, and the stops without an answer. */
export function objections(draft: Draft): string[] {
  const stops = (draft.report?.findings ?? []).filter((found) => found.severity === "stop" && found.answer === null);
  return [
    ...(draft.stepProblem ? [draft.stepProblem.message] : []),
    ...draft.mappingProblems,
    ...stops.map(({ message }) => message),
  ];
}

/** Says of all accounts that come with a file, and of which nothing says it, that they are income, or costs. */
export function sayKind(definition: Definition, kind: "income" | "expense"): Definition {
  const { mapping } = definition.rules;
  const accounts = mapping.creates.accounts.map(({ isGuess, ...account }) =>
    isGuess ? { ...account, kind } : account,
  );
  return {
    ...definition,
    rules: { ...definition.rules, mapping: { ...mapping, creates: { ...mapping.creates, accounts } } },
  };
}

/** Posts a draft that nothing stands against, and holds what it gives against what it should. */
export async function expectOutcome(client: IntakeClient, draft: Draft, outcome: Outcome): Promise<void> {
  const said = objections(draft);
  if (outcome.stopped) {
    expect(said.join(" ")).toMatch(outcome.stopped);
    return;
  }
  expect(said).toEqual([]);
  const job = await client.post(draft);
  expect([job.state, job.message]).toEqual(["done", null]);
  const load = await client.get<LoadDetail>(`/api/loads/${job.loadId}`);
  const posted = Object.fromEntries(
    load.totals.map((total) => [`${total.account} ${total.scenario}`, Number(total.amount)]),
  );
  if (outcome.totals) expect(posted).toEqual(outcome.totals);
  for (const [kpi, value] of Object.entries(outcome.shown ?? {})) {
    const card = await client.get<ScorecardAnswer>(`/api/packs/${load.review!.pack}/pages/overview/panels/scorecard`);
    const row = card.groups.flatMap((group) => group.rows).find((own) => own.kpi.name === kpi);
    expect([kpi, row?.actual]).toEqual([kpi, { value: expect.closeTo(value, 6) as number }]);
  }
}
