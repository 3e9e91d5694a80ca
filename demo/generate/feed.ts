import { daysInMonth, formatMonth, monthName, monthsBetween, yearOf, type Month } from "#core/calendar/month.ts";
import { formatAmount } from "#core/figures/amount.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { inWriting, type Writing } from "#core/formats/writing.ts";
import { ACCOUNTS, OPERATIONS_ACCOUNTS } from "../company/accounts.ts";
import { DIMENSIONS } from "../company/dimensions.ts";
import { LAST_CLOSED, LAST_DAY } from "../company/scenarios.ts";
import { ACTUAL_ASSUMPTIONS } from "./assumptions.ts";
import { DOUBLED_INVOICE, monthBookings, signInResult, type Booking } from "./ledger.ts";
import { uniform } from "./noise.ts";
import { balanceBookings, closeBalances } from "./balances.ts";
import { actualClosings, ledgerFacts, operationsFacts } from "./loads.ts";

/** A file that waits in the feed, not yet loaded. */
export interface FeedFile {
  readonly fileName: string;
  readonly text: string;
}

/** A sheet that waits in the feed; cells are texts, numbers or nothing. */
export interface FeedSheet {
  readonly fileName: string;
  readonly sheetName: string;
  readonly rows: readonly (readonly (string | number | null)[])[];
}

const NEXT_MONTH = LAST_CLOSED + 1;
const COLUMNS = [
  "Period",
  "Account",
  "Route",
  "Service line",
  "Cost centre",
  "Vessel",
  "Home market",
  "Amount",
  "Units",
  "Document",
] as const;
const COLUMN_DIMENSIONS = ["route", "service", "cost-centre", "vessel", "home-market"] as const;
const accountName = new Map(ACCOUNTS.map((a) => [a.key, a.name]));
const kindOf = new Map(ACCOUNTS.map((a) => [a.key, a.kind]));
const isCounted = new Map(ACCOUNTS.map((a) => [a.key, a.unit.kind === "count"]));
const memberName = new Map(DIMENSIONS.flatMap((d) => d.members.map((m) => [`${d.key}/${m.key}`, m.name] as const)));

/** The next month's ledger extract as it would really come: readable, and not clean. */
export function nextMonthLedger(): FeedFile {
  const empty = ["Repairs", "Tarn Point–Osk", "", "Workshop", "Kittiwake", "", "", "", "J2611-90002"];
  return ledgerExtract(NEXT_MONTH, { more: [postedDouble(), empty] });
}

/**
 * A month's ledger extract: a preamble with the control total, amounts in the result's
 * sign with expenses in brackets, cost centres in any case, fractional passenger
 * counts, an account the chart does not have, and a total row. `more` lines go between.
 */
export function ledgerExtract(month: Month, { more = [] }: { more?: readonly (readonly string[])[] } = {}): FeedFile {
  const closings = actualClosings(month);
  const bookings = [...monthBookings(month, ACTUAL_ASSUMPTIONS), ...balanceBookings(closings.get(month)!)];
  const period = `${monthName(month)} ${yearOf(month)}`;
  const lines = bookings.map((booking, i) => ledgerLine(booking, month, period, i));
  const levy = -1_846_000;
  const unknown = [
    "Harbour levy",
    "Vardel–Isenholm",
    "",
    "Vardel port",
    "",
    "",
    bracketed(levy),
    "",
    `${document(month, 90_000)}`,
  ];
  const added = [unknown, ...more].map((cells) => [period, ...cells]);
  const moreAmounts = more.reduce((sum, cells) => sum + minorOf(cells[6] ?? ""), 0);
  const total = bookings.reduce((sum, b) => sum + signInLedger(b) * b.amount, levy + moreAmounts);
  const preamble = [
    "Quillhaven Ferries, general ledger extract",
    `Period: ${period}; currency: EUR; expenses in brackets`,
    `Control total: ${bracketed(total)}`,
  ];
  const rows = [
    COLUMNS,
    ...lines.slice(0, 200),
    ...added.slice(0, 2),
    ...lines.slice(200, 400),
    ...added.slice(2),
    ...lines.slice(400),
    ["Total", "", "", "", "", "", "", bracketed(total), "", ""],
  ];
  return {
    fileName: `${monthName(month).toLowerCase()}-ledger.csv`,
    text: csv([...preamble.map((p) => [p]), ...rows]),
  };
}

