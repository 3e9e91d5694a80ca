import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { formatMonth } from "../calendar/month.ts";
import { columnNames } from "../reading/header.ts";
import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import { findBody, type Grid, type SaidHeader, type TableBody } from "../reading/table/grid.ts";
import { isLedger, readHeads, type ColumnHead } from "../reading/table/heads.ts";
import type { Label } from "../reading/table/label.ts";
import { isTimeless, monthOfParts, saysMonth } from "../reading/table/period-parts.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { freeName } from "./free-name.ts";
import { natureOfName } from "./measure-nature.ts";
import { titleSense, withYear, yearIsOpen, type TitleSense } from "./title-sense.ts";
import { understandRows, type RowAxes } from "./understand-rows.ts";

/** What a column of the tidied rows is, by the structure of the table. */
export type ColumnHint =
  | { readonly as: "period" | "scenario" | "account" | "dimension" }
  | { readonly as: "amount"; readonly measure: string | null; readonly scenario: Label | null }
  | { readonly as: "apart"; readonly why: string };

/** A table as it was understood. */
export interface Understanding {
  readonly body: TableBody;
  /** The columns by their headings, before any step. */
  readonly columns: readonly string[];
  readonly headerLine: number;
  readonly headerRows: number;
  /** Columns into rows, parts of times into months, repeated texts filled: in this order, after totals were skipped. */
  readonly steps: readonly TidyStep[];
  /** Steps that come before totals and notes are skipped. */
  readonly firstSteps: readonly TidyStep[];
  readonly hints: Readonly<Record<string, ColumnHint>>;
  readonly title: TitleSense;
  /** Columns that their headings do not tell apart. */
  readonly alike: readonly string[];
  /** Where the year of the title may be the calendar's or the fiscal one: the steps by the other reading. */
  readonly otherYear: { readonly year: number; readonly steps: readonly TidyStep[] } | null;
}

/** Understands a table by its first rows. `undefined` where there are no figures in columns. */
export function understandTable(grid: Grid, context: UnderstandContext): Understanding | undefined {
  const understood = understandAs(grid, context, null);
  if (!understood?.yearIsOpen) return understood;
  const other = understandAs(grid, context, true)!;
  return { ...understood, otherYear: { year: understood.title.period.year!, steps: other.steps } };
}

interface UnderstandContext {
  readonly calendar: FiscalCalendar;
  readonly mark: DecimalMark;
  /** What the sheet and the file are called. */
  readonly names: readonly string[];
  /** Where its header stands, where that is known. */
  readonly header?: SaidHeader | undefined;
}

function understandAs(
  grid: Grid,
  { calendar, mark, names, header }: UnderstandContext,
  isFiscalYear: true | null,
): (Understanding & { readonly yearIsOpen: boolean }) | undefined {
  const body = findBody(grid, header);
  if (!body || body.header.length === 0) return undefined;
  const width = Math.max(0, ...grid.slice(body.header[0]).map(({ cells }) => cells.length));
  const columns = columnNames(
    body.header.map((row) => grid[row]!.cells),
    width,
  );
  const said = titleSense([...body.above, ...names]);
  const title = isFiscalYear ? { ...said, period: { ...said.period, isFiscal: true } } : said;
  const heads = readHeads(grid, body);
  const rows = understandRows(grid, { body, columns, calendar, title, heads });
  const derived = derivedColumns(heads, { grid, body, columns, mark });
  const kept = heads.filter(({ place }) => !derived.has(place));
  const hints: Record<string, ColumnHint> = {};
  for (const [place, why] of derived) hints[columns[place]!] = { as: "apart", why };
  const steps: TidyStep[] = [...rows.steps];
  for (const [name, as] of Object.entries(rows.hints)) hints[name] = { as };
  const hasSides = isLedger(kept.map(({ labels }) => labels.at(-1)!.text));
  const turned = hasSides
    ? undefined
    : turnHeads(kept, {
        names: [...columns, ...Object.keys(hints)],
        columns,
        calendar,
        title,
        rows,
      });
  if (turned) {
    steps.push(...turned.steps);
    Object.assign(hints, turned.hints);
  } else
    for (const head of kept) {
      const measure = head.rests.filter((rest) => rest !== "").join(" ");
      hints[columns[head.place]!] = {
        as: "amount",
        measure: measure === "" || isAmountWord(measure) ? null : measure,
        scenario: head.scenario,
      };
    }
  return {
    body,
    columns,
    headerLine: grid[body.header[0]!]!.line,
    headerRows: body.header.at(-1)! - body.header[0]! + 1,
    steps,
    firstSteps: rows.firstSteps,
    hints,
    title,
    alike: columnsAlike(kept, columns),
    otherYear: null,
    yearIsOpen: rows.yearIsOpen || (turned?.yearIsOpen ?? false),
  };
}

