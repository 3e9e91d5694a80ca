import type { Grain } from "../cube/coverage.ts";
import { monthsBetween } from "../calendar/month.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { detectDateFormat, readDate, type DateFormat } from "../reading/read-date.ts";
import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import type { TidyStep } from "../tidy/step.ts";
import { TOTAL_WORDS } from "../tidy/steps/skip-totals.ts";
import type { Mapping, Meaning, NewAccount, NewStructure, SignRule } from "./mapping.ts";
import type { DatasetShape, MappingView } from "./mapping-view.ts";
import { indexNames, newKey, plainName } from "./names.ts";

/** A sample of a file's rows under their column names. */
export interface Sample {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

const REFERENCE_NAME = /\b(doc(ument)?|ref(erence)?|invoice|journal|voucher|order|receipt|id|no|nr|number)\b/i;
const QUANTITY_NAME = /\b(units?|qty|quantity|count|pieces|volume|heads?)\b/i;
const AMOUNT_NAME = /\b(amount|value|balance|net|gross|eur|usd|gbp|revenue|sales|cost|price|total)\b/i;
const ACCOUNT_NAME = /\b(account|gl|measure|line item|position|indicator|metric)\b/i;
const EXPENSE_NAME = /\b(costs?|spend(ing)?|expenses?|payroll|salar(y|ies)|wages)\b/i;
const INCOME_NAME = /\b(sales|revenue|income|turnover|orders)\b/i;
const SLOTS_LEFT_OUT = /^(comment|note|description|text|memo)s?$/i;

/** Tidy steps that a file's looks ask for: total rows skipped, months laid out as columns turned into rows. */
export function proposeSteps(sample: Sample, view: MappingView): TidyStep[] {
  const steps: TidyStep[] = [];
  const months = sample.columns.filter((name) => isMonthName(name, view));
  if (months.length >= 2) {
    const valueInto = freeName("Amount", sample.columns);
    const nameInto = freeName("Period", sample.columns);
    steps.push({ kind: "unpivot", columns: months, nameInto, valueInto });
  }
  // Total rows stand at the end, out of the sample's sight: skipping them costs nothing when there are none.
  const hasText = sample.rows.some((row) => row.some((cell) => cell !== "" && !readNumber(cell, ".")));
  if (hasText) steps.unshift({ kind: "skip-totals", words: [...TOTAL_WORDS] });
  return steps;
}

/**
 * Proposes what each column means, by its values first and its name second, and the
 * dataset that fits; a new one when the rows speak of nothing that is there.
 */
export function proposeMapping(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  { view, fileName }: { view: MappingView; fileName: string },
): Mapping {
  const valuesOf = (i: number) => [...new Set(sample.rows.map((row) => (row[i] ?? "").trim()))].filter((v) => v !== "");
  const accountNames = indexNames(view.accounts);
  const scenarioNames = indexNames(view.scenarios);
  const columns: Record<string, Meaning> = {};
  const share = (i: number, index: ReadonlyMap<string, string>) => {
    const values = valuesOf(i);
    return values.length === 0 ? 0 : values.filter((v) => index.has(plainName(v))).length / values.length;
  };
  const taken = new Set<Meaning["as"]>();
  const take = (name: string, meaning: Meaning) => {
    columns[name] = meaning;
    taken.add(meaning.as);
  };
  profiles.forEach((profile, i) => {
    const { name, type } = profile;
    if (type === "date" && !taken.has("period")) return take(name, { as: "period" });
    if (type !== "text") return;
    const fits = [
      { fit: share(i, accountNames) + (ACCOUNT_NAME.test(name) ? 0.3 : 0), meaning: { as: "account" } as const },
      {
        fit: share(i, scenarioNames) + (/\b(scenario|version)\b/i.test(name) ? 0.3 : 0),
        meaning: { as: "scenario" } as const,
      },
      ...view.dimensions.map((d) => ({
        fit:
          share(i, indexNames(d.members)) +
          ([d.name, ...d.levels].some((n) => plainName(n) === plainName(name)) ? 0.3 : 0),
        meaning: { as: "dimension", dimension: d.key } as const,
      })),
    ].sort((a, b) => b.fit - a.fit);
    const best = fits[0];
    if (best && best.fit >= 0.45 && !(best.meaning.as !== "dimension" && taken.has(best.meaning.as)))
      return take(name, best.meaning);
    if (REFERENCE_NAME.test(name) && profile.distinct > profile.filled * 0.5 && !taken.has("reference"))
      take(name, { as: "reference" });
  });

  const numbers = profiles.filter(
    (p, i) => !columns[p.name] && (p.type === "number" || isAmountByName(p, valuesOf(i))),
  );
  const scenarioColumns = numbers.filter((p) => scenarioNames.has(plainName(p.name)));
  const byScenario = scenarioColumns.length >= 1 && !taken.has("scenario");
  const dataset = taken.has("account") ? fittingDataset(profiles, columns, valuesOf, view) : undefined;
  const isNew = dataset === undefined;
  const creates: {
    dataset: NewStructure["dataset"];
    dimensions: { key: string; name: string }[];
    accounts: NewAccount[];
  } = {
    dataset: null,
    dimensions: [],
    accounts: [],
  };
  const title = titleOf(fileName);
  const accountKeys = new Set(view.accounts.map((a) => a.key));
  const createAccount = (name: string, isQuantity: boolean): string => {
    const existing = accountNames.get(plainName(name));
    const own = view.accounts.find((a) => a.key === existing);
    // An account of the books is not fed from another file unless someone says so.
    if (own && !view.datasets.some((d) => d.accounts.has(own.key))) return own.key;
    const account = newAccount(name, isQuantity, `${name} ${title}`, accountKeys);
    accountKeys.add(account.key);
    creates.accounts.push(account);
    return account.key;
  };

  let fixedAccount: string | null = null;
  if (byScenario) {
    if (!taken.has("account")) fixedAccount = createAccount(title, false);
    for (const p of scenarioColumns)
      columns[p.name] = { as: "amount", account: null, scenario: scenarioNames.get(plainName(p.name))! };
  } else {
    const ownMeasures = !taken.has("account");
    for (const p of numbers) {
      const isQuantity = QUANTITY_NAME.test(p.name);
      if (REFERENCE_NAME.test(p.name) && !AMOUNT_NAME.test(p.name) && !isQuantity) {
        if (!taken.has("reference")) take(p.name, { as: "reference" });
        continue;
      }
      // A price per piece is no amount that adds up.
      if (/\b(price|rate|%|percent|share|year)\b/i.test(p.name)) continue;
      columns[p.name] = {
        as: isQuantity ? "quantity" : "amount",
        account: ownMeasures ? createAccount(p.name, isQuantity) : null,
        scenario: null,
      };
    }
  }

  if (isNew) {
    const grain = grainOf(profiles, columns, valuesOf, view);
    creates.dataset = { name: title, grain };
    const free = MOST_DIMENSIONS - view.dimensions.length;
    const dimensionKeys = new Set(view.dimensions.map((d) => d.key));
    const candidates = profiles.filter(
      (p) => p.type === "text" && !columns[p.name] && !SLOTS_LEFT_OUT.test(p.name) && isRepeated(p),
    );
    for (const p of candidates.slice(0, Math.max(0, free))) {
      const key = newKey(p.name, dimensionKeys, "-");
      dimensionKeys.add(key);
      creates.dimensions.push({ key, name: p.name });
      columns[p.name] = { as: "dimension", dimension: key };
    }
  } else {
    // What the dataset is not kept by stays out until someone says otherwise.
    for (const [name, meaning] of Object.entries(columns))
      if (meaning.as === "dimension" && !dataset.dimensions.includes(meaning.dimension))
        columns[name] = { as: "ignore" };
  }
  for (const p of profiles) columns[p.name] ??= { as: "ignore" };

  const period = profiles.find((p) => columns[p.name]?.as === "period");
  const dateFormat: DateFormat = period?.dateFormat ?? "iso";
  const scenario = taken.has("scenario") || byScenario ? null : scenarioOf(fileName, view);
  const mapping: Mapping = {
    dataset: dataset?.key ?? newKey(title, new Set(view.datasets.map((d) => d.key)), "-"),
    columns,
    dateFormat,
    fixed: { scenario, account: fixedAccount, month: null },
    sign: "own",
    fractions: "stop",
    accounts: {},
    scenarios: {},
    members: {},
    creates,
  };
  return { ...mapping, sign: isNew ? "own" : signRuleOf(mapping, sample, view, markOf(profiles)) };
}

/** Facts keep the members of at most this many dimensions. */
export const MOST_DIMENSIONS = 8;

/** The decimal mark most number columns are written with, where any of them tells. */
export function markOf(profiles: readonly ColumnProfile[]): DecimalMark {
  const telling = profiles.filter((p) => p.type === "number" && p.tellsMark);
  return telling.filter((p) => p.mark === ",").length * 2 > telling.length ? "," : ".";
}

/** A column that calls itself an amount is one, also when many of its cells are not what they should be. */
function isAmountByName(profile: ColumnProfile, values: readonly string[]): boolean {
  if (profile.type !== "text" || !AMOUNT_NAME.test(profile.name)) return false;
  return values.filter((v) => readNumber(v, profile.mark)).length * 3 >= values.length;
}

function isRepeated(profile: ColumnProfile): boolean {
  return profile.distinct <= 200 || profile.distinct < profile.filled * 0.5;
}

function isMonthName(name: string, view: MappingView): boolean {
  return (["month-name", "iso", "fiscal-period", "quarter"] as const).some((f) => readDate(name, f, view.calendar));
}

/** The format that column names laid out as periods are written in. */
export function unpivotFormat(columns: readonly string[], view: MappingView): DateFormat | undefined {
  return detectDateFormat(columns, view.calendar)?.format;
}

function freeName(wanted: string, columns: readonly string[]): string {
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!columns.includes(name)) return name;
  }
}

