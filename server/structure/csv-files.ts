import Papa from "papaparse";
import type { z } from "zod";
import { formatMonth, type Month } from "#core/calendar/month.ts";
import { plainName } from "#core/reading/names.ts";
import { isSame } from "#core/history/records-diff.ts";
import { depthFirst } from "#core/structure/tree-edit.ts";
import { accountItemSchema, memberItemSchema } from "#contract/structure.ts";
import { csvRow } from "#server/csv/csv-row.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { memberItem, type AccountItem, type MemberItem } from "./collections.ts";

const ACCOUNT_COLUMNS = ["key", "name", "parent", "kind", "behaviour", "unit", "decimals", "aliases", "retired"];
const MEMBER_COLUMNS = ["key", "name", "parent", "aliases", "retired", "first_month", "last_month"];
const SEPARATOR = "; ";

/** The chart of accounts as CSV, in the form `accountsFromCsv` reads. */
export function* accountsToCsv(items: readonly AccountItem[]): Generator<string> {
  yield csvRow(ACCOUNT_COLUMNS);
  for (const a of items) {
    const unit = a.unit.kind === "money" ? "money" : a.unit.of;
    yield csvRow([
      a.key,
      a.name,
      a.parent,
      a.kind,
      a.behaviour,
      unit,
      a.decimals,
      a.aliases.join(SEPARATOR),
      a.isRetired ? "yes" : "no",
    ]);
  }
}

/** A dimension's members as CSV; attributes are columns of their own. */
export function* membersToCsv(items: readonly MemberItem[]): Generator<string> {
  const attributes = [...new Set(items.flatMap((m) => Object.keys(m.attributes)))];
  yield csvRow([...MEMBER_COLUMNS, ...attributes]);
  for (const m of items) {
    yield csvRow([
      m.key,
      m.name,
      m.parent,
      m.aliases.join(SEPARATOR),
      m.isRetired ? "yes" : "no",
      m.firstMonth === null ? "" : formatMonth(m.firstMonth),
      m.lastMonth === null ? "" : formatMonth(m.lastMonth),
      ...attributes.map((a) => m.attributes[a] ?? ""),
    ]);
  }
}

/**
 * The structure as it is after taking a file over: accounts of the file in the file's order,
 * with what it does not say kept, then those it does not name. Throws a problem that
 * names line, column and value.
 */
export function accountsFromCsv(text: string, items: readonly AccountItem[]): AccountItem[] {
  return merged(text, items, accountItemSchema, ["key", "name"], (row, known) => ({
    key: row["key"],
    name: row["name"],
    parent: "parent" in row ? row["parent"] || null : (known?.parent ?? null),
    kind: row["kind"] || known?.kind,
    behaviour: row["behaviour"] || known?.behaviour || "flow",
    unit: row["unit"]
      ? row["unit"] === "money"
        ? { kind: "money" }
        : { kind: "count", of: row["unit"] }
      : (known?.unit ?? { kind: "money" }),
    decimals: row["decimals"] ? Number(row["decimals"]) : (known?.decimals ?? 2),
    aliases: "aliases" in row ? list(row["aliases"]) : (known?.aliases ?? []),
    isRetired: "retired" in row ? yes(row["retired"]) : (known?.isRetired ?? false),
  }));
}

/** A dimension's members after taking a file over, like `accountsFromCsv`. */
export function membersFromCsv(text: string, items: readonly MemberItem[]): MemberItem[] {
  return merged(text, items, memberItemSchema.transform(memberItem), ["key", "name"], (row, known) => ({
    key: row["key"],
    name: row["name"],
    parent: "parent" in row ? row["parent"] || null : (known?.parent ?? null),
    aliases: "aliases" in row ? list(row["aliases"]) : (known?.aliases ?? []),
    isRetired: "retired" in row ? yes(row["retired"]) : (known?.isRetired ?? false),
    firstMonth: "first_month" in row ? row["first_month"] || null : monthText(known?.firstMonth),
    lastMonth: "last_month" in row ? row["last_month"] || null : monthText(known?.lastMonth),
    attributes: {
      ...known?.attributes,
      ...Object.fromEntries(
        Object.entries(row).filter(([column, value]) => !MEMBER_COLUMNS.includes(column) && value !== ""),
      ),
    },
  }));
}

function merged<T extends { key: string; parent: string | null }>(
  text: string,
  items: readonly (T & { name: string })[],
  schema: z.ZodType,
  required: readonly string[],
  toItem: (row: Record<string, string>, known: T | undefined) => unknown,
): (T & { name: string })[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text.replace(/^\ufeff/, ""), {
    header: true,
    skipEmptyLines: "greedy",
    transformHeader: (header) => (plainName(header) in KNOWN ? plainName(header) : header.trim()),
    transform: (value) => value.trim().replace(/^'(?=[=+\-@])/, ""),
  });
  const missing = required.filter((column) => !meta.fields?.includes(column));
  if (missing.length > 0)
    throw new ProblemError(
      "invalid-change",
      `The file has no column ${missing.join(" and no column ")}. Export the list first to see how it is laid out.`,
    );
  const byKey = new Map(items.map((item) => [item.key, item]));
  const seen = new Set<string>();
  const taken = data.map((row, i) => {
    const known = byKey.get(row["key"] ?? "");
    const parsed = schema.safeParse(toItem(row, known));
    const line = i + 2;
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      const column = String(issue.path[0] ?? "");
      throw new ProblemError(
        "invalid-change",
        `Line ${line}, column ${column}: "${row[column] ?? ""}" cannot be imported: ${issue.message}. Nothing was changed.`,
      );
    }
    const item = parsed.data as T & { name: string };
    if (seen.has(item.key))
      throw new ProblemError(
        "invalid-change",
        `Line ${line}: the key "${item.key}" is in the file twice. Nothing was changed.`,
      );
    seen.add(item.key);
    return known && isSame(known, item) ? known : item;
  });
  const all = [...taken, ...items.filter((item) => !seen.has(item.key))];
  const keys = new Set(all.map((item) => item.key));
  const orphan = all.find((item) => item.parent !== null && !keys.has(item.parent));
  if (orphan)
    throw new ProblemError(
      "invalid-change",
      `${orphan.name} names the parent "${orphan.parent}", which is neither in the file nor there already. Nothing was changed.`,
    );
  return depthFirst(all);
}

const KNOWN = Object.fromEntries([...ACCOUNT_COLUMNS, ...MEMBER_COLUMNS].map((column) => [column, true]));

function monthText(month: Month | null | undefined): string | null {
  return month === null || month === undefined ? null : formatMonth(month);
}

function list(text: string): string[] {
  return text
    .split(";")
    .map((part) => part.trim())
    .filter((part) => part !== "");
}

function yes(text: string): boolean {
  return /^(yes|y|true|1|x)$/i.test(text);
}