/** Columns whose headings say the same of everything. */
function columnsAlike(heads: readonly ColumnHead[], columns: readonly string[]): string[] {
  const byHead = new Map<string, string[]>();
  for (const { place, period, scenario, rests } of heads) {
    const { year, isFiscal, month, ordinal, quarter, day } = period;
    const key = JSON.stringify([year, isFiscal, month, ordinal, quarter, day, scenario?.scenarioText, rests]);
    byHead.set(key, [...(byHead.get(key) ?? []), columns[place]!]);
  }
  return [...byHead.values()].filter((names) => names.length > 1).flat();
}

const AMOUNT_WORD =
  /^(?:amount|value|figure|betrag|wert|montant|valeur|amounts|values|eur|usd|gbp|chf|€|net amount|total amount|importe|importo|bedrag)s?$/i;

/** Names of columns that say nothing of what is measured. */
export function isAmountWord(name: string): boolean {
  return AMOUNT_WORD.test(name.trim());
}

/** Columns of figures that follow from others: differences, percentages and totals, each with the reason. */
function derivedColumns(
  heads: readonly ColumnHead[],
  { grid, body, columns, mark }: { grid: Grid; body: TableBody; columns: readonly string[]; mark: DecimalMark },
): Map<number, string> {
  const derived = new Map<number, string>();
  const hasMonths = heads.some(({ period }) => saysMonth(period));
  const valueOf = (row: number, place: number) => {
    const read = readNumber((grid[row]!.cells[place] ?? "").trim(), mark);
    return read === undefined ? null : read.units / 10 ** read.decimals;
  };
  for (const { place, isVariance, isPercent, scenario } of heads) {
    const cells = grid.slice(body.from).map(({ cells: own }) => (own[place] ?? "").trim());
    const filled = cells.filter((cell) => cell !== "");
    const arePercent = filled.filter((cell) => cell.endsWith("%")).length * 2 > filled.length;
    if (isVariance) derived.set(place, "is a difference by its name: it follows from other columns");
    else if ((isPercent || arePercent) && cells.some((cell) => cell !== ""))
      derived.set(place, "is a rate: it is written in percent");
    else if (scenario?.scenario === "prior-year")
      derived.set(place, "is the prior year: its figures are actuals of a year before");
  }
  for (const head of heads) {
    if (derived.has(head.place)) continue;
    const lowest = head.labels.findLast(({ text }) => text !== "");
    const coarser = hasMonths && !saysMonth(head.period) && !isTimeless(head.period);
    const isNamed = head.isTotal && (lowest?.rest === "" || coarser);
    if (!isNamed && !coarser) continue;
    const parts = heads.filter(
      (other) =>
        other !== head &&
        !derived.has(other.place) &&
        !other.isTotal &&
        (hasMonths ? saysMonth(other.period) : true) &&
        isPartOf(other, head),
    );
    if (parts.length === 0) continue;
    const agrees = grid.slice(body.from).every((_, i) => {
      const row = body.from + i;
      const total = valueOf(row, head.place);
      if (total === null) return true;
      const sum = parts.reduce((all, part) => all + (valueOf(row, part.place) ?? 0), 0);
      return Math.abs(sum - total) <= Math.max(0.06 * parts.length, Math.abs(total) * 1e-6);
    });
    const others =
      parts.length === 2 ? parts.map(({ place }) => columns[place]).join(" and ") : `${parts.length} columns beside it`;
    if (agrees) derived.set(head.place, `is a total: ${others} add up to it`);
    else if (isNamed || coarser)
      derived.set(head.place, "is called a total, and other columns do not add up to it: look it over");
  }
  return derived;
}

/** Whether a column could be a part of a total: alike in everything that the total says. */
function isPartOf(part: ColumnHead, total: ColumnHead): boolean {
  if (total.scenario !== null && part.scenario?.scenario !== total.scenario.scenario) return false;
  const { year, isFiscal, quarter } = total.period;
  if (
    year !== undefined &&
    part.period.year !== undefined &&
    !isFiscal &&
    !part.period.isFiscal &&
    year !== part.period.year
  )
    return false;
  if (quarter !== undefined && part.period.quarter !== undefined && part.period.quarter !== quarter) return false;
  return total.rests.every((rest, level) => rest === "" || part.rests[level] === rest);
}