/** The dataset whose accounts the file's account column names, in the grain its dates are written in. */
function fittingDataset(
  profiles: readonly ColumnProfile[],
  columns: Readonly<Record<string, Meaning>>,
  valuesOf: (i: number) => string[],
  view: MappingView,
): DatasetShape | undefined {
  const place = profiles.findIndex((p) => columns[p.name]?.as === "account");
  const names = indexNames(view.accounts);
  const keys = valuesOf(place).flatMap((v) => names.get(plainName(v)) ?? []);
  const fits = view.datasets.map((dataset) => ({
    dataset,
    fit: keys.filter((key) => dataset.accounts.has(key)).length / Math.max(1, keys.length),
  }));
  const best = fits.reduce<(typeof fits)[number] | undefined>((a, b) => (a && a.fit >= b.fit ? a : b), undefined);
  return best && best.fit >= 0.5 ? best.dataset : undefined;
}

function signRuleOf(mapping: Mapping, sample: Sample, view: MappingView, mark: DecimalMark): SignRule {
  const accountPlace = sample.columns.findIndex((name) => mapping.columns[name]?.as === "account");
  const places = sample.columns.flatMap((name, i) => (mapping.columns[name]?.as === "amount" ? [i] : []));
  const names = indexNames(view.accounts);
  const kinds = new Map(view.accounts.map((a) => [a.key, a.kind]));
  let result = 0;
  let debit = 0;
  for (const row of sample.rows) {
    const kind = kinds.get(names.get(plainName(row[accountPlace] ?? "")) ?? "");
    if (kind !== "income" && kind !== "expense") continue;
    for (const place of places) {
      const value = readNumber(row[place] ?? "", mark);
      if (!value || value.units === 0) continue;
      if (value.units < 0 === (kind === "expense")) result += kind === "expense" ? 1 : 0;
      else if (kind === "income") debit += 1;
    }
  }
  // Negative expenses tell the one rule, negative income the other.
  return result > debit && result > 0 ? "result" : debit > 0 ? "debit" : "own";
}

