import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { profileColumns } from "../reading/column-profile.ts";
import type { Grid, TableBody } from "../reading/table/grid.ts";
import { cellNature } from "../reading/table/grid.ts";
import type { ColumnHead } from "../reading/table/heads.ts";
import { readLabel } from "../reading/table/label.ts";
import { readDate } from "../reading/read-date.ts";
import {
  isTimeless,
  monthOfParts,
  readPeriodParts,
  saysMonth,
  type PeriodParts,
} from "../reading/table/period-parts.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { headingOn } from "../tidy/steps/sections.ts";
import { isTotal } from "../tidy/steps/skip-totals.ts";
import { ACCOUNT_NAME, ACCOUNT_NUMBER } from "./column-names.ts";
import { freeName } from "./free-name.ts";
import { natureOfName } from "./measure-nature.ts";
import { withYear, yearIsOpen, type TitleSense } from "./title-sense.ts";

type PartRole = "year" | "month" | "period";

/** What the columns beside the figures say of each row. */
export interface RowAxes {
  readonly steps: readonly TidyStep[];
  /** Steps that come before totals and notes are skipped. */
  readonly firstSteps: readonly TidyStep[];
  readonly hints: Readonly<Record<string, "period" | "scenario" | "account" | "dimension">>;
  readonly hasAccount: boolean;
  /** Whether the year of the title could be the calendar's or the fiscal one. */
  readonly yearIsOpen: boolean;
  /** A column of months without a year, where the columns of figures say the years. */
  readonly bareMonth: { readonly column: string; readonly is: "month" | "period" } | null;
}

const ORDINAL_NAME = /^(?:(?:posting |fiscal |accounting |buchungs)?p[eé]riod(?:e|s)?|per\.?)$/i;
const MONTH_NAME = /^(?:(?:posting |calendar )?months?|monat|mois|kalendermonat|buchungsmonat)$/i;
const FISCAL_YEAR_NAME = /^(?:fiscal|financial) year$|^geschäftsjahr$|^exercice$|^fy$/i;
const YEAR_NAME = /year|jahr|année|exercice|^fy$/i;
const SCENARIO_NAME = /^(?:scenario|version|type|value type|wertart|szenario|scénario|category|kind|a\/b|datenart)$/i;
const MEASURE_NAME =
  /(?<![\p{L}])(?:account|gl|measure|line item|position|indicator|metric|kpi|konto|kennzahl|compte|poste|libellé|kostenart|cost type|p&l line)(?![\p{L}])/iu;
const COMMENT_NAME =
  /^(?:comments?|notes?|remarks?|description|text|memo|bemerkung(?:en)?|kommentar|commentaires?|notiz)$/i;

