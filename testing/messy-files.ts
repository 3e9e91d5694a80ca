import fc from "fast-check";
import iconv from "iconv-lite";
import { monthName, monthOf } from "#core/calendar/month.ts";
import { workbookOfCells } from "./shape-files.ts";

/** How a table is laid out. */
export const LAYOUTS = [
  "a row each",
  "scenarios as columns",
  "scenarios as rows",
  "months as columns",
  "months under scenarios",
  "measures as columns",
  "a list of sales",
] as const;

/** What is wrong with a file, and stops it. */
export const FAULTS = ["none", "currency", "no number", "no period", "no such day"] as const;

/** Everything that makes one file: drawn, and shrunk where a file comes out wrong. */
export interface MessyChoice {
  readonly layout: (typeof LAYOUTS)[number];
  readonly months: number;
  readonly members: number;
  readonly seed: number;
  readonly decimals: 0 | 2;
  readonly mark: "." | ",";
  readonly grouping: "" | "sign" | " " | "\u00a0" | "'";
  readonly negative: "in front" | "behind" | "brackets";
  readonly money: "" | "€ in front" | "EUR behind";
  readonly dates: "iso" | "iso month" | "day.month.year" | "month/day/year" | "Month year" | "Mon-yy";
  readonly delimiter: "," | ";" | "\t" | "|";
  readonly encoding: "utf-8" | "utf-8 with mark" | "windows-1252" | "utf-16le" | "workbook";
  readonly lineEnd: "\n" | "\r\n";
  readonly title: 0 | 1 | 2;
  readonly total: boolean;
  readonly comment: boolean;
  readonly blank: boolean;
  readonly spaces: boolean;
  /** Two lines of heads, where columns can be grouped. */
  readonly heads: boolean;
  /** A line of words below the table. */
  readonly note: boolean;
  readonly fault: (typeof FAULTS)[number];
}

/** Draws files. */
export const messyChoice: fc.Arbitrary<MessyChoice> = fc.record({
  layout: fc.constantFrom(...LAYOUTS),
  months: fc.integer({ min: 3, max: 14 }),
  members: fc.integer({ min: 2, max: 5 }),
  seed: fc.integer({ min: 1, max: 1e9 }),
  decimals: fc.constantFrom(0, 2),
  mark: fc.constantFrom(".", ","),
  grouping: fc.constantFrom("", "sign", " ", "\u00a0", "'"),
  negative: fc.constantFrom("in front", "behind", "brackets"),
  money: fc.constantFrom("", "", "", "€ in front", "EUR behind"),
  dates: fc.constantFrom("iso", "iso month", "day.month.year", "month/day/year", "Month year", "Mon-yy"),
  delimiter: fc.constantFrom(",", ";", "\t", "|"),
  encoding: fc.constantFrom("utf-8", "utf-8", "utf-8 with mark", "windows-1252", "utf-16le", "workbook"),
  lineEnd: fc.constantFrom("\n", "\r\n"),
  title: fc.constantFrom(0, 0, 1, 2),
  total: fc.boolean(),
  comment: fc.boolean(),
  blank: fc.boolean(),
  spaces: fc.boolean(),
  heads: fc.boolean(),
  note: fc.boolean(),
  fault: fc.constantFrom(...FAULTS, "none", "none", "none", "none", "none"),
});

/** A file, with what has to become of it. */
export interface MessyFile {
  readonly name: string;
  readonly content: Uint8Array;
  readonly rows: readonly (readonly string[])[];
  /** By scenario and account in some order, the sums in hundredths; empty where it has to be stopped. */
  readonly totals: readonly (readonly [scenario: string, hundredths: number])[];
  /** Why it is stopped, where it has to be. */
  readonly stop: RegExp | null;
}

const MEMBERS = ["North", "Süd", "Østby", "Café", "Werk 2"];
const nameOfMonth = (month: number) => monthName(monthOf(2000, month + 1));

/** A number of a table: what it is added up as; `null` where it must not be. */
interface Figure {
  readonly hundredths: number;
  readonly decimals: 0 | 2;
  readonly isMoney: boolean;
  readonly as: readonly [scenario: string, account: string] | null;
}
type Cell = string | Figure;
interface Table {
  /** Heads over several columns each. */
  readonly above?: readonly string[];
  readonly head: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
}