function newAccount(name: string, isQuantity: boolean, context: string, taken: ReadonlySet<string>): NewAccount {
  const base = { key: newKey(name, taken, "_"), name, behaviour: "flow" as const };
  if (isQuantity) return { ...base, kind: "statistic", unit: { kind: "count", of: name.toLowerCase() }, decimals: 0 };
  const kind = EXPENSE_NAME.test(context) && !INCOME_NAME.test(name) ? "expense" : "income";
  return { ...base, kind, unit: { kind: "money" }, decimals: 2 };
}

function scenarioOf(fileName: string, view: MappingView): string {
  const plain = ` ${plainName(fileName.replace(/[._-]+/g, " "))} `;
  const named = view.scenarios.find((s) => s.kind !== "actual" && plain.includes(` ${plainName(s.name)} `));
  return named?.key ?? view.scenarios.find((s) => s.kind === "actual")?.key ?? "actual";
}

/** Days when nearly every day of the sample's time is there; a list with gaps is kept by month. */
function grainOf(
  profiles: readonly ColumnProfile[],
  columns: Readonly<Record<string, Meaning>>,
  valuesOf: (i: number) => string[],
  view: MappingView,
): Grain {
  const place = profiles.findIndex((p) => columns[p.name]?.as === "period");
  const format = profiles[place]?.dateFormat;
  if (!format) return "month";
  if (format === "quarter") return "quarter";
  const dates = valuesOf(place).flatMap((v) => readDate(v, format, view.calendar) ?? []);
  const days = new Set(dates.filter((d) => d.day !== null).map((d) => d.month * 31 + d.day!));
  if (days.size < 28) return "month";
  const span = monthsBetween(Math.min(...dates.map((d) => d.month)), Math.max(...dates.map((d) => d.month)));
  return days.size >= (span.length - 1) * 30 * 0.97 ? "day" : "month";
}

/** "Spend by department" of "spend_by-department (3).csv". */
export function titleOf(fileName: string): string {
  const words = fileName
    .replace(/\.[a-z0-9]{2,5}$/i, "")
    .replace(/\(\d+\)/g, "")
    .replace(/[_\-.]+/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  const title = words === "" ? "New data" : words;
  return title[0]!.toUpperCase() + title.slice(1);
}
