import { isTimeless, readPeriodParts, saysMonth } from "./period-parts.ts";
import { readNumber } from "../read-number.ts";
import { readLabel } from "./label.ts";

/** A sheet's first rows, each with the line it stands on. */
export type Grid = readonly { readonly line: number; readonly cells: readonly string[] }[];

/** Where the parts of a table stand, as places in the grid. */
export interface TableBody {
  /** Rows of the header from the top down; none where the figures begin at once. */
  readonly header: readonly number[];
  /** The first row of figures, or of what groups them. */
  readonly from: number;
  /** Columns of figures, and those of words, codes and times beside them. */
  readonly figures: readonly number[];
  readonly labels: readonly number[];
  /** Texts above the header, and below the last row of figures. */
  readonly above: readonly string[];
  readonly below: readonly string[];
}

const MOST_HEADERS = 6;
/** Rows of figures that are compared with the first of them. */
const ROWS_COMPARED = 20;

const known = new Map<string, "empty" | "figure" | "time" | "text">();

/** What a cell looks like on its own: a year or a month in digits is a time before it is a figure. */
export function cellNature(text: string): "empty" | "figure" | "time" | "text" {
  const found = known.get(text);
  if (found) return found;
  const nature = natureOf(text.trim());
  if (known.size < 50_000) known.set(text, nature);
  return nature;
}

function natureOf(text: string): "empty" | "figure" | "time" | "text" {
  if (text === "") return "empty";
  const isNumber = readNumber(text, ".") !== undefined || readNumber(text, ",") !== undefined;
  if (!isNumber) {
    if (!/\d/.test(text) && text.length > 12) return "text";
    const label = readLabel(text);
    return !isTimeless(label.period) && label.rest === "" && label.scenario === null ? "time" : "text";
  }
  // "2025", "202501" and "01.2025", but not "1,204" or "12.5".
  const { parts, rest } = readPeriodParts(text);
  return rest === "" && !isTimeless(parts) && (parts.year !== undefined || saysMonth(parts)) ? "time" : "figure";
}

/** Where a person says that the header stands: its first line, and how many it has. */
export interface SaidHeader {
  readonly line: number;
  readonly rows: number;
}

/**
 * Finds the table in a grid: its header, its figures and what stands beside them. `undefined` where there are no figures,
 * or none below the header that is said.
 */
export function findBody(grid: Grid, said?: SaidHeader): TableBody | undefined {
  const natures = grid.map(({ cells }) => cells.map(cellNature));
  const width = Math.max(0, ...natures.map((row) => row.length));
  const figuresOf = (row: number) => natures[row]!.flatMap((nature, i) => (nature === "figure" ? [i] : []));
  const filledOf = (row: number) => natures[row]!.flatMap((nature, i) => (nature === "empty" ? [] : [i]));
  const isData = natures.map((_, row) => figuresOf(row).length > 0 && filledOf(row).length > 1);
  // Codes of members above the names of the columns are no figures.
  isData.forEach((is, row) => {
    if (is && isData[row + 1] === false && areCodesAbove(grid, row, filledOf)) isData[row] = false;
  });
  const place = said ? saidPlace(grid, said) : undefined;
  const found = place
    ? isData.findIndex((is, row) => is && row > place.at(-1)!)
    : isData.findIndex((is, row) => is && startsBody(row, { isData, figuresOf, filledOf }));
  if (found < 0) return undefined;
  const isCodes = !place && areCodesAsHeads(grid, natures, found);
  if (isCodes) isData[found] = false;
  const first = isCodes ? found + 1 : found;
  const data = isData.flatMap((is, row) => (is && row >= first ? [row] : []));
  const header =
    place ??
    headerAbove(first, {
      codes: isCodes ? found : null,
      grid,
      natures,
      filledOf,
      usual: usualFigures(data, figuresOf),
    });
  const last = data.at(-1)!;
  const rows = natures.slice(first, last + 1);
  const count = (place: number, nature: string) => rows.filter((row) => row[place] === nature).length;
  const named = (place: number) =>
    header.map((row) => (grid[row]!.cells[place] ?? "").trim()).filter((text) => text !== "");
  const figures: number[] = [];
  const labels: number[] = [];
  for (let place = 0; place < width; place += 1) {
    const [figure, text, time] = [count(place, "figure"), count(place, "text"), count(place, "time")];
    if (figure + text + time === 0 && named(place).length === 0) continue;
    if (
      isLabelByName(
        named(place).at(-1) ?? "",
        rows.map((_, i) => (grid[first + i]!.cells[place] ?? "").trim()),
        time,
      )
    )
      labels.push(place);
    else if (figure > text || (figure + time > 0 && isHeadOfFigures(named(place).at(-1) ?? ""))) figures.push(place);
    else if (figure === 0 && text + time === 0 && labels.length > 0) figures.push(place);
    else labels.push(place);
  }
  // Headers end where the columns of figures have their last name.
  const top = header[0] ?? first;
  const texts = (from: number, to: number) =>
    grid.slice(from, to).flatMap(({ cells }) => cells.map((cell) => cell.trim()).filter((cell) => cell !== ""));
  return {
    header,
    from: (header.at(-1) ?? first - 1) + 1,
    figures,
    labels,
    above: texts(0, top),
    below: texts(last + 1, grid.length),
  };
}