/** A handling invoice of the last closed month that comes once more. */
function postedDouble(): string[] {
  const facts = ledgerFacts(LAST_CLOSED, monthBookings(LAST_CLOSED, ACTUAL_ASSUMPTIONS));
  const fact = [...facts].find((f) => f.account === "port_handling")!;
  return [
    accountName.get(fact.account)!,
    ...COLUMN_DIMENSIONS.map((d) => nameOf(d, fact)),
    bracketed(-fact.amount),
    "",
    fact.reference!,
  ];
}

/** The same month, and those before it in the fiscal year, with months as columns. */
export function ledgerWorkbook(): FeedSheet {
  const months = monthsBetween(LAST_CLOSED - 6, NEXT_MONTH);
  const closings = actualClosings(NEXT_MONTH);
  const table = new Map<string, { labels: string[]; amounts: number[] }>();
  months.forEach((month, column) => {
    const bookings = [...monthBookings(month, ACTUAL_ASSUMPTIONS), ...balanceBookings(closings.get(month)!)];
    for (const booking of bookings) {
      const labels = [accountName.get(booking.account)!, nameOf("route", booking), nameOf("cost-centre", booking)];
      const key = JSON.stringify(labels);
      const row = table.get(key) ?? { labels, amounts: months.map(() => 0) };
      row.amounts[column]! += isCounted.get(booking.account)
        ? booking.amount / (booking.account === "full_time_equivalents" ? 10 : 1)
        : (signInLedger(booking) * booking.amount) / 100;
      table.set(key, row);
    }
  });
  const rounded = (amounts: readonly number[]) => amounts.map((a) => Math.round(a * 100) / 100);
  return {
    fileName: `${monthName(NEXT_MONTH).toLowerCase()}-ledger.xlsx`,
    sheetName: "Ledger",
    rows: [
      ["Quillhaven Ferries, year to date by month, EUR"],
      [],
      ["Account", "Route", "Cost centre", ...months.map((m) => `${monthName(m).slice(0, 3)} ${yearOf(m)}`)],
      ...[...table.values()].map((row) => [...row.labels, ...rounded(row.amounts)]),
    ],
  };
}

/** The days of daily operations that are still missing in the partial month. */
export function missingOperations(): FeedFile {
  const { fileName, text } = operationsExtract(LAST_DAY.month, LAST_DAY.day);
  return { fileName: fileName.replace(".csv", "-rest.csv"), text };
}

/** Daily operations after a day, to the end of its month; of the next month when the day is the last. */
export function operationsExtract(afterMonth: Month, afterDay: number): FeedFile & { readonly month: Month } {
  const isLast = afterDay >= daysInMonth(afterMonth);
  const month = isLast ? afterMonth + 1 : afterMonth;
  const names = new Map(OPERATIONS_ACCOUNTS.map((a) => [a.key, a.name]));
  const facts = [...operationsFacts(month, isLast ? 1 : afterDay + 1, daysInMonth(month))];
  const rows = facts.map((f) => [
    `${formatMonth(f.month)}-${String(f.day).padStart(2, "0")}`,
    memberName.get(`route/${f.members["route"]}`)!,
    names.get(f.account)!,
    String(f.amount),
  ]);
  return {
    month,
    fileName: `operations-${formatMonth(month)}.csv`,
    text: csv([["Date", "Route", "Measure", "Value"], ...rows]),
  };
}