/** Understands what stands beside the figures: times in one column or several, scenarios, accounts, texts that are not repeated. */
export function understandRows(
  grid: Grid,
  {
    body,
    columns,
    calendar,
    title,
    heads,
  }: {
    body: TableBody;
    columns: readonly string[];
    calendar: FiscalCalendar;
    title: TitleSense;
    heads: readonly ColumnHead[];
  },
): RowAxes {
  const rows = grid
    .slice(body.from)
    .map(({ cells }) => cells)
    .filter((cells) => body.figures.some((place) => cellNature(cells[place] ?? "") === "figure") && !isTotal(cells));
  const valuesOf = (place: number) => rows.map((cells) => (cells[place] ?? "").trim());
  const distinctOf = (place: number) => [...new Set(valuesOf(place))].filter((text) => text !== "");
  const steps: TidyStep[] = [];
  const hints: Record<string, "period" | "scenario" | "account" | "dimension"> = {};
  const sections = sectionsOf(grid, body);
  const filled = fillDowns(body.labels, columns, valuesOf);
  if (filled.length > 0) steps.push({ kind: "fill-down", columns: filled });
  const times = body.labels.flatMap((place) => {
    const found = timesIn(distinctOf(place), headOf(columns[place]!));
    return found ? [{ place, name: columns[place]!, ...found }] : [];
  });
  const headsSayMonths = heads.some(({ period }) => saysMonth(period) || period.quarter !== undefined);
  const headsSayYears =
    heads.length > 0 &&
    heads.filter(({ period }) => period.year !== undefined && !saysMonth(period)).length * 2 > heads.length;
  const part = times.find(({ says }) => says === "month" || says === "period");
  // Beside months, a quarter says their year.
  const whole = times.find(({ says }) => says === "whole" || (says === "quarter" && !part));
  const year = times.find(({ says }) => says === "year" || says === "quarter");
  let bareMonth: RowAxes["bareMonth"] = null;
  let isOpen = false;
  const make = (parts: { column: string; is: PartRole }[], own: { year: number | null; isFiscal: boolean }) => {
    const into = freeName("Period", columns);
    steps.push({ kind: "make-period", parts, into, ...own });
    hints[into] = "period";
  };
  if (headsSayMonths) {
    // The columns of figures say the time.
  } else if (whole) {
    const profile = profileColumns(
      [whole.name],
      valuesOf(whole.place).map((text) => [text]),
      calendar,
    )[0]!;
    if (profile.type === "date" && readsAlike(whole.place)) hints[whole.name] = "period";
    else make([{ column: whole.name, is: "period" }], { year: null, isFiscal: false });
  } else if (part && year)
    make(
      [
        { column: year.name, is: "year" },
        { column: part.name, is: part.says === "period" ? "period" : "month" },
      ],
      { year: null, isFiscal: FISCAL_YEAR_NAME.test(headOf(year.name)) },
    );
  else if (part && headsSayYears) bareMonth = { column: part.name, is: part.says === "period" ? "period" : "month" };
  else if (part && title.period.year !== undefined) {
    const parts = valuesOf(part.place).flatMap((text): PeriodParts[] => {
      const own = partsIn(text, part.says === "period" ? "period" : "month");
      return own ? [own] : [];
    });
    isOpen = yearIsOpen(distinctInOrder(parts), title.period, calendar);
    const [resolved] = withYear(distinctInOrder(parts), title.period, calendar);
    make([{ column: part.name, is: part.says === "period" ? "period" : "month" }], {
      year: title.period.year,
      isFiscal: resolved?.isFiscal ?? title.period.isFiscal ?? false,
    });
  }
  const rest = body.labels.filter((place) => !times.some((time) => time.place === place));
  const scenario = rest.find((place) => areScenarios(distinctOf(place), headOf(columns[place]!)));
  if (scenario !== undefined) hints[columns[scenario]!] = "scenario";
  const account = accountPlace(
    rest.filter((place) => place !== scenario),
    { columns, distinctOf },
  );
  if (account !== undefined) hints[columns[account]!] = "account";
  const firstSteps: TidyStep[] = [];
  let areAccounts = false;
  if (sections.length > 0) {
    const into = freeName("Group", columns);
    firstSteps.push({ kind: "sections", into });
    const known = sections.filter((text) => natureOfName(text) !== undefined).length;
    const headsSayMeasures = heads.some(
      ({ rests, isVariance, isPercent }) =>
        !isVariance && !isPercent && rests.some((own) => natureOfName(own) !== undefined),
    );
    areAccounts =
      account === undefined && !headsSayMeasures && title.measure === null && known * 3 >= sections.length * 2;
    hints[into] = areAccounts ? "account" : "dimension";
  }
  for (const place of rest)
    if (place !== scenario && place !== account && areCodesOfMembers(valuesOf(place), headOf(columns[place]!)))
      hints[columns[place]!] = "dimension";
  return { steps, firstSteps, hints, hasAccount: account !== undefined || areAccounts, bareMonth, yearIsOpen: isOpen };

  function readsAlike(place: number): boolean {
    const profile = profileColumns(
      [columns[place]!],
      valuesOf(place).map((text) => [text]),
      calendar,
    )[0]!;
    const { dateFormat } = profile;
    if (dateFormat === null || dateFormat === "serial") return false;
    // Of days and months the company's own order decides.
    if (dateFormat === "day-first" || dateFormat === "month-first") return true;
    return distinctOf(place).every((text) => {
      const own = monthOfParts(readPeriodParts(text).parts, calendar);
      return own === undefined || own === readDate(text, dateFormat, calendar)?.month;
    });
  }
}

/** Headings that stand alone on a row above rows of figures, as places to which those belong. */
function sectionsOf(grid: Grid, body: TableBody): string[] {
  const rows = grid.slice(body.from);
  const found = rows.flatMap(({ cells }, i) => {
    const text = headingOn(cells);
    const next = rows[i + 1];
    const isAbove =
      next !== undefined && body.figures.some((place) => cellNature(next.cells[place] ?? "") === "figure");
    return text !== undefined && isAbove && !isTotal(cells) ? [{ text, at: i }] : [];
  });
  // The first rows of figures belong to one as well, and there is more than one.
  return found.length >= 2 && found[0]!.at === 0 ? [...new Set(found.map(({ text }) => text))] : [];
}

/** The lowest line of a column's name. */
function headOf(name: string): string {
  return name.replace(/ \(\d+\)$/, "").trim();
}