/** Columns of figures whose headings say times, or several things, become rows. */
function turnHeads(
  heads: readonly ColumnHead[],
  {
    names,
    columns,
    calendar,
    title,
    rows,
  }: {
    names: readonly string[];
    columns: readonly string[];
    calendar: FiscalCalendar;
    title: TitleSense;
    rows: RowAxes;
  },
): { steps: TidyStep[]; hints: Record<string, ColumnHint>; yearIsOpen: boolean } | undefined {
  const timed = heads.filter(({ period }) => !isTimeless(period));
  const levels = heads[0]?.rests.length ?? 0;
  const vary = Array.from({ length: levels }, (_, level) => level).filter(
    (level) => new Set(heads.map(({ rests }) => rests[level])).size > 1,
  );
  const isTimed = timed.length * 2 > heads.length;
  const measureLevel = levelOfMeasures(heads, vary, rows, title);
  const memberLevels = vary.filter((level) => level !== measureLevel);
  if (!isTimed && memberLevels.length === 0) return undefined;
  const turned = isTimed ? timed : heads;
  const constant = Array.from({ length: levels }, (_, level) => level)
    .filter((level) => !vary.includes(level))
    .map((level) => turned[0]!.rests[level]!)
    .filter((rest) => rest !== "" && !isAmountWord(rest));
  const hasScenario = turned.some(({ scenario }) => scenario !== null);
  const hasMeasure = measureLevel !== undefined || (constant.length > 0 && !rows.hasAccount);
  const months = isTimed ? monthsOfHeads(turned, { calendar, title, rows }) : undefined;
  const taken = [...names];
  const named = (name: string) => {
    const free = freeName(name, taken);
    taken.push(free);
    return free;
  };
  const into: string[] = [];
  const hints: Record<string, ColumnHint> = {};
  const texts: ((head: ColumnHead, at: number) => string)[] = [];
  const add = (
    name: string,
    as: "period" | "scenario" | "account" | "dimension" | null,
    text: (head: ColumnHead, at: number) => string,
  ) => {
    const free = named(name);
    into.push(free);
    texts.push(text);
    if (as !== null) hints[free] = { as };
    return free;
  };
  let yearColumn: string | null = null;
  if (months) {
    if (months.isPart) yearColumn = add("Year", null, (_, at) => months.texts[at]!);
    else add("Period", "period", (_, at) => months.texts[at]!);
  }
  if (hasScenario) add("Scenario", "scenario", (head) => head.scenario?.scenarioText ?? "");
  if (hasMeasure)
    add("Account", "account", (head) =>
      measureLevel === undefined ? constant.join(" ") : head.rests[measureLevel] || constant.join(" "),
    );
  for (const level of memberLevels) add("Group", "dimension", (head) => head.rests[level]!);
  const valueInto = named("Amount");
  hints[valueInto] = { as: "amount", measure: null, scenario: null };
  const steps: TidyStep[] = [
    {
      kind: "turn",
      turned: turned.map((head, at) => ({ name: columns[head.place]!, texts: texts.map((text) => text(head, at)) })),
      into,
      valueInto,
    },
  ];
  if (yearColumn !== null && rows.bareMonth !== null) {
    const period = named("Period");
    steps.push({
      kind: "make-period",
      parts: [
        { column: yearColumn, is: "year" },
        { column: rows.bareMonth.column, is: rows.bareMonth.is },
      ],
      into: period,
      year: null,
      isFiscal: turned.some((head) => head.period.isFiscal === true),
    });
    hints[period] = { as: "period" };
  }
  return { steps, hints, yearIsOpen: months?.yearIsOpen ?? false };
}

/** The level of the header that says what is measured, where the columns differ in it. */
function levelOfMeasures(
  heads: readonly ColumnHead[],
  vary: readonly number[],
  rows: RowAxes,
  title: TitleSense,
): number | undefined {
  const told = vary
    .map((level) => {
      const texts = [...new Set(heads.map(({ rests }) => rests[level]!).filter((rest) => rest !== ""))];
      return {
        level,
        known: texts.filter((text) => natureOfName(text) !== undefined).length / Math.max(1, texts.length),
      };
    })
    .sort((a, b) => b.known - a.known);
  const [best] = told;
  if (!best) return undefined;
  if (best.known > 0) return best.level;
  // Names that say nothing known: members, where it is said elsewhere what is measured.
  const isSaidAbove = heads[0]!.rests.some((rest, level) => !vary.includes(level) && natureOfName(rest) !== undefined);
  return rows.hasAccount || title.measure !== null || isSaidAbove ? undefined : best.level;
}

/** The months of columns as texts: whole ones, or years where the rows say the months. */
function monthsOfHeads(
  heads: readonly ColumnHead[],
  { calendar, title, rows }: { calendar: FiscalCalendar; title: TitleSense; rows: RowAxes },
): { texts: string[]; isPart: boolean; yearIsOpen: boolean } {
  const parts = heads.map(({ period }) => period);
  if (
    rows.bareMonth !== null &&
    parts.every((own) => own.year !== undefined && !saysMonth(own) && own.quarter === undefined)
  )
    return { texts: parts.map((own) => `${own.isFiscal ? "FY" : ""}${own.year}`), isPart: true, yearIsOpen: false };
  const whole = withYear(parts, title.period, calendar);
  const texts = whole.map((own, i) => {
    const month = monthOfParts(own, calendar);
    if (month === undefined)
      return heads[i]!.labels.map(({ text }) => text)
        .join(" ")
        .trim();
    if (!saysMonth(own)) return `Q${own.quarter} ${own.isFiscal ? "FY" : ""}${own.year}`;
    return own.day === undefined ? formatMonth(month) : `${formatMonth(month)}-${String(own.day).padStart(2, "0")}`;
  });
  return { texts, isPart: false, yearIsOpen: yearIsOpen(parts, title.period, calendar) };
}
