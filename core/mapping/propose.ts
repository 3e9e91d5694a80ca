import { wholeWords } from "./whole-words.ts";
import {
  ACCOUNT_NAME,
  ACCOUNT_NUMBER,
  AMOUNT_NAME,
  EXPENSE_NAME,
  INCOME_NAME,
  QUANTITY_NAME,
  REFERENCE_NAME,
  SLOTS_LEFT_OUT,
  SOLD_TO,
  SPENT_BY,
} from "./column-names.ts";
import type { Grain, Scenario } from "../cube/coverage.ts";
import { monthsBetween } from "../calendar/month.ts";
import { profileColumns, type ColumnProfile } from "../reading/column-profile.ts";
import { detectDateFormat, readDate, type DateFormat } from "../reading/read-date.ts";
import { detectDecimalMark, readNumber, type DecimalMark } from "../reading/read-number.ts";
import { monthIndexOf } from "../reading/month-names.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { tidyTable } from "../tidy/tidy-run.ts";
import { TOTAL_WORDS } from "../tidy/steps/skip-totals.ts";
import type { LedgerSide, Mapping, Meaning, NewAccount, NewStructure, SignRule } from "./mapping.ts";
import { plannedView, type DatasetShape, type MappingView } from "./mapping-view.ts";
import { proposeAccounts } from "./propose-accounts.ts";
import { areCurrencies } from "../currency/currency-code.ts";
import { proposeRates, proposeRateSteps } from "./propose-rates.ts";
import { currencyInHead, currencyInTitle } from "../currency/currency-code.ts";
import { freeName } from "./free-name.ts";
import { weighColumns } from "./column-evidence.ts";
import { indexNames, newKey, plainName } from "../reading/names.ts";
import type { Sample } from "./sample.ts";

/** What scenarios are called at the head of a column, by their kind. */
const SCENARIO_WORDS: Readonly<Record<Scenario["kind"], RegExp>> = {
  actual: /^(actuals?|ist|real|effective|effektiv|réel|reported)$/,
  budget: /^(budget(ed)?|plan(ned)?|soll|bud)$/,
  forecast: /^(forecast|fc|fcst|outlook|estimate|hochrechnung|prognose|erwartung)$/,
  target: /^(targets?|goals?|ziel|objective)$/,
};

