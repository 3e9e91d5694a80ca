import type { ScenarioCode } from "../../compare/scenario-code.ts";
import { moneySign } from "../../formats/currency.ts";
import { numberMarks } from "../../formats/writing.ts";
import type { Figure, KpiUnit } from "../../figures/schema.ts";
import type { KpiDefinition } from "../../kpis/schema.ts";

/** What stands in a table's cell: a text, a number in full, or nothing where a figure is absent. */
export type TableCell = string | number | null;

/** A column of the numbers behind a panel. */
export interface TableColumn {
  readonly head: string;
  /** How its numbers are written on screen; texts stand as they are. */
  readonly holds: "text" | "value" | "delta" | "percent" | "count";
  /** The scenario its head is marked as. */
  readonly scenario?: ScenarioCode;
  /** The KPI whose values it holds, where a table has those of several. */
  readonly of?: Pick<KpiDefinition, "unit" | "decimals">;
  /** Whether it is for files only: it says in each row what a screen says once. */
  readonly isForFiles?: true;
}

/**
 * The numbers behind a panel, each in its KPI's own unit and unrounded; percentages are fractions, as
 * spreadsheets keep them. The screen's table, what is copied, and files are all made from this one.
 */
export interface PanelTable {
  readonly columns: readonly TableColumn[];
  readonly rows: readonly (readonly TableCell[])[];
}

/** A column with how its cell is found in a row. */
export type ColumnOf<T> = TableColumn & { readonly cell: (row: T) => TableCell };

/** Puts a table together from its columns. */
export function tableOf<T>(rows: readonly T[], columns: readonly ColumnOf<T>[]): PanelTable {
  return {
    columns: columns.map(({ cell: _, ...column }) => column),
    rows: rows.map((row) => columns.map((column) => column.cell(row))),
  };
}

/** A figure as a cell. */
export function cellOf(figure: Figure | null | undefined): number | null {
  return figure && "value" in figure ? figure.value : null;
}

/** Why a figure is absent; nothing where it is there. */
export function whyAbsent(figure: Figure): string | null {
  return "absent" in figure ? figure.detail : null;
}

/** A KPI's unit as files name it. */
export function unitText(unit: KpiUnit): string {
  switch (unit.kind) {
    case "money":
      return moneySign();
    case "money-per":
      return `${moneySign()} per ${unit.per}`;
    case "count":
      return unit.of;
    case "percent":
      return "fraction";
    case "days":
      return "days";
    case "ratio":
      return unit.of === "" ? "ratio" : unit.of;
  }
}

/** The table as tab-separated text: pasted into a spreadsheet, numbers are numbers and texts stay texts. */
export function tableAsTsv({ columns, rows }: PanelTable): string {
  const { decimal } = numberMarks();
  const cell = (value: TableCell) =>
    typeof value === "number" ? String(value).replace(".", decimal) : (value ?? "").replace(/[\t\r\n]+/g, " ");
  return [columns.map((column) => column.head), ...rows].map((row) => row.map(cell).join("\t")).join("\n");
}