/** Makes the file that was drawn. */
export async function messyFile(choice: MessyChoice): Promise<MessyFile> {
  const random = randomNumbers(choice.seed);
  const { table, stop } = spoiled(tableOf(choice, random), choice);
  const sums = new Map<string, number>();
  for (const row of table.rows)
    for (const cell of row)
      if (typeof cell !== "string" && cell.as) {
        const key = cell.as.join("|");
        sums.set(key, (sums.get(key) ?? 0) + cell.hundredths);
      }
  const wide = (cells: readonly string[]) => [...cells, ...table.head.slice(cells.length).map(() => "")];
  // A workbook keeps numbers as such, or as texts of a system that wrote it.
  const keepsNumbers = choice.encoding === "workbook" && choice.seed % 2 === 0;
  const text = (cell: Cell) =>
    typeof cell === "string" ? cell : keepsNumbers ? String(cell.hundredths / 100) : written(cell, choice);
  const data = table.rows.map((row) => row.map(text));
  const middle = Math.floor(data.length / 2);
  const rows = [
    ...(choice.title > 0 ? [wide(["Figures of the branches"])] : []),
    ...(choice.title > 1 ? [wide(["prepared by controlling"]), wide([])] : []),
    ...(table.above ? [table.above] : []),
    table.head,
    ...data.slice(0, middle),
    ...(choice.blank ? [wide([])] : []),
    ...data.slice(middle),
    ...(choice.total ? [totalRow(table, text)] : []),
    ...(choice.note ? [wide(["Source: controlling, figures not audited"])] : []),
  ].map((row) => row.map((cell, i) => (choice.spaces && i === 1 && cell !== "" ? ` ${cell} ` : cell)));
  return {
    ...(await encoded(rows, choice, keepsNumbers)),
    rows,
    totals: stop ? [] : [...sums].map(([key, sum]) => [key.split("|")[0]!, sum] as const),
    stop,
  };
}

/** The table before anything is written or spoiled. */
function tableOf(choice: MessyChoice, random: () => number): Table {
  const { decimals } = choice;
  const months = Array.from({ length: choice.months }, (_, i) => ({ year: 2025 + Math.floor(i / 12), month: i % 12 }));
  const members = MEMBERS.slice(0, choice.members);
  const step = decimals === 0 ? 100 : 1;
  const money = (scenario: string, account = "amount"): Figure => {
    const hundredths = Math.round((random() * 4e6 - (random() < 0.15 ? 4e6 : 0)) / step) * step + step;
    return { hundredths, decimals, isMoney: true, as: [scenario, account] };
  };
  const count = (most: number, account: string): Figure => ({
    hundredths: Math.ceil(random() * most) * 100,
    decimals: 0,
    isMoney: false,
    as: ["Actual", account],
  });
  const remark = () => (choice.comment ? [random() < 0.3 ? `see note ${Math.ceil(random() * 90)}` : ""] : []);
  const head = (...names: string[]) => [...names, ...(choice.comment ? ["Remark"] : [])];
  const places = months.flatMap((month, i) =>
    members.map((member) => [dated(month, choice.dates, i), member] as const),
  );
  switch (choice.layout) {
    case "a row each":
      return {
        head: head("Month", "Department", "Amount"),
        rows: places.map((place) => [...place, money("Actual"), ...remark()]),
      };
    case "scenarios as columns":
      return {
        head: head("Month", "Department", "Budget", "Actual"),
        rows: places.map((place) => [...place, money("Budget"), money("Actual"), ...remark()]),
      };
    case "scenarios as rows":
      return {
        head: head("Month", "Department", "Scenario", "Spending"),
        rows: places.flatMap((place) =>
          ["Actual", "Budget"].map((scenario) => [...place, scenario, money(scenario), ...remark()]),
        ),
      };
    case "months under scenarios": {
      const some = months.slice(0, 4);
      return {
        above: ["", ...["Actual", "Budget"].flatMap((name) => some.map((_, i) => (i === 0 ? name : "")))],
        head: [
          "Department",
          ...["Actual", "Budget"].flatMap(() =>
            some.map(({ month, year }) => `${nameOfMonth(month).slice(0, 3)} ${year}`),
          ),
        ],
        rows: members.map((member) => [member, ...some.map(() => money("Actual")), ...some.map(() => money("Budget"))]),
      };
    }
    case "months as columns":
      return {
        ...(choice.heads
          ? {
              above: [
                "",
                ...months.map(({ month, year }, i) => (i % 3 === 0 ? `Q${Math.floor(month / 3) + 1} ${year}` : "")),
              ],
            }
          : {}),
        head: ["Department", ...months.map(({ month, year }) => `${nameOfMonth(month).slice(0, 3)} ${year}`)],
        rows: members.map((member) => [member, ...months.map(() => money("Actual"))]),
      };
    case "measures as columns":
      return {
        head: head("Month", "Branch", "Revenue", "Wages", "Visits"),
        rows: places.map((place) => [
          ...place,
          money("Actual", "revenue"),
          money("Actual", "wages"),
          count(9000, "visits"),
          ...remark(),
        ]),
      };
    case "a list of sales":
      return {
        head: head("Date", "Shop", "Quantity", "Unit price", "Net sales"),
        rows: places.map((place) => {
          const pieces = count(40, "quantity");
          const price = 199 + Math.floor(random() * 9000);
          const net = (pieces.hundredths / 100) * price;
          return [
            ...place,
            pieces,
            { hundredths: price, decimals: 2, isMoney: true, as: null },
            { hundredths: net, decimals: 2, isMoney: true, as: ["Actual", "net"] },
            ...remark(),
          ];
        }),
      };
  }
}