/** The scenario that a column's head names: by its own name, or by what scenarios of its kind are called. */
function scenarioOfHead(name: string, view: MappingView, names: ReadonlyMap<string, string>): string | undefined {
  const plain = plainName(name.replace(/[[(].*$/, "").replace(/\b(fy)?(19|20)?\d\d\b/gi, ""));
  const own = names.get(plainName(name)) ?? names.get(plain);
  if (own !== undefined) return own;
  const kind = (Object.keys(SCENARIO_WORDS) as Scenario["kind"][]).find((key) => SCENARIO_WORDS[key].test(plain));
  const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
  return ofKind.length === 1 ? ofKind[0]!.key : undefined;
}

/** Tidy steps that a file's looks ask for: total rows skipped, months laid out as columns turned into rows. */
export function proposeSteps(sample: Sample, view: MappingView, title = ""): TidyStep[] {
  const steps: TidyStep[] = [];
  // Columns that can only be read with the other decimal mark are brought to the file's own.
  const profiles = profileColumns(sample.columns, sample.rows, view.calendar);
  const mark = markOf(profiles);
  const others = profiles.filter((p) => p.type === "number" && p.tellsMark && p.mark !== mark).map(({ name }) => name);
  if (others.length > 0) steps.push({ kind: "number-format", columns: others, mark: mark === "," ? "." : "," });
  // A year for bare months is said by the title, or by the file's name.
  const year = Number(/(?<!\d)(?:19|20)\d\d(?!\d)/.exec(title)?.[0] ?? 0);
  const bare = sample.columns.filter((name) => monthIndexOf(name) !== undefined);
  const bareColumn = sample.columns.find((_, i) => {
    const texts = sample.rows.map((row) => (row[i] ?? "").trim()).filter((text) => text !== "");
    return texts.length > 1 && texts.every((text) => monthIndexOf(text) !== undefined);
  });
  if (year > 0 && bare.length >= 2) {
    const [nameInto, valueInto] = [freeName("Period", sample.columns), freeName("Amount", sample.columns)];
    steps.push(
      { kind: "unpivot", columns: bare, nameInto, valueInto },
      { kind: "add-year", columns: [nameInto], year },
    );
  } else if (year > 0 && bareColumn !== undefined) steps.push({ kind: "add-year", columns: [bareColumn], year });
  const months = sample.columns.filter((name) => isMonthName(name, view));
  const scenarioNames = indexNames(view.scenarios);
  const ofRates = proposeRateSteps(sample, title, view);
  steps.push(...ofRates);
  const both = sample.columns.filter((name) => {
    const [scenario = "", ...period] = name.split(" ");
    return scenarioOfHead(scenario, view, scenarioNames) !== undefined && isMonthName(period.join(" "), view);
  });
  if (ofRates.length > 0) {
    // Its columns are currencies.
  } else if (both.length >= 2) {
    // "Budget Jan 2026": a scenario over its months.
    const nameInto = freeName("Column", sample.columns);
    const into = [freeName("Scenario", sample.columns), freeName("Period", sample.columns)];
    steps.push(
      { kind: "unpivot", columns: both, nameInto, valueInto: freeName("Amount", sample.columns) },
      { kind: "split", column: nameInto, at: " ", into },
    );
  } else if (months.length >= 2 && bare.length < 2) {
    const valueInto = freeName("Amount", sample.columns);
    const nameInto = freeName("Period", sample.columns);
    steps.push({ kind: "unpivot", columns: months, nameInto, valueInto });
  }
  // Total rows stand at the end, out of the sample's sight: skipping them costs nothing when there are none.
  const hasText = sample.rows.some((row) => row.some((cell) => cell !== "" && !readNumber(cell, ".")));
  if (hasText)
    steps.unshift(
      { kind: "skip-totals", words: [...TOTAL_WORDS] },
      { kind: "skip-notes" },
      ...proposeSkipSums(sample, profiles, view),
    );
  return steps;
}

/** Subtotals that do not call themselves so are told by their arithmetic, where there are any. */
function proposeSkipSums(sample: Sample, profiles: readonly ColumnProfile[], { calendar }: MappingView): TidyStep[] {
  const columns = profiles
    .filter(({ name, type }) => type === "number" && !ACCOUNT_NUMBER.test(name) && !REFERENCE_NAME.test(name))
    .map(({ name }) => name);
  if (columns.length === 0) return [];
  const step: TidyStep = { kind: "skip-sums", columns };
  const rows = sample.rows.map((cells, line) => ({ line, cells }));
  const { table } = tidyTable([step], { columns: sample.columns, rows }, { mark: markOf(profiles), calendar });
  return table.rows.length < rows.length ? [step] : [];
}

/**
 * Proposes what each column means, by its values first and its name second, and the
 * dataset that fits; a new one when the rows speak of nothing that is there.
 */
export function proposeMapping(
  profiles: readonly ColumnProfile[],
  sample: Sample,
  {
    view,
    fileName,
    heading = "",
    raw = sample,
  }: {
    view: MappingView;
    fileName: string;
    heading?: string;
    /** The rows as they stand in the file: headings without amounts do not outlive the steps. */
    raw?: Sample;
  },
): Mapping {
  const ofRates = proposeRates(profiles, sample, { view, title: `${heading} ${fileName.replace(/[_.]+/g, " ")}` });
  if (ofRates) return ofRates;
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
    // Numbers of accounts are their keys, and no amounts.
    if (type === "number" && ACCOUNT_NUMBER.test(name) && !taken.has("account")) return take(name, { as: "account" });
    if (type !== "text") return;
    if (areCurrencies(valuesOf(i)) && !taken.has("currency")) return take(name, { as: "currency" });
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
    // Called an account, and naming none that there is: the file brings accounts of its own.
    const bringsAccounts = ACCOUNT_NAME.test(name) && share(i, accountNames) === 0 && !taken.has("account");
    if (bringsAccounts && (!best || best.fit < 0.45)) return take(name, { as: "account" });
    if (best && best.fit >= 0.45 && !(best.meaning.as !== "dimension" && taken.has(best.meaning.as)))
      return take(name, best.meaning);
    if (REFERENCE_NAME.test(name) && profile.distinct > profile.filled * 0.5 && !taken.has("reference"))
      take(name, { as: "reference" });
  });

  const numbers = profiles.filter(
    (p, i) => !columns[p.name] && (p.type === "number" || isAmountByName(p, valuesOf(i))),
  );
  const { apart, balances } = weighColumns(profiles, sample);
  // "Soll" is a debit beside "Haben", and a budget elsewhere.
  const ledger = taken.has("account") ? ledgerSides(numbers) : new Map<string, LedgerSide>();
  const scenarioColumns = numbers.filter(
    (p) => !ledger.has(p.name) && scenarioOfHead(p.name, view, scenarioNames) !== undefined,
  );
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
  const createAccount = (name: string, isQuantity: boolean, isBalance = false): string => {
    const existing = accountNames.get(plainName(name));
    const own = view.accounts.find((a) => a.key === existing);
    // An account of the books is not fed from another file unless someone says so.
    if (own && !view.datasets.some((d) => d.accounts.has(own.key))) return own.key;
    const account = newAccount(
      name,
      { isQuantity, isBalance },
      { said: `${name} ${title} ${heading}`, beside: profiles.map((profile) => profile.name).join(" ") },
      accountKeys,
    );
    accountKeys.add(account.key);
    creates.accounts.push(account);
    return account.key;
  };

  let fixedAccount: string | null = null;
  if (byScenario) {
    if (!taken.has("account")) fixedAccount = createAccount(title, false);
    for (const p of scenarioColumns)
      columns[p.name] = { as: "amount", account: null, scenario: scenarioOfHead(p.name, view, scenarioNames)! };
  } else {
    const ownMeasures = !taken.has("account");
    for (const p of numbers) {
      // What a share of a count gives is a count too, whatever it is called: sales of calls.
      const isCounted = [...apart.values()].some(
        ({ ratio }) => ratio?.isPercent && ratio.amount === p.name && QUANTITY_NAME.test(ratio.count),
      );
      const isQuantity =
        isCounted || (QUANTITY_NAME.test(p.name) && !EXPENSE_NAME.test(p.name) && !INCOME_NAME.test(p.name));
      const evidence = apart.get(p.name);
      if (evidence && evidence.nature !== "code") continue;
      const side = ledger.get(p.name);
      if (side !== undefined) {
        columns[p.name] = { as: "amount", account: null, scenario: null, side };
        continue;
      }
      if (REFERENCE_NAME.test(p.name) && !AMOUNT_NAME.test(p.name) && !isQuantity) {
        if (!taken.has("reference")) take(p.name, { as: "reference" });
        continue;
      }
      if (evidence) continue;
      columns[p.name] = {
        as: isQuantity ? "quantity" : "amount",
        // Months that were laid out as columns have no head of their own: what they are of is said above them.
        account: ownMeasures
          ? createAccount(
              /^Amount( \d+)?$/.test(p.name) ? (measureOf(heading) ?? p.name) : p.name,
              isQuantity,
              balances.has(p.name),
            )
          : null,
        scenario: null,
      };
    }
  }

  const brought =
    isNew && taken.has("account") ? proposeAccounts(profiles, { sample, raw }, columns, accountKeys) : undefined;
  if (brought) {
    creates.accounts.push(...brought.accounts);
    for (const name of [brought.nameColumn, ...brought.classColumns])
      if (name !== null) columns[name] = { as: "ignore" };
  }
  if (isNew) {
    const grain = grainOf(profiles, columns, valuesOf, view);
    creates.dataset = { name: title, grain };
    const free = MOST_DIMENSIONS - view.dimensions.length;
    const dimensionKeys = new Set(view.dimensions.map((d) => d.key));
    const candidates = profiles.filter(
      (p) =>
        p.type === "text" && !columns[p.name] && !apart.has(p.name) && !SLOTS_LEFT_OUT.test(p.name) && isRepeated(p),
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
  // A title, or a column's head, that speaks of one currency says what its amounts are in.
  const fixedCurrency = taken.has("currency")
    ? undefined
    : (currencyInTitle(heading, view.currency) ?? currencyInTitle(fileName, view.currency));
  for (const [name, meaning] of Object.entries(columns)) {
    const own = meaning.as === "amount" ? currencyInHead(name, view.currency) : undefined;
    if (meaning.as === "amount" && own !== undefined && own !== (fixedCurrency ?? view.currency))
      columns[name] = { ...meaning, currency: own };
  }
  const mapping: Mapping = {
    dataset: dataset?.key ?? newKey(title, new Set(view.datasets.map((d) => d.key)), "-"),
    columns,
    dateFormat,
    fixed: {
      scenario,
      account: fixedAccount,
      month: null,
      ...(fixedCurrency === undefined || fixedCurrency === view.currency ? {} : { currency: fixedCurrency }),
    },
    sign: "own",
    fractions: "stop",
    apart: Object.fromEntries([...apart].map(([name, { why, ratio }]) => [name, { why, ...(ratio ? { ratio } : {}) }])),
    ...(brought && brought.sums.length > 0 ? { sums: brought.sums } : {}),
    accounts: brought?.decisions ?? {},
    scenarios: {},
    members: {},
    creates,
  };
  return {
    ...mapping,
    sign:
      ledger.size > 0
        ? "debit"
        : isNew && !brought
          ? "own"
          : signRuleOf(mapping, sample, plannedView(view, mapping), markOf(profiles)),
  };
}

const DEBIT = wholeWords("debit|debits|soll|débit|dr");
const CREDIT = wholeWords("credit|credits|haben|crédit|cr");
const CLOSING = wholeWords("closing|closing balance|balance|saldo|endsaldo|solde");

/** The columns of a trial balance, where both sides are there; none else. */
function ledgerSides(numbers: readonly ColumnProfile[]): ReadonlyMap<string, LedgerSide> {
  const one = (pattern: RegExp) => numbers.filter(({ name }) => pattern.test(name));
  const [debit, credit] = [one(DEBIT), one(CREDIT)];
  if (debit.length !== 1 || credit.length !== 1 || debit[0] === credit[0]) return new Map();
  const closing = one(CLOSING).filter((own) => own !== debit[0] && own !== credit[0]);
  return new Map<string, LedgerSide>([
    [debit[0]!.name, "debit"],
    [credit[0]!.name, "credit"],
    ...(closing.length === 1 ? [[closing[0]!.name, "closing"] as const] : []),
  ]);
}

/** What a title says is measured: "Sales" of "Sales 2026, in USD thousand"; `undefined` where it says nothing. */
function measureOf(heading: string): string | undefined {
  const plain = heading
    .replace(/\b(?:FY)?(?:19|20)?\d\d\b|\(.*?\)|,.*$|\b(?:in|by)\b.*$/gi, " ")
    .replace(/\s+/g, " ")
    .trim();
  return plain === "" || plain.length > 40 ? undefined : plain[0]!.toUpperCase() + plain.slice(1);
}

/** Facts keep the members of at most this many dimensions. */
export const MOST_DIMENSIONS = 8;

/** The decimal mark most number columns are written with, where any of them tells. */
export function markOf(profiles: readonly ColumnProfile[]): DecimalMark {
  const numbers = profiles.filter((p) => p.type === "number");
  const telling = numbers.filter((p) => p.tellsMark);
  // Columns that are too short to tell do so together.
  if (telling.length === 0) return detectDecimalMark(numbers.flatMap(({ examples }) => examples)).mark;
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

function newAccount(
  name: string,
  { isQuantity, isBalance }: { readonly isQuantity: boolean; readonly isBalance: boolean },
  { said, beside }: { readonly said: string; readonly beside: string },
  taken: ReadonlySet<string>,
): NewAccount {
  const base = { key: newKey(name, taken, "_"), name, behaviour: isBalance ? ("balance" as const) : ("flow" as const) };
  if (isQuantity) return { ...base, kind: "statistic", unit: { kind: "count", of: name.toLowerCase() }, decimals: 0 };
  const isNamed = EXPENSE_NAME.test(said) || INCOME_NAME.test(said);
  const isSpent = isNamed ? EXPENSE_NAME.test(said) && !INCOME_NAME.test(name) : SPENT_BY.test(beside);
  const kind = isSpent ? "expense" : "income";
  const isGuess = !isNamed && !isBalance && SPENT_BY.test(beside) === SOLD_TO.test(beside);
  return { ...base, kind, unit: { kind: "money" }, decimals: 2, ...(isGuess ? { isGuess } : {}) };
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