/** October's extract once more, line for line, without the invoice that was posted twice. */
export function correctedLedger(): FeedFile {
  const { month, reference } = DOUBLED_INVOICE;
  const posted = monthBookings(month, ACTUAL_ASSUMPTIONS);
  const double = posted.findLastIndex((b) => b.reference === reference);
  const closing = closeBalances(actualClosings(month - 1).get(month - 1)!, posted.toSpliced(double, 1));
  // Journal numbers stay with their lines: the double is left out after numbering.
  let seen = false;
  const facts = [...ledgerFacts(month, [...posted, ...balanceBookings(closing)])].filter((fact) => {
    const isDouble = fact.reference === reference && seen;
    seen ||= fact.reference === reference;
    return !isDouble;
  });
  const period = formatMonth(month);
  const rows = facts.map((fact) => [
    period,
    accountName.get(fact.account)!,
    ...COLUMN_DIMENSIONS.map((d) => nameOf(d, fact)),
    isCounted.get(fact.account) ? "" : formatAmount(signInLedger(fact) * fact.amount, 2),
    isCounted.get(fact.account) ? units(fact) : "",
    fact.reference!,
  ]);
  return { fileName: `ledger-${period}-corrected.csv`, text: csv([COLUMNS, ...rows]) };
}

/** All text files of the feed. */
export function feedFiles(): FeedFile[] {
  return [nextMonthLedger(), missingOperations(), correctedLedger()];
}

function ledgerLine(booking: Booking, month: Month, period: string, index: number): string[] {
  const counted = isCounted.get(booking.account)!;
  const centre = nameOf("cost-centre", booking);
  const shouted =
    uniform("case", index) < 0.3 ? centre.toUpperCase() : uniform("case", index) < 0.5 ? centre.toLowerCase() : centre;
  // A few passenger counts come as averages over legs, with a fraction.
  const fraction = booking.account === "passengers" && uniform("fraction", index) < 0.04 ? ".5" : "";
  return [
    period,
    accountName.get(booking.account)!,
    nameOf("route", booking),
    nameOf("service", booking),
    shouted,
    nameOf("vessel", booking),
    nameOf("home-market", booking),
    counted ? "" : bracketed(signInLedger(booking) * booking.amount),
    counted ? `${units(booking)}${fraction}` : "",
    booking.reference ?? document(month, index),
  ];
}

/** The result's sign; of the balance sheet, assets are positive, liabilities and equity negative. */
function signInLedger({ account }: Pick<Booking, "account">): number {
  const kind = kindOf.get(account);
  if (kind === "asset") return 1;
  return kind === "liability" || kind === "equity" ? -1 : signInResult(account);
}

function minorOf(text: string): number {
  const minor = Math.round(Number(text.replace(/[(),]/g, "")) * 100);
  return text.startsWith("(") ? -minor : minor;
}

function nameOf(dimension: string, booking: Pick<Booking, "members">): string {
  const key = booking.members[dimension];
  return key === undefined ? "" : memberName.get(`${dimension}/${key}`)!;
}

function units(booking: Pick<Booking, "account" | "amount">): string {
  return booking.account === "full_time_equivalents" ? formatAmount(booking.amount, 1) : String(booking.amount);
}

/** How the ledger writes numbers, whoever reads them later. */
const AS_EXPORTED: Writing = { currency: "EUR", numbers: "1,234.5", dates: "2026-11-30" };

function bracketed(minor: number): string {
  const text = inWriting(AS_EXPORTED, () => formatNumber(Math.abs(minor) / 100, 2));
  return minor < 0 ? `(${text})` : text;
}

function document(month: Month, index: number): string {
  return `J${formatMonth(month).slice(2).replace("-", "")}-${String(index + 1).padStart(5, "0")}`;
}

function csv(rows: readonly (readonly string[])[]): string {
  const cell = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  return rows.map((row) => row.map(cell).join(",")).join("\r\n") + "\r\n";
}