/** What the texts of a column say of times: whole months, or parts of them; `undefined` where they say none. */
function timesIn(texts: readonly string[], name: string): { says: "whole" | "quarter" | PartRole } | undefined {
  if (texts.length === 0) return undefined;
  const most = (test: (text: string) => boolean) => texts.filter(test).length >= texts.length * 0.85;
  if (most((text) => /^\d{1,3}$/.test(text) && Number(text) >= 1 && Number(text) <= 12)) {
    if (MONTH_NAME.test(name)) return { says: "month" };
    if (ORDINAL_NAME.test(name)) return { says: "period" };
    return undefined;
  }
  const parts = new Map(texts.map((text) => [text, readPeriodParts(text)]));
  const says = (test: (parts: PeriodParts) => boolean) =>
    most((text) => {
      const { parts: own, rest } = parts.get(text)!;
      return rest === "" && test(own);
    });
  if (says((own) => saysMonth(own) && own.year !== undefined)) return { says: "whole" };
  if (says((own) => own.quarter !== undefined && own.year !== undefined)) return { says: "quarter" };
  if (says((own) => own.ordinal !== undefined && own.year === undefined)) return { says: "period" };
  if (says((own) => own.month !== undefined && own.year === undefined)) return { says: "month" };
  if (says((own) => own.year !== undefined && !saysMonth(own)) && (YEAR_NAME.test(name) || texts.length <= 20))
    return { says: "year" };
  return undefined;
}

function partsIn(text: string, is: "month" | "period"): PeriodParts | undefined {
  if (/^\d{1,3}$/.test(text)) return is === "month" ? { month: Number(text) } : { ordinal: Number(text) };
  const { parts } = readPeriodParts(text);
  return isTimeless(parts) ? undefined : parts;
}

function distinctInOrder(parts: readonly PeriodParts[]): PeriodParts[] {
  const seen = new Set<string>();
  return parts.filter((own) => {
    const key = JSON.stringify(own);
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/**
 * Columns whose texts are written once and hold for the rows below: each text comes once, or once below each text of the
 * columns to its left that are written so too. A column that is merely empty here and there says its texts again and again.
 */
function fillDowns(
  labels: readonly number[],
  columns: readonly string[],
  valuesOf: (place: number) => string[],
): string[] {
  const found: number[] = [];
  for (const place of labels) {
    const values = valuesOf(place);
    const empty = values.filter((text) => text === "").length;
    if (empty === 0 || values[0] === "" || COMMENT_NAME.test(headOf(columns[place]!))) continue;
    if (labels.length < 2 || empty * 3 < values.length) continue;
    // Something to the right tells the rows below one text apart.
    const isTold = labels.some(
      (other) => other > place && valuesOf(other).filter((text) => text === "").length < empty,
    );
    if (isTold && comesOnce(values, found.map(valuesOf))) found.push(place);
  }
  return found.map((place) => columns[place]!);
}

function comesOnce(values: readonly string[], above: readonly (readonly string[])[]): boolean {
  let seen = new Set<string>();
  return values.every((text, row) => {
    if (above.some((own) => own[row] !== "")) seen = new Set();
    if (text === "") return true;
    const isNew = !seen.has(text);
    seen.add(text);
    return isNew;
  });
}

/** Whether the texts of a column name scenarios, by their words or by codes under a heading that says so. */
function areScenarios(texts: readonly string[], name: string): boolean {
  if (texts.length === 0 || texts.length > 12) return false;
  const labels = texts.map(readLabel);
  if (labels.every(({ scenario, rest }) => scenario !== null && rest.length <= 6)) return true;
  return SCENARIO_NAME.test(name) && texts.every((text) => SCENARIO_CODES[text.toUpperCase()] !== undefined);
}

/** What versions are called by a letter. */
export const SCENARIO_CODES: Readonly<Record<string, "actual" | "budget" | "forecast" | "target">> = {
  A: "actual",
  I: "actual",
  B: "budget",
  P: "budget",
  F: "forecast",
  T: "target",
};

/** Whether a column of whole numbers names members: few that come again, under a heading that is not of lines or documents. */
function areCodesOfMembers(values: readonly string[], name: string): boolean {
  const filled = values.filter((text) => text !== "");
  const distinct = new Set(filled).size;
  if (filled.length === 0 || !filled.every((text) => /^\d{1,12}$/.test(text)) || LINE_NAME.test(name)) return false;
  return distinct * 2 <= filled.length || distinct <= 12;
}

const LINE_NAME =
  /^(?:no|nr|#|line|zeile|pos|row|(?:doc|document|beleg|invoice|voucher|journal)[\s.-]?(?:no|nr|number|nummer|num|id)?\.?)$/i;

/** The column whose texts say what is measured: by its heading, or by what they are called. */
function accountPlace(
  places: readonly number[],
  { columns, distinctOf }: { columns: readonly string[]; distinctOf: (place: number) => string[] },
): number | undefined {
  const byName = places.find((place) => {
    const name = headOf(columns[place]!);
    return (
      (MEASURE_NAME.test(name) || ACCOUNT_NAME.test(name) || ACCOUNT_NUMBER.test(name)) && distinctOf(place).length > 0
    );
  });
  if (byName !== undefined) return byName;
  return places.find((place) => {
    const texts = distinctOf(place);
    return texts.length >= 2 && texts.filter((text) => natureOfName(text) !== undefined).length * 3 >= texts.length * 2;
  });
}
