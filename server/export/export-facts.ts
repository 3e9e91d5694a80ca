import { fileWriter, ParquetWriter } from "hyparquet-writer";
import { formatMonth } from "#core/calendar/month.ts";
import { bigDecimalText } from "#core/figures/exact-sum.ts";
import type { NamedFact } from "#server/facts/fact-source.ts";
import type { Structure } from "#server/db/structure.ts";
import { csvRow } from "#server/csv/csv-row.ts";

/** A fact in an export's columns. */
interface ExportRow {
  readonly scenario: string;
  /** "2026-10", or "2026-10-05" where facts are daily. */
  readonly period: string;
  readonly accountKey: string;
  readonly account: string;
  readonly members: readonly (string | null)[];
  /** In major units, to the last digit. */
  readonly amount: string;
  readonly unit: string;
  readonly reference: string | null;
  readonly file: string;
  readonly line: number;
}

const PARQUET_ROWS = 50_000;

/** Names of an export's columns: what a fact says, and the file and line it came from. */
export function exportColumns(structure: Structure, dataset: string): string[] {
  return [
    "Scenario",
    "Period",
    "Account key",
    "Account",
    ...ownDimensions(structure, dataset).map((d) => d.name),
    "Amount",
    "Unit",
    "Reference",
    "File",
    "Line",
  ];
}

/** Facts as CSV, row by row. */
export async function* factsToCsv(
  structure: Structure,
  dataset: string,
  facts: AsyncIterable<NamedFact>,
): AsyncGenerator<string> {
  yield csvRow(exportColumns(structure, dataset));
  for await (const row of exportRows(structure, dataset, facts)) {
    yield csvRow([
      row.scenario,
      row.period,
      row.accountKey,
      row.account,
      ...row.members,
      row.amount,
      row.unit,
      row.reference,
      row.file,
      row.line,
    ]);
  }
}

/** Writes facts as a Parquet file, in groups of rows, so that memory holds one of them. */
export async function writeParquet(
  path: string,
  structure: Structure,
  dataset: string,
  facts: AsyncIterable<NamedFact>,
): Promise<void> {
  const columns = exportColumns(structure, dataset);
  const isNumber = (name: string) => name === "Amount" || name === "Line";
  const writer = new ParquetWriter({
    writer: fileWriter(path),
    createdBy: "Hackle",
    schema: [
      { name: "root", num_children: columns.length },
      ...columns.map((name) =>
        isNumber(name)
          ? ({ name, type: name === "Line" ? "INT32" : "DOUBLE", repetition_type: "REQUIRED" } as const)
          : ({ name, type: "BYTE_ARRAY", converted_type: "UTF8", repetition_type: "OPTIONAL" } as const),
      ),
    ],
  });
  let data: (string | number | null)[][] = columns.map(() => []);
  const flush = async () => {
    await writer.write({
      columnData: columns.map((name, i) => ({ name, data: data[i]! })),
      rowGroupSize: PARQUET_ROWS,
    });
    data = columns.map(() => []);
  };
  for await (const row of exportRows(structure, dataset, facts)) {
    const cells = [
      row.scenario,
      row.period,
      row.accountKey,
      row.account,
      ...row.members,
      Number(row.amount),
      row.unit,
      row.reference,
      row.file,
      row.line,
    ];
    cells.forEach((cell, i) => data[i]!.push(cell));
    if (data[0]!.length === PARQUET_ROWS) await flush();
  }
  if (data[0]!.length > 0) await flush();
  await writer.finish();
}

async function* exportRows(
  structure: Structure,
  dataset: string,
  facts: AsyncIterable<NamedFact>,
): AsyncGenerator<ExportRow> {
  const dimensions = ownDimensions(structure, dataset).map((d) => ({
    key: d.key,
    names: new Map(d.members.map((m) => [m.key, m.name])),
  }));
  const { scenarios } = structure.coverage;
  for await (const fact of facts) {
    const account = structure.accounts.accounts.get(fact.account)!;
    yield {
      scenario: scenarios.get(fact.scenario)!.name,
      period: formatMonth(fact.month) + (fact.day === null ? "" : `-${String(fact.day).padStart(2, "0")}`),
      accountKey: account.key,
      account: account.name,
      members: dimensions.map(({ key, names }) => names.get(fact.members[key] ?? "") ?? null),
      amount: bigDecimalText(BigInt(fact.amount), account.decimals),
      unit: account.unit.kind === "money" ? structure.currency : account.unit.of,
      reference: fact.reference,
      file: fact.load,
      line: fact.line,
    };
  }
}

function ownDimensions(structure: Structure, dataset: string): Structure["dimensions"] {
  const own = structure.datasetDimensions.get(dataset) ?? [];
  return structure.dimensions.filter((d) => own.includes(d.key));
}