/** The table with its fault, and why it has to be stopped for that. */
function spoiled(table: Table, { fault, layout }: MessyChoice): { table: Table; stop: RegExp | null } {
  const change = (row: number, place: number, cell: Cell): Table => ({
    ...table,
    rows: table.rows.map((cells, i) => (i === row ? cells.map((own, k) => (k === place ? cell : own)) : cells)),
  });
  const last = table.rows.length - 1;
  const figure = table.rows[last]!.findLastIndex((cell) => typeof cell !== "string" && cell.isMoney);
  const hasPeriods = layout !== "months as columns" && layout !== "months under scenarios";
  switch (fault) {
    case "none":
      return { table, stop: null };
    case "no number":
      return { table: change(last, figure, "tbd"), stop: /amount that is not a number: “tbd”/ };
    case "no period":
      return hasPeriods ? { table: change(last, 0, ""), stop: /no period/ } : { table, stop: null };
    case "no such day":
      return hasPeriods
        ? { table: change(last, 0, "2026-13-45"), stop: /period that cannot be read: “2026-13-45”/ }
        : { table, stop: null };
    case "currency":
      return {
        table: {
          head: [...table.head, "Currency"],
          rows: table.rows.map((cells, i) => [...cells, i % 3 === 0 ? "USD" : "EUR"]),
        },
        stop: /another currency than the company's, and there is no rate for the month: “USD in|a currency sign that differs/,
      };
  }
}

/** A row that adds up what stands above it. */
function totalRow({ head, rows }: Table, text: (cell: Cell) => string): string[] {
  return head.map((_, i) => {
    if (i === 0) return "Total";
    const figures = rows.flatMap((row) => (typeof row[i] === "string" || row[i] === undefined ? [] : [row[i]]));
    if (figures.length === 0 || figures.some(({ as }) => as === null)) return "";
    const hundredths = figures.reduce((sum, { hundredths: own }) => sum + own, 0);
    return text({ ...figures[0]!, hundredths });
  });
}

/** A number as the file writes it. */
function written({ hundredths, decimals, isMoney }: Figure, choice: MessyChoice): string {
  const { mark, grouping, negative, money } = choice;
  const size = Math.abs(hundredths);
  const whole = String(Math.floor(size / 100));
  const group = grouping === "sign" ? (mark === "." ? "," : ".") : grouping;
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, group);
  const plain = decimals === 0 ? grouped : `${grouped}${mark}${String(size % 100).padStart(2, "0")}`;
  const signed =
    hundredths >= 0
      ? plain
      : negative === "in front"
        ? `-${plain}`
        : negative === "behind"
          ? `${plain}-`
          : `(${plain})`;
  if (!isMoney || money === "") return signed;
  return money === "€ in front" ? `€${signed}` : `${signed} EUR`;
}

/** A period as the file writes it; days fall on all days of months, so that their order shows. */
function dated({ year, month }: { year: number; month: number }, dates: MessyChoice["dates"], i: number): string {
  const two = (value: number) => String(value).padStart(2, "0");
  const day = [28, 3, 14, 25, 7, 19][i % 6]!;
  switch (dates) {
    case "iso":
      return `${year}-${two(month + 1)}-${two(day)}`;
    case "iso month":
      return `${year}-${two(month + 1)}`;
    case "day.month.year":
      return `${two(day)}.${two(month + 1)}.${year}`;
    case "month/day/year":
      return `${month + 1}/${day}/${year}`;
    case "Month year":
      return `${nameOfMonth(month)} ${year}`;
    case "Mon-yy":
      return `${nameOfMonth(month).slice(0, 3)}-${year % 100}`;
  }
}

async function encoded(
  rows: readonly (readonly string[])[],
  { encoding, delimiter, lineEnd }: MessyChoice,
  keepsNumbers: boolean,
): Promise<Pick<MessyFile, "name" | "content">> {
  if (encoding === "workbook") {
    const kept = (cell: string) =>
      cell === "" ? null : keepsNumbers && /^-?\d+(\.\d+)?$/.test(cell) ? Number(cell) : cell;
    return {
      name: "Branches.xlsx",
      content: await workbookOfCells({ Sheet1: rows.map((row) => row.map(kept)) }),
    };
  }
  const quoted = (cell: string) =>
    cell.includes(delimiter) || cell.includes('"') ? `"${cell.replaceAll('"', '""')}"` : cell;
  const text = rows.map((row) => row.map(quoted).join(delimiter)).join(lineEnd) + lineEnd;
  const isMarked = encoding !== "utf-8" && encoding !== "windows-1252";
  const content = iconv.encode(text, encoding === "utf-8 with mark" ? "utf-8" : encoding, { addBOM: isMarked });
  return { name: "Branches.csv", content };
}

/** Random numbers from 0 to 1 by a seed (mulberry32). */
function randomNumbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
