import type { FiscalCalendar } from "#core/calendar/fiscal-calendar.ts";
import { fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import { yearOf, type Month } from "#core/calendar/month.ts";
import {
  nameOf,
  NUMBERED,
  PARTED_PERIODS,
  WHOLE_PERIODS,
  QUARTERS,
  type PartedPeriod,
  type Quarter,
  type WholePeriod,
} from "./period-styles.ts";
import { Random } from "./random.ts";
import {
  drawTruth,
  type Language,
  type Measure,
  type ScenarioKind,
  type TableTruth,
  type TrueDimension,
  type TrueFact,
} from "./table-truth.ts";

/** A cell before numbers are written: a text, or an amount in hundredths. */
export type Cell = string | { readonly hundredths: number; readonly decimals: number; readonly isMoney: boolean };

/** Where an axis of the table is said. */
type Place = "row" | "head" | "title";

export type PeriodStyle =
  | { readonly kind: "whole"; readonly style: WholePeriod }
  | { readonly kind: "parted"; readonly style: PartedPeriod }
  | { readonly kind: "quarter"; readonly style: Quarter }
  /** Bare months, and their year in the title. */
  | { readonly kind: "bare" };

/** A table laid out, with what has to come of it. */
export interface ComposedTable {
  /** What was combined, in a few words: files of one combination are of one kind. */
  readonly combination: string;
  readonly language: Language;
  readonly calendar: FiscalCalendar;
  readonly title: readonly string[];
  readonly fileTitle: string;
  /** Whether the year that the title says is a fiscal one. */
  readonly isFiscalTitle: boolean;
  readonly rows: readonly (readonly Cell[])[];
  readonly headRows: number;
  readonly truth: TableTruth;
  readonly facts: readonly TrueFact[];
  /** Digits behind the mark of money, and what one unit of it stands for. */
  readonly moneyDecimals: number;
  readonly scale: 1 | 1000;
}

const WORDS = {
  en: {
    period: ["Month", "Period", "Posting month"],
    ordinal: "Period",
    year: ["Year", "Fiscal year"],
    scenario: ["Scenario", "Version", "Type"],
    measure: ["Account", "Line item", "Measure"],
    amount: ["Amount", "Value"],
    total: ["Total", "Grand total", "Sum"],
    of: ["Total", "before"],
    variance: ["Variance", "Var", "Δ"],
    result: "Gross profit",
    margin: "Gross margin %",
    accountNo: "Account no",
    prior: ["PY", "Prior year"],
    price: "Average price",
    scenarios: {
      actual: ["Actual", "Actuals", "Act"],
      budget: ["Budget", "Bud", "Plan"],
      forecast: ["Forecast", "Fcst", "FC"],
      target: ["Target"],
    },
  },
  de: {
    period: ["Monat", "Periode"],
    ordinal: "Periode",
    year: ["Jahr", "Geschäftsjahr"],
    scenario: ["Szenario", "Version", "Wertart"],
    measure: ["Konto", "Position", "Kennzahl"],
    amount: ["Betrag", "Wert"],
    total: ["Summe", "Gesamt", "Gesamtsumme"],
    of: ["Summe", "before"],
    variance: ["Abweichung", "Abw."],
    result: "Rohertrag",
    margin: "Marge %",
    accountNo: "Kontonummer",
    prior: ["Vorjahr", "VJ"],
    price: "Durchschnittspreis",
    scenarios: {
      actual: ["Ist"],
      budget: ["Plan", "Budget"],
      forecast: ["Forecast", "Hochrechnung"],
      target: ["Ziel"],
    },
  },
  fr: {
    period: ["Mois", "Période"],
    ordinal: "Période",
    year: ["Année", "Exercice"],
    scenario: ["Scénario", "Version"],
    measure: ["Compte", "Poste"],
    amount: ["Montant"],
    total: ["Total", "Total général"],
    of: ["Total", "before"],
    variance: ["Écart"],
    result: "Marge brute",
    margin: "Marge %",
    accountNo: "N° compte",
    prior: ["N-1"],
    price: "Prix moyen",
    scenarios: { actual: ["Réel"], budget: ["Budget"], forecast: ["Prévision"], target: ["Objectif"] },
  },
} as const;

interface Axis {
  readonly kind: "period" | "scenario" | "measure" | "dimension";
  /** Of dimensions: which. */
  readonly at: number;
  readonly place: Place;
  readonly size: number;
}

const MOST_HEADS = 40;

/** Draws a table and lays it out. */
export function composeTable(seed: number): ComposedTable {
  const random = new Random(seed);
  const language = random.pick<Language>(["en", "en", "de", "fr"]);
  const words = WORDS[language];
  const calendar: FiscalCalendar = { startMonth: random.pick([1, 1, 4, 7]) };
  const truth = drawTruth(random, language);
  const axes = drawPlaces(random, truth);
  const of = (place: Place) => axes.filter((axis) => axis.place === place);
  const heads = random.shuffled(of("head"));
  const rowAxes = random.shuffled(of("row"));
  const periodPlace = axes.find(({ kind }) => kind === "period")!.place;
  const period = drawPeriod(random, { truth, calendar, place: periodPlace });
  const codes = random.chance(0.25) && axes.some(({ kind, place }) => kind === "scenario" && place === "row");
  const scenarioWords = Object.fromEntries(
    (Object.keys(words.scenarios) as ScenarioKind[]).map((kind) => [
      kind,
      codes ? kind[0]!.toUpperCase() : random.pick<string>(words.scenarios[kind]),
    ]),
  ) as Record<ScenarioKind, string>;
  const moneyDecimals = random.pick([0, 2, 2, 1]);
  const scale = random.chance(0.2) ? 1000 : 1;
  const quantum = (measure: Measure) =>
    measure.decimals === null ? (100 * scale) / 10 ** moneyDecimals : 100 / 10 ** measure.decimals;
  const facts: TrueFact[] = [];
  const gaps = random.chance(0.3);
  const taken = new Map<string, Cell>();

  /** The figure of a point on all axes, noted once. */
  const figure = (point: Point): Cell => {
    const measure = truth.measures[point.measure]!;
    const key = JSON.stringify(point);
    const known = taken.get(key);
    if (known !== undefined) return known;
    const scenario = truth.scenarios[point.scenario]!;
    const month = truth.months[point.period]!;
    const drawn = truth.amountOf(point.measure, scenario, month, point.members);
    const own = quantum(measure);
    const amount = Math.round(drawn / own) * own;
    const isMissing = gaps && random.chance(0.05);
    const cell: Cell = isMissing
      ? ""
      : {
          hundredths: amount,
          decimals: measure.decimals ?? moneyDecimals,
          isMoney: measure.decimals === null,
        };
    if (!isMissing) facts.push({ measure: point.measure, scenario, month, members: point.members, amount });
    taken.set(key, cell);
    return cell;
  };

  const flows = truth.measures.every(({ nature }) => !nature.endsWith("balance"));
  const rowPoints = product(rowAxes);
  const columns = headColumns(random, { heads, truth, words, flows, rowAxes });
  const periodTexts = (at: number): readonly string[] => {
    const month = truth.months[at]!;
    if (period.kind === "whole") return [WHOLE_PERIODS[period.style](month, language, calendar)];
    if (period.kind === "quarter") return [QUARTERS[period.style](month, language, calendar)];
    if (period.kind === "parted") return PARTED_PERIODS[period.style](month, language, calendar);
    return [random0(nameOf(language, month), period.isShort && language !== "fr")];
  };
  const textsOf = (axis: Axis, at: number): readonly string[] => {
    if (axis.kind === "period") return periodTexts(at);
    if (axis.kind === "scenario") return [scenarioWords[truth.scenarios[at]!]];
    if (axis.kind === "measure") return [truth.measures[at]!.name];
    return [truth.dimensions[axis.at]!.members[at]!];
  };
  const width = (axis: Axis) => (axis.kind === "period" && period.kind === "parted" ? 2 : 1);
  const names = rowAxes.flatMap((axis): string[] => {
    if (axis.kind === "period")
      return period.kind === "parted"
        ? [
            words.year[/FY|\//.test(period.style) ? random.whole(0, 1) : 0]!,
            period.style === "2024/25 | 7" ? words.ordinal : words.period[0],
          ]
        : [random.pick<string>(words.period)];
    if (axis.kind === "scenario") return [random.pick<string>(words.scenario)];
    if (axis.kind === "measure") return [random.pick<string>(words.measure)];
    return [truth.dimensions[axis.at]!.name];
  });

  // What stands above the columns of figures, level by level.
  const levels = heads.reduce((sum, axis) => sum + width(axis), 0);
  const amountName = axesName(axes, truth) ?? random.pick<string>(words.amount);
  const headTexts: string[][] = Array.from({ length: Math.max(1, levels) }, () => []);
  columns.forEach((column) => {
    const texts = heads.flatMap((axis, i) => {
      const at = column.at[i];
      return at === undefined ? Array<string>(width(axis)).fill("") : [...textsOf(axis, at)];
    });
    if (levels === 0) texts.push(amountName);
    if (column.derived !== null) texts[texts.length - 1] = column.derived.name;
    texts.forEach((text, level) => headTexts[level]!.push(text));
  });
  // Of what is repeated over neighbouring columns only the first is written, as where cells are merged.
  const isMerged = random.chance(0.75);
  if (isMerged)
    for (let level = levels - 2; level >= 0; level -= 1) {
      const all = headTexts.slice(0, level + 1).map((own) => [...own]);
      headTexts[level] = headTexts[level]!.map((text, i) =>
        i > 0 && all.every((own) => own[i] === own[i - 1]) ? "" : text,
      );
    }
  const noise = drawNoise(random, { rowAxes, language });
  const headOfRows = () => {
    const own = isSectioned ? names.slice(1) : names;
    return coded ? [...own.slice(0, -1), words.accountNo, own.at(-1)!] : own;
  };
  const header = () =>
    headTexts.map((texts, level) => [
      ...(level === headTexts.length - 1 ? headOfRows() : headOfRows().map(() => "")),
      ...noise.before.map(({ name }) => (level === headTexts.length - 1 ? name : "")),
      ...texts,
      ...noise.after.map(({ name }) => (level === headTexts.length - 1 ? name : "")),
    ]);

  const body: Cell[][] = [];
  const isGrouped = rowAxes.length > 1 && random.chance(0.35);
  const mayTotal = columns.length > 0 && !rowAxes.some(({ kind }) => kind === "measure" || kind === "scenario");
  const sumsRows = mayTotal && (flows || !rowAxes.some(({ kind }) => kind === "period"));
  const hasTotal = sumsRows && rowPoints.length > 1 && random.chance(0.35);
  const hasSubtotals = sumsRows && rowAxes.length > 1 && rowAxes[0]!.size > 1 && random.chance(0.3);
  // The first text of the rows stands alone above those it holds for.
  const isSectioned =
    !isGrouped &&
    !hasSubtotals &&
    rowAxes.length > 1 &&
    (rowAxes[0]!.kind === "dimension" || rowAxes[0]!.kind === "measure") &&
    rowAxes[0]!.size > 1 &&
    random.chance(0.3);
  const coded = rowAxes.at(-1)?.kind === "measure" && !isSectioned && random.chance(0.3);
  const accountNo = (at: number) => String(4000 + at * 110);
  const results = rowAxes.at(-1)?.kind === "measure" && rowAxes.length > 1 && !coded && random.chance(0.35);
  const [earned, spent] = [
    truth.measures.findIndex(({ nature }) => nature === "income"),
    truth.measures.findIndex(({ nature }) => nature === "expense"),
  ];
  const hasResults = results && earned >= 0 && spent >= 0;
  let before: readonly string[] = [];
  let group: Cell[][] = [];
  const closeGroup = (name: string) => {
    if (!hasSubtotals || group.length === 0) return;
    const sums = sumOfRows(group, names.length + noise.before.length, columns.length);
    body.push([
      `${words.of[0]} ${name}`,
      ...names.slice(1).map(() => ""),
      ...noise.before.map(() => ""),
      ...sums,
      ...noise.after.map(() => ""),
    ]);
  };
  const allRows: Cell[][] = [];
  rowPoints.forEach((at, i) => {
    const texts = rowAxes.flatMap((axis, k) => textsOf(axis, at[k]!));
    const point = (column: ColumnPoint) => pointOf({ axes, heads, rowAxes }, column.at, at, truth);
    const figures = columns.map((column) =>
      column.derived === null ? figure(point(column)) : column.derived.of((other) => figure(point(other))),
    );
    if (figures.every((cell) => cell === "")) return;
    if (before.length > 0 && before[0] !== texts[0]) {
      closeGroup(before[0]!);
      group = [];
    }
    const isRepeated = isGrouped && before[0] === texts[0] && group.length > 0;
    if (isSectioned && before[0] !== texts[0]) body.push([texts[0]!]);
    const shown = isSectioned ? texts.slice(1) : isRepeated ? ["", ...texts.slice(1)] : texts;
    const row: Cell[] = [
      ...(coded ? [...shown.slice(0, -1), accountNo(at.at(-1)!), shown.at(-1)!] : shown),
      ...noise.before.map(({ of }) => of(i)),
      ...figures,
      ...noise.after.map(({ of }) => of(i)),
    ];
    body.push(row);
    group.push(row);
    allRows.push(row);
    before = texts;
    // Below the accounts of a group, what they come to.
    if (hasResults && at.at(-1) === truth.measures.length - 1) {
      const ofMeasure = (measure: number) =>
        columns.map((column) => {
          const own = [...at.slice(0, -1), measure];
          const pointAt = (other: ColumnPoint) => pointOf({ axes, heads, rowAxes }, other.at, own, truth);
          return column.derived === null ? figure(pointAt(column)) : "";
        });
      const [income, costs] = [ofMeasure(earned), ofMeasure(spent)];
      const lead = isSectioned ? texts.slice(1, -1) : isGrouped ? ["", ...texts.slice(1, -1)] : texts.slice(0, -1);
      const pad = noise.before.map(() => "");
      body.push([
        ...lead,
        words.result,
        ...pad,
        ...income.map((cell, k) => {
          const other = costs[k]!;
          if (typeof cell === "string" || typeof other === "string") return "";
          return { ...cell, hundredths: cell.hundredths - other.hundredths };
        }),
        ...noise.after.map(() => ""),
      ]);
      body.push([
        ...lead,
        words.margin,
        ...pad,
        ...income.map((cell, k) => {
          const other = costs[k]!;
          if (typeof cell === "string" || typeof other === "string" || cell.hundredths === 0) return "";
          return `${(((cell.hundredths - other.hundredths) / cell.hundredths) * 100).toFixed(1)}%`;
        }),
        ...noise.after.map(() => ""),
      ]);
    }
  });
  if (before.length > 0) closeGroup(before[0]!);
  if (hasTotal)
    body.push([
      random.pick<string>(words.total),
      ...headOfRows()
        .slice(1)
        .map(() => ""),
      ...noise.before.map(() => ""),
      ...sumOfRows(allRows, headOfRows().length + noise.before.length, columns.length),
      ...noise.after.map(() => ""),
    ]);

  const title = drawTitle(random, { axes, truth, period, calendar, language, scenarioWords, scale, names: amountName });
  const describe = (list: readonly Axis[]) => list.map(({ kind }) => kind[0]).join("");
  return {
    combination: [
      `${describe(rowAxes)}/${describe(heads)}/${describe(of("title"))}`,
      period.kind === "bare" ? "bare" : period.style,
      codes ? "codes" : "",
      hasTotal ? "total" : "",
      hasSubtotals ? "subtotals" : "",
      isGrouped ? "grouped" : "",
      isSectioned ? "sections" : "",
      coded ? "coded" : "",
      hasResults ? "results" : "",
      columns.some(({ derived }) => derived !== null) ? "derived" : "",
      scale > 1 ? "scaled" : "",
    ]
      .filter((part) => part !== "")
      .join(" "),
    language,
    calendar,
    title: title.lines,
    fileTitle: title.file,
    isFiscalTitle: title.isFiscal,
    rows: [...header(), ...body],
    headRows: headTexts.length,
    truth,
    facts,
    moneyDecimals,
    scale,
  };
}

interface Point {
  readonly measure: number;
  readonly scenario: number;
  readonly period: number;
  readonly members: readonly number[];
}

interface ColumnPoint {
  /** By axis at the head, its place. */
  readonly at: readonly (number | undefined)[];
  readonly derived: {
    readonly name: string;
    readonly of: (figure: (column: ColumnPoint) => Cell) => Cell;
  } | null;
}

function pointOf(
  { axes, heads, rowAxes }: { axes: readonly Axis[]; heads: readonly Axis[]; rowAxes: readonly Axis[] },
  column: readonly (number | undefined)[],
  row: readonly number[],
  truth: TableTruth,
): Point {
  const placeOf = (axis: Axis) => {
    const head = heads.indexOf(axis);
    if (head >= 0) return column[head]!;
    const own = rowAxes.indexOf(axis);
    return own >= 0 ? row[own]! : 0;
  };
  const find = (kind: Axis["kind"]) => axes.find((axis) => axis.kind === kind)!;
  return {
    measure: placeOf(find("measure")),
    scenario: placeOf(find("scenario")),
    period: placeOf(find("period")),
    members: truth.dimensions.map((_, i) => placeOf(axes.find((axis) => axis.kind === "dimension" && axis.at === i)!)),
  };
}

function drawPlaces(random: Random, truth: TableTruth): Axis[] {
  for (;;) {
    const axes: Axis[] = [
      {
        kind: "period",
        at: 0,
        size: truth.months.length,
        place: truth.months.length === 1 ? random.pick<Place>(["title", "row"]) : random.pick<Place>(["row", "head"]),
      },
      {
        kind: "scenario",
        at: 0,
        size: truth.scenarios.length,
        place:
          truth.scenarios.length === 1
            ? random.pick<Place>(["title", "title", "row"])
            : random.pick<Place>(["row", "head"]),
      },
      {
        kind: "measure",
        at: 0,
        size: truth.measures.length,
        place:
          truth.measures.length === 1
            ? random.pick<Place>(["title", "head", "row"])
            : random.pick<Place>(["row", "head"]),
      },
      ...truth.dimensions.map(({ members }, at): Axis => ({
        kind: "dimension",
        at,
        size: members.length,
        place: random.chance(0.15) ? "head" : "row",
      })),
    ];
    const heads = axes.filter(({ place }) => place === "head");
    const isWide = heads.reduce((all, { size }) => all * size, 1) > MOST_HEADS;
    const rows = axes.filter(({ place }) => place === "row");
    // Members alone above the columns could as well be accounts: nothing would tell.
    const onlyMembers = heads.length > 0 && heads.every(({ kind }) => kind === "dimension");
    if (rows.length > 0 && !isWide && heads.length <= 3 && !onlyMembers) return axes;
  }
}

function drawPeriod(
  random: Random,
  { truth, calendar, place }: { truth: TableTruth; calendar: FiscalCalendar; place: Place },
): PeriodStyle & { readonly isShort: boolean } {
  const { months } = truth;
  const isShort = random.chance(0.5);
  const isOneYear =
    new Set(months.map(yearOf)).size === 1 || new Set(months.map((month) => fiscalYearOf(calendar, month))).size === 1;
  const whole = Object.keys(WHOLE_PERIODS) as WholePeriod[];
  if (truth.isByQuarter) return { kind: "quarter", style: random.pick(Object.keys(QUARTERS) as Quarter[]), isShort };
  if (place === "title")
    return { kind: "whole", style: random.pick(["Jan 2025", "January 2025", "2025-01"] as const), isShort };
  const drawn = random.number();
  if (drawn < 0.15 && isOneYear && months.length > 2) return { kind: "bare", isShort };
  if (drawn < 0.4) {
    const parted = (Object.keys(PARTED_PERIODS) as PartedPeriod[]).filter(
      (style) => place === "row" || !NUMBERED.includes(style),
    );
    return { kind: "parted", style: random.pick(parted), isShort };
  }
  return { kind: "whole", style: random.pick(whole), isShort };
}

const random0 = (name: string, isShort: boolean) => (isShort && /^[\x20-\x7e]+$/.test(name) ? name.slice(0, 3) : name);

/** Columns of figures, with those that follow from others. */
function headColumns(
  random: Random,
  {
    heads,
    truth,
    words,
    flows,
  }: {
    heads: readonly Axis[];
    truth: TableTruth;
    words: (typeof WORDS)[Language];
    flows: boolean;
    rowAxes: readonly Axis[];
  },
): ColumnPoint[] {
  const points = product(heads);
  const inner = heads.at(-1);
  const columns: ColumnPoint[] = [];
  const isDerived = random.chance(0.4);
  const variance = random.pick<string>(words.variance);
  const total = random.pick<string>(words.total);
  const hasPercent = random.chance(0.5);
  const hasPrior = random.chance(0.3) && truth.scenarios[0] === "actual";
  const prior = random.pick<string>(words.prior);
  const plus = (cells: readonly Cell[], signs: readonly number[]): Cell => {
    const known = cells.filter((cell) => typeof cell !== "string");
    if (known.length < cells.length && signs.some((sign) => sign < 0)) return "";
    if (known.length === 0) return "";
    return {
      ...known[0]!,
      hundredths: cells.reduce((sum, cell, i) => sum + (typeof cell === "string" ? 0 : cell.hundredths * signs[i]!), 0),
    };
  };
  points.forEach((at, i) => {
    columns.push({ at, derived: null });
    const next = points[i + 1];
    const closes = inner !== undefined && (next === undefined || next.slice(0, -1).join() !== at.slice(0, -1).join());
    if (!isDerived || !closes) return;
    const beside = points.filter((other) => other.slice(0, -1).join() === at.slice(0, -1).join());
    const point = (place: number): ColumnPoint => ({ at: [...at.slice(0, -1), place], derived: null });
    const placed = [...at.slice(0, -1), at.at(-1)];
    if (inner.kind === "scenario" && truth.scenarios.length >= 2) {
      columns.push({
        at: placed,
        derived: { name: variance, of: (figure) => plus([figure(point(0)), figure(point(1))], [1, -1]) },
      });
      if (hasPrior)
        columns.push({
          at: placed,
          derived: {
            name: prior,
            of: (figure) => {
              const own = figure(point(0));
              return typeof own === "string"
                ? ""
                : { ...own, hundredths: Math.round((own.hundredths * 9) / 1000) * 100 };
            },
          },
        });
      if (hasPercent)
        columns.push({
          at: placed,
          derived: {
            name: `${variance} %`,
            of: (figure) => {
              const [a, b] = [figure(point(0)), figure(point(1))];
              if (typeof a === "string" || typeof b === "string" || b.hundredths === 0) return "";
              return `${(((a.hundredths - b.hundredths) / Math.abs(b.hundredths)) * 100).toFixed(1)}%`;
            },
          },
        });
    } else if (inner.kind === "period" && beside.length >= 3 && flows)
      columns.push({
        at: placed,
        derived: {
          name: total,
          of: (figure) =>
            plus(
              beside.map((other) => figure({ at: other, derived: null })),
              beside.map(() => 1),
            ),
        },
      });
    else if (inner.kind === "measure") {
      const [earned, sold] = [
        truth.measures.findIndex(({ nature }) => nature === "income"),
        truth.measures.findIndex(({ nature }) => nature === "count"),
      ];
      if (earned < 0 || sold < 0) return;
      columns.push({
        at: placed,
        derived: {
          name: words.price,
          of: (figure) => {
            const [amount, count] = [figure(point(earned)), figure(point(sold))];
            if (typeof amount === "string" || typeof count === "string" || count.hundredths === 0) return "";
            return { ...amount, hundredths: Math.round((amount.hundredths / count.hundredths) * 100), decimals: 2 };
          },
        },
      });
    } else if (inner.kind === "dimension")
      columns.push({
        at: placed,
        derived: {
          name: total,
          of: (figure) =>
            plus(
              beside.map((other) => figure({ at: other, derived: null })),
              beside.map(() => 1),
            ),
        },
      });
  });
  return columns;
}

function sumOfRows(rows: readonly (readonly Cell[])[], from: number, count: number): Cell[] {
  return Array.from({ length: count }, (_, i) => {
    const cells = rows.map((row) => row[from + i]!).filter((cell) => typeof cell !== "string");
    if (cells.length === 0) return "";
    return { ...cells[0]!, hundredths: cells.reduce((sum, { hundredths }) => sum + hundredths, 0) };
  });
}

interface NoiseColumn {
  readonly name: string;
  readonly of: (row: number) => string;
}

function drawNoise(
  random: Random,
  { language }: { rowAxes: readonly Axis[]; language: Language },
): { before: readonly NoiseColumn[]; after: readonly NoiseColumn[] } {
  const first = random.whole(1000, 7000);
  const ids: NoiseColumn = {
    name: random.pick(language === "de" ? ["Beleg-Nr.", "Belegnummer"] : ["Doc no", "Reference", "ID"]),
    of: (row) => `${random1(first)}-${first + row}`,
  };
  const numbers: NoiseColumn = { name: random.pick(["No", "Line", "#"]), of: (row) => `${row + 1}` };
  const remarks: NoiseColumn = {
    name: random.pick(language === "de" ? ["Bemerkung"] : language === "fr" ? ["Commentaire"] : ["Comment", "Note"]),
    of: (row) => (row % 4 === 1 ? "see note 3" : ""),
  };
  return {
    before: random.chance(0.15) ? [ids] : random.chance(0.1) ? [numbers] : [],
    after: random.chance(0.15) ? [remarks] : [],
  };
}

const random1 = (seed: number) => ["OPP", "INV", "RE", "DOC"][seed % 4]!;

/** What the column of figures is called where only one thing is measured and its name stands nowhere else. */
function axesName(axes: readonly Axis[], truth: TableTruth): string | undefined {
  const measure = axes.find(({ kind }) => kind === "measure")!;
  return measure.place === "head" ? truth.measures[0]!.name : undefined;
}

function drawTitle(
  random: Random,
  {
    axes,
    truth,
    period,
    calendar,
    language,
    scenarioWords,
    scale,
  }: {
    axes: readonly Axis[];
    truth: TableTruth;
    period: PeriodStyle;
    calendar: FiscalCalendar;
    language: Language;
    scenarioWords: Record<ScenarioKind, string>;
    scale: number;
    names: string;
  },
): { lines: readonly string[]; file: string; isFiscal: boolean } {
  const inTitle = (kind: Axis["kind"]) => axes.some((axis) => axis.kind === kind && axis.place === "title");
  const said: string[] = [];
  let isFiscalYear = false;
  if (inTitle("measure")) said.push(truth.measures[0]!.name);
  if (inTitle("scenario") && (truth.scenarios[0] !== "actual" || random.chance(0.5)))
    said.push(scenarioWords[truth.scenarios[0]!]);
  if (inTitle("period") && period.kind === "whole")
    said.push(WHOLE_PERIODS[period.style](truth.months[0]!, language, calendar));
  if (period.kind === "bare") {
    const [first] = truth.months;
    const isCalendarYear = new Set(truth.months.map(yearOf)).size === 1;
    const isFiscal =
      calendar.startMonth > 1 && (!isCalendarYear || random.chance(0.5)) && isOneFiscalYear(truth.months, calendar);
    said.push(isFiscal ? `FY${String(fiscalYearOf(calendar, first!) % 100).padStart(2, "0")}` : `${yearOf(first!)}`);
  }
  const unit =
    scale > 1
      ? random.pick(
          language === "de"
            ? ["in TEUR", "in Tsd. EUR"]
            : language === "fr"
              ? ["en k€"]
              : ["in € thousand", "in EUR thousand"],
        )
      : "";
  // In the sheet, or in the file's name where there is no unit to say.
  const isInName = scale === 1 && random.chance(0.35);
  const lines = isInName ? [] : [...(said.length > 0 ? [said.join(" ")] : []), ...(unit === "" ? [] : [unit])];
  const company = random.chance(0.3) ? ["Alderbrook Furniture Ltd"] : [];
  const printed = random.chance(0.15) ? ["Printed by controlling"] : [];
  const all = [...company, ...lines, ...printed];
  return {
    isFiscal: isFiscalYear,
    lines: all.length > 0 && random.chance(0.5) ? [...all, ""] : all,
    file:
      isInName && said.length > 0 ? said.join(" ").replace(/[/:]/g, "-") : random.pick(["export", "report", "figures"]),
  };
}

function isOneFiscalYear(months: readonly Month[], calendar: FiscalCalendar): boolean {
  return new Set(months.map((month) => fiscalYearOf(calendar, month))).size === 1;
}

function product(axes: readonly Axis[]): number[][] {
  return axes.reduce<number[][]>(
    (all, axis) => all.flatMap((at) => Array.from({ length: axis.size }, (_, i) => [...at, i])),
    [[]],
  );
}

export type { TableTruth, TrueDimension };