/** Whether a heading says a time or a scenario: what stands below is figures, even where some cannot be read. */
function isHeadOfFigures(name: string): boolean {
  const { period, scenario } = readLabel(name);
  return !isTimeless(period) || scenario !== null;
}

/** Names of columns whose numbers name something: a year, a month, a document, a line. */
const NUMBERED_LABEL =
  /^(?:(?:fiscal |financial )?year|jahr|geschäftsjahr|année|exercice|months?|monat|mois|period(?:e|s)?|période|posting (?:month|period)|week|kw|no|nr|#|line|zeile|pos|id|(?:doc|document|beleg|invoice|order|journal|voucher|account|konto|customer|cost cent(?:er|re)|kostenstelle|item|article|artikel|product|sku|employee|personal)[\s.-]?(?:no|nr|number|nummer|num|id|code|key)?\.?|(?:n°\s?|(?:no|nr|numéro|code|centre)[\s.]+)(?:de |d[’'])?\p{L}+|\p{L}+[\s.-](?:no|nr|number|nummer|n°|id|code|key)\.?|compte|plz|zip|postcode)$/iu;

const YEAR_NAME = /year|jahr|année|exercice|(?<!\p{L})(?:fy|gj|date|datum)(?!\p{L})|period|monat|month/iu;

/** Whether a column of numbers names rows rather than counting something, by its heading and its numbers. */
function isLabelByName(name: string, cells: readonly string[], times: number): boolean {
  const filled = cells.filter((cell) => cell !== "");
  if (filled.length === 0) return false;
  // Rows of totals say so where the others have a number.
  const areWhole = filled.filter((cell) => /^\d{1,12}$/.test(cell)).length * 5 >= filled.length * 3;
  if (areWhole && NUMBERED_LABEL.test(name.trim())) return true;
  if (times * 2 <= filled.length || isHeadOfFigures(name)) return false;
  // Amounts around 2,000 look like years: years come again, or are called so.
  const areYears = filled.every((cell) => /^\d{4}$/.test(cell));
  return !areYears || YEAR_NAME.test(name) || new Set(filled).size * 2 <= filled.length;
}

/** Whether a row has nothing but whole numbers above the columns of figures, as codes of members above their names. */
function areCodesAbove(grid: Grid, row: number, filledOf: (row: number) => number[]): boolean {
  const filled = filledOf(row);
  const cells = filled.map((place) => (grid[row]!.cells[place] ?? "").trim());
  if (filled.length === 0 || !cells.every((cell) => /^[1-9]\d{0,9}$/.test(cell))) return false;
  // Somewhere below, before the first figures, the columns beside them are named.
  for (let below = row + 1; below < grid.length && below <= row + MOST_HEADERS; below += 1) {
    const own = filledOf(below);
    if (own.some((place) => cellNature(grid[below]!.cells[place] ?? "") === "figure")) return false;
    if (own.length >= filled.length && own[0]! < filled[0]!) return true;
  }
  return false;
}

/**
 * Whether the first row of numbers is of codes above the columns, as of cost centres: whole numbers that rise or come in the
 * same turn again, beside names of columns rather than what stands in them.
 */
function areCodesAsHeads(grid: Grid, natures: readonly (readonly string[])[], row: number): boolean {
  const places = natures[row]!.flatMap((nature, i) => (nature === "figure" ? [i] : []));
  const cells = places.map((place) => (grid[row]!.cells[place] ?? "").trim());
  if (places.length < 2 || !cells.every((cell) => /^[1-9]\d{1,9}$/.test(cell))) return false;
  const turn = new Set(cells).size;
  const comesAgain = turn < cells.length && cells.every((cell, i) => cell === cells[i % turn]);
  const rises = cells.every((cell, i) => i === 0 || Number(cell) > Number(cells[i - 1]));
  const below = natures.slice(row + 1, row + 1 + ROWS_COMPARED);
  const isNamed = natures[row]!.some((nature, i) => {
    if (nature !== "text" || places.includes(i)) return false;
    const others = below.map((own) => own[i]).filter((own) => own !== undefined && own !== "empty");
    return (
      NUMBERED_LABEL.test((grid[row]!.cells[i] ?? "").trim()) ||
      (others.length > 0 && others.every((own) => own !== "text"))
    );
  });
  const isBelowTimes =
    row > 0 && places.some((place) => natures[row - 1]![place] === "time") && natures[row - 1]![0] === "empty";
  return (comesAgain || rises) && (isNamed || isBelowTimes);
}

/** The rows of a header that is said; `undefined` where it has none, or they are not among the first ones. */
function saidPlace(grid: Grid, { line, rows }: SaidHeader): number[] | undefined {
  const at = grid.findIndex((row) => row.line >= line);
  return rows === 0 || at < 0 ? undefined : Array.from({ length: Math.min(rows, grid.length - at) }, (_, i) => at + i);
}

interface Rows {
  readonly isData: readonly boolean[];
  readonly figuresOf: (row: number) => number[];
  readonly filledOf: (row: number) => number[];
}

/** Whether the figures begin on a row: most rows below have figures too, and in the same columns. */
function startsBody(row: number, { isData, figuresOf, filledOf }: Rows): boolean {
  // Texts that stand alone head groups, or are notes.
  const next = isData.map((_, i) => i).filter((i) => i > row && filledOf(i).length > 1);
  const near = next.slice(0, ROWS_COMPARED);
  if (near.length === 0) return true;
  const data = near.filter((i) => isData[i]);
  if (data.length * 2 < near.length) return data.length === 0;
  const usual = usualFigures(data, figuresOf);
  const own = figuresOf(row);
  const shared = own.filter((place) => usual.includes(place)).length;
  // A figure in the title, such as a control total, has the header below it.
  const isAboveHeader =
    !isData[next[0]!] && filledOf(next[0]!).filter((place) => usual.includes(place)).length * 2 >= usual.length;
  return shared * 2 >= own.length && !isAboveHeader;
}

function usualFigures(rows: readonly number[], figuresOf: (row: number) => number[]): number[] {
  const counts = new Map<number, number>();
  for (const row of rows.slice(0, ROWS_COMPARED))
    for (const place of figuresOf(row)) counts.set(place, (counts.get(place) ?? 0) + 1);
  const least = Math.min(rows.length, ROWS_COMPARED) / 2;
  return [...counts].filter(([, count]) => count >= least).map(([place]) => place);
}

/** The rows of the header right above the figures. */
function headerAbove(
  first: number,
  {
    codes,
    grid,
    natures,
    filledOf,
    usual,
  }: {
    /** The row of heads that are numbers. */
    readonly codes: number | null;
    readonly grid: Grid;
    readonly natures: readonly (readonly string[])[];
    readonly filledOf: (row: number) => number[];
    readonly usual: readonly number[];
  },
): number[] {
  const leftmost = Math.min(...usual);
  const isWithin = (row: number) => filledOf(row).some((place) => place >= leftmost);
  let row = first - 1;
  // Headings of groups stand between the header and the first figures, empty rows too.
  while (row >= 0 && !isHeader(row)) {
    const filled = filledOf(row);
    if (filled.length > 1 || filled.some((place) => place > 0 && place >= leftmost)) return [];
    row -= 1;
  }
  // The first rows of the body may have no figures, or amounts that look like years.
  row = aboveTimes(row);
  const header: number[] = [];
  while (row >= 0 && header.length < MOST_HEADERS && (header.length === 0 ? isHeader(row) : isGrouping(row))) {
    header.unshift(row);
    row -= 1;
  }
  return header;

  /** The row above those that have a time where the first row of figures has one, where that is a header. */
  function aboveTimes(from: number): number {
    const place = natures[first]!.findIndex((nature, i) => nature === "time" && i < leftmost);
    let at = from;
    while (place >= 0 && at > 0 && natures[at]![place] === "time") at -= 1;
    return place >= 0 && natures[at]?.[place] === "text" && isHeader(at) ? at : from;
  }
  function isHeader(at: number): boolean {
    const filled = filledOf(at);
    return filled.length >= 2 && isWithin(at) && (at === codes || natures[at]!.every((nature) => nature !== "figure"));
  }
  function isGrouping(at: number): boolean {
    const filled = filledOf(at);
    // A text alone in the first column is a title.
    if (filled.length === 0 || !isWithin(at) || (filled.length === 1 && filled[0] === 0)) return false;
    if (natures[at]!.some((nature) => nature === "figure") && !areCodesAbove(grid, at, filledOf)) return false;
    // One long text is a title, wherever it stands.
    return filled.every((place) => (grid[at]!.cells[place] ?? "").trim().length <= 60);
  }
}
