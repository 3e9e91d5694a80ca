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
import { formatMonth, monthsBetween } from "../calendar/month.ts";
import { profileColumns, type ColumnProfile } from "../reading/column-profile.ts";
import { detectDateFormat, readDate, type DateFormat } from "../reading/read-date.ts";
import { detectDecimalMark, readNumber, type DecimalMark } from "../reading/read-number.ts";
import { readLabel, type Label } from "../reading/table/label.ts";
import { monthOfParts, saysMonth } from "../reading/table/period-parts.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { natureOfName, type MeasureNature } from "./measure-nature.ts";
import { SCENARIO_CODES } from "./understand-rows.ts";
import { isAmountWord, type Understanding } from "./understand-table.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { tidyTable } from "../tidy/tidy-run.ts";
import { TOTAL_WORDS } from "../tidy/steps/skip-totals.ts";
import { listed } from "../formats/listed.ts";
import type {
  Doubt,
  LedgerSide,
  Mapping,
  Meaning,
  NameDecision,
  NewAccount,
  NewStructure,
  SignRule,
} from "./mapping.ts";
import { plannedView, type DatasetShape, type MappingView } from "./mapping-view.ts";
import { proposeAccounts } from "./propose-accounts.ts";
import { areCurrencies } from "../currency/currency-code.ts";
import { proposeRates, proposeRateSteps } from "./propose-rates.ts";
import { currencyInHead, currencyInTitle } from "../currency/currency-code.ts";
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
export function proposeSteps(
  sample: Sample,
  view: MappingView,
  { title, understood }: { readonly title: string; readonly understood: Understanding | undefined },
): TidyStep[] {
  const steps: TidyStep[] = [];
  const figures = new Set(understood?.body.figures.map((place) => sample.columns[place]!));
  // Columns that can only be read with the other decimal mark are brought to the file's own.
  const profiles = profileColumns(sample.columns, sample.rows, view.calendar).filter(
    ({ name }) => !understood || figures.has(name),
  );
  const mark = markOf(profiles);
  const others = profiles.filter((p) => p.type === "number" && p.tellsMark && p.mark !== mark).map(({ name }) => name);
  if (others.length > 0) steps.push({ kind: "number-format", columns: others, mark: mark === "," ? "." : "," });
  // Total rows stand at the end, out of the sample's sight: skipping them costs nothing when there are none.
  const hasText = sample.rows.some((row) => row.some((cell) => cell !== "" && !readNumber(cell, ".")));
  if (hasText)
    steps.push(
      { kind: "skip-totals", words: [...TOTAL_WORDS] },
      { kind: "skip-notes" },
      ...proposeSkipSums(sample, profiles, view),
    );
  const ofRates = proposeRateSteps(sample, title, view);
  return [
    ...(understood?.firstSteps ?? []),
    ...steps,
    ...(ofRates.length > 0 ? ofRates : (understood?.steps ?? []).map((step) => plainTurn(step, view))),
  ];
}

/** Columns that are called as their months are written need no list of months beside them. */
function plainTurn(step: TidyStep, { calendar }: MappingView): TidyStep {
  if (step.kind !== "turn" || step.into.length !== 1) return step;
  const names = step.turned.map(({ name }) => name);
  const format = detectDateFormat(names, calendar)?.format;
  const isPlain =
    format !== undefined &&
    step.turned.every(({ name, texts }) => {
      const [own, said] = [readDate(name, format, calendar), readDate(texts[0]!, "iso", calendar)];
      return own !== undefined && own.month === said?.month && own.day === said.day;
    });
  return isPlain ? { kind: "unpivot", columns: names, nameInto: step.into[0]!, valueInto: step.valueInto } : step;
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
    understood,
  }: {
    view: MappingView;
    fileName: string;
    heading?: string;
    /** The rows as they stand in the file: headings without amounts do not outlive the steps. */
    raw?: Sample;
    /** The structure of the table, where it was understood. */
    understood?: Understanding | undefined;
  },
): Mapping {
  const ofRates = proposeRates(profiles, sample, { view, title: `${heading} ${fileName.replace(/[_.]+/g, " ")}` });
  if (ofRates) return ofRates;
  const told = [...sample.rows, ...(sample.further ?? [])];
  const valuesOf = (i: number) => [...new Set(told.map((row) => (row[i] ?? "").trim()))].filter((v) => v !== "");
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
  const hints = understood?.hints ?? {};
  const isUnderstood = profiles.some(({ name }) => hints[name]?.as === "amount");
  profiles.forEach((profile, i) => {
    const { name, type } = profile;
    const hint = hints[name];
    if (isUnderstood && hint !== undefined) {
      if (hint.as === "period" || hint.as === "scenario" || hint.as === "account") {
        if (!taken.has(hint.as)) take(name, { as: hint.as });
        return;
      }
      if (hint.as === "amount" || hint.as === "apart") return;
    }
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

  // What steps computed has no heading of its own in the file.
  const isMade = (name: string) => hints[name] === undefined && !(understood?.columns ?? []).includes(name);
  const numbers = profiles.filter((p, i) =>
    isUnderstood
      ? hints[p.name]?.as === "amount" || (p.type === "number" && isMade(p.name))
      : !columns[p.name] && (p.type === "number" || isAmountByName(p, valuesOf(i))),
  );
  const { apart: weighed, balances } = weighColumns(profiles, sample);
  const apart = new Map(weighed);
  for (const { name } of profiles) {
    const hint = hints[name];
    if (isUnderstood && hint?.as === "apart" && !apart.has(name)) apart.set(name, { nature: "derived", why: hint.why });
  }
  // "Soll" is a debit beside "Haben", and a budget elsewhere.
  const ledger = taken.has("account") ? ledgerSides(numbers) : new Map<string, LedgerSide>();
  const scenarioColumns = numbers.filter(
    (p) => !ledger.has(p.name) && scenarioOfHead(p.name, view, scenarioNames) !== undefined,
  );
  const byScenario = !isUnderstood && scenarioColumns.length >= 1 && !taken.has("scenario");
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
  const createAccount = (
    name: string,
    {
      isQuantity = false,
      isBalance = false,
      decimals = 0,
    }: { isQuantity?: boolean; isBalance?: boolean; decimals?: number },
  ): string => {
    const existing = accountNames.get(plainName(name));
    const own = view.accounts.find((a) => a.key === existing);
    // An account of the books is not fed from another file unless someone says so.
    if (own && !view.datasets.some((d) => d.accounts.has(own.key))) return own.key;
    const account = newAccount(
      name,
      { isQuantity, isBalance, decimals },
      { said: `${name} ${title} ${heading}`, beside: profiles.map((profile) => profile.name).join(" ") },
      accountKeys,
    );
    accountKeys.add(account.key);
    creates.accounts.push(account);
    return account.key;
  };

  let fixedAccount: string | null = null;
  if (byScenario) {
    if (!taken.has("account")) fixedAccount = createAccount(title, {});
    for (const p of scenarioColumns)
      columns[p.name] = { as: "amount", account: null, scenario: scenarioOfHead(p.name, view, scenarioNames)! };
  } else if (isUnderstood) {
    const measures = new Map<string, string>();
    const natures = new Set(
      numbers.map(({ name }) => {
        const own = hints[name];
        return natureOfName((own?.as === "amount" ? own.measure : null) ?? name);
      }),
    );
    for (const p of numbers) {
      const own = hints[p.name];
      const hint = own?.as === "amount" ? own : { measure: p.name, scenario: null };
      const side = ledger.get(p.name);
      const evidence = apart.get(p.name);
      if (side !== undefined) {
        columns[p.name] = { as: "amount", account: null, scenario: null, side };
        continue;
      }
      const said = hint.measure ?? understood?.title.measure ?? null;
      const nature = said === null ? undefined : natureOfName(said);
      if (evidence && evidence.nature !== "code") continue;
      if (nature === "rate" || nature === "price") {
        apart.set(p.name, {
          nature,
          why:
            nature === "rate"
              ? "is a rate by its name: rates do not add up"
              : "is a price by its name: prices do not add up",
        });
        continue;
      }
      if (nature === "result" && natures.has("income") && natures.has("expense")) {
        apart.set(p.name, {
          nature: "derived",
          why: "is a result: it follows from what is earned and spent beside it",
        });
        continue;
      }
      const scenario = hint.scenario === null ? null : scenarioOfLabel(hint.scenario, view);
      if (scenario === undefined) {
        apart.set(p.name, {
          nature: "scenario",
          why: `is of “${hint.scenario!.scenarioText}”, and there is no such version: add it under Structure, or choose another`,
        });
        continue;
      }
      // What a share of a count gives is a count too, whatever it is called: sales of calls.
      const isShare = [...apart.values()].some(
        ({ ratio }) => ratio?.isPercent && ratio.amount === p.name && natureOfName(ratio.count) === "count",
      );
      const isCounted = isShare || nature === "count" || nature === "count-balance";
      const isBare = hint.scenario !== null || isAmountWord(p.name) || /^Amount( \d+)?$/.test(p.name);
      const name = said ?? (isBare ? (measureOf(heading) ?? title) : p.name);
      const account = taken.has("account")
        ? null
        : getOrCreate(measures, name, () =>
            createAccount(name, {
              isQuantity: isCounted,
              isBalance: balances.has(p.name) || isBalanceNature(nature),
              decimals: decimalsOf(profiles.indexOf(p), sample, p.mark),
            }),
          );
      columns[p.name] = { as: isCounted ? "quantity" : "amount", account, scenario };
    }
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
          ? createAccount(/^Amount( \d+)?$/.test(p.name) ? (measureOf(heading) ?? p.name) : p.name, {
              isQuantity,
              isBalance: balances.has(p.name),
            })
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
        (p.type === "text" || hints[p.name]?.as === "dimension") &&
        !columns[p.name] &&
        (!apart.has(p.name) || hints[p.name]?.as === "dimension") &&
        !SLOTS_LEFT_OUT.test(p.name) &&
        isRepeated(p),
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
  const ofTitle = understood?.title.scenario ? scenarioOfLabel(understood.title.scenario, view) : undefined;
  const scenario = taken.has("scenario") || byScenario ? null : (ofTitle ?? scenarioOf(fileName, view));
  const titleMonth = understood && monthOfParts(understood.title.period, view.calendar);
  const month =
    period === undefined && titleMonth !== undefined && saysMonth(understood!.title.period)
      ? formatMonth(titleMonth)
      : null;
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
      month,
      ...(fixedCurrency === undefined || fixedCurrency === view.currency ? {} : { currency: fixedCurrency }),
    },
    sign: "own",
    fractions: "stop",
    apart: Object.fromEntries([...apart].map(([name, { why, ratio }]) => [name, { why, ...(ratio ? { ratio } : {}) }])),
    ...(brought && brought.sums.length > 0 ? { sums: brought.sums } : {}),
    accounts: brought?.decisions ?? {},
    scenarios: decideScenarios(profiles, columns, valuesOf, view),
    members: {},
    creates,
  };
  if (ledger.size > 0) return { ...mapping, sign: "debit" };
  const doubts = alikeDoubts(understood?.alike ?? []);
  if (isNew && !brought) return { ...mapping, ...(doubts.length > 0 ? { doubts } : {}) };
  const { sign, doubt } = signRuleOf(mapping, sample, plannedView(view, mapping), markOf(profiles));
  const all = doubt ? [...doubts, doubt] : doubts;
  return { ...mapping, sign, ...(all.length > 0 ? { doubts: all } : {}) };
}

/** Columns that only their place tells apart are asked about. */
function alikeDoubts(names: readonly string[]): Doubt[] {
  if (names.length === 0) return [];
  return [
    {
      key: "alike",
      text: `Several columns say the same of what they hold: ${list(names)}. Posting adds them up. If one is a total or another version, choose what each means first.`,
      ways: [{ name: "Add them up" }],
      settled: null,
    },
  ];
}

const list = (names: readonly string[]) =>
  names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : listed(names);

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

/** How the file signs its amounts, by what most of them are; a question where they are too few, or as many of either sign. */
function signRuleOf(
  mapping: Mapping,
  sample: Sample,
  view: MappingView,
  mark: DecimalMark,
): { sign: SignRule; doubt: Doubt | null } {
  const accountPlace = sample.columns.findIndex((name) => mapping.columns[name]?.as === "account");
  const places = sample.columns.flatMap((name, i) => (mapping.columns[name]?.as === "amount" ? [i] : []));
  const names = indexNames(view.accounts);
  const kinds = new Map(view.accounts.map((a) => [a.key, a.kind]));
  const signs = { income: { negative: 0, all: 0 }, expense: { negative: 0, all: 0 } };
  for (const row of sample.rows) {
    const kind = kinds.get(names.get(plainName(row[accountPlace] ?? "")) ?? "");
    if (kind !== "income" && kind !== "expense") continue;
    for (const place of places) {
      const value = readNumber(row[place] ?? "", mark);
      if (!value || value.units === 0) continue;
      signs[kind].all += 1;
      if (value.units < 0) signs[kind].negative += 1;
    }
  }
  // A credit note or a refund now and then says nothing of the rule; what most amounts are does.
  const areNegative = ({ negative, all }: Signs) => negative * 2 > all;
  const sign = areNegative(signs.expense)
    ? areNegative(signs.income)
      ? "own"
      : "result"
    : areNegative(signs.income)
      ? "debit"
      : "own";
  const isOpen = ({ negative, all }: Signs) =>
    negative > 0 && (all < FEW_SIGNS || (negative > all * 0.3 && negative < all * 0.7));
  const [kind, own] = isOpen(signs.income)
    ? (["income", signs.income] as const)
    : (["expense", signs.expense] as const);
  if (!isOpen(own)) return { sign, doubt: null };
  const other: SignRule = kind === "income" ? "debit" : "result";
  return {
    sign,
    doubt: {
      key: "sign",
      text: `${own.negative} of ${own.all} ${kind === "income" ? "income" : "cost"} amounts in the first rows ${own.negative === 1 ? "is" : "are"} negative. Do they reduce ${kind === "income" ? "income" : "costs"}, or does the file write ${kind === "income" ? "income" : "costs"} with a minus?`,
      ways: [
        { name: `They reduce ${kind === "income" ? "income" : "costs"}`, sign: "own" },
        { name: `${kind === "income" ? "Income" : "Costs"} have a minus`, sign: other },
      ],
      settled: null,
    },
  };
}

interface Signs {
  readonly negative: number;
  readonly all: number;
}

/** So few amounts do not tell how a file signs them. */
const FEW_SIGNS = 4;

function newAccount(
  name: string,
  {
    isQuantity,
    isBalance,
    decimals,
  }: { readonly isQuantity: boolean; readonly isBalance: boolean; readonly decimals: number },
  { said, beside }: { readonly said: string; readonly beside: string },
  taken: ReadonlySet<string>,
): NewAccount {
  const base = { key: newKey(name, taken, "_"), name, behaviour: isBalance ? ("balance" as const) : ("flow" as const) };
  if (isQuantity) return { ...base, kind: "statistic", unit: { kind: "count", of: name.toLowerCase() }, decimals };
  const money = { ...base, unit: { kind: "money" } as const, decimals: 2 };
  const nature = natureOfName(name);
  if (nature === "asset" || nature === "liability" || nature === "equity")
    return { ...money, kind: nature, behaviour: "balance" };
  if (nature === "income" || nature === "expense") return { ...money, kind: nature };
  const isNamed = EXPENSE_NAME.test(said) || INCOME_NAME.test(said);
  const isSpent = isNamed ? EXPENSE_NAME.test(said) && !INCOME_NAME.test(name) : SPENT_BY.test(beside);
  const isGuess = !isNamed && !isBalance && SPENT_BY.test(beside) === SOLD_TO.test(beside);
  return { ...money, kind: isSpent ? "expense" : "income", ...(isGuess ? { isGuess } : {}) };
}

function isBalanceNature(nature: MeasureNature | undefined): boolean {
  return nature === "count-balance" || nature === "asset" || nature === "liability" || nature === "equity";
}

/** Digits behind the mark that a column's numbers are written with, at most four. */
function decimalsOf(place: number, sample: Sample, mark: DecimalMark): number {
  return Math.min(4, Math.max(0, ...sample.rows.map((row) => readNumber(row[place] ?? "", mark)?.decimals ?? 0)));
}

/** The scenario that a label names: by its own name, or by its kind where only one is of that kind. */
function scenarioOfLabel({ scenario: kind, scenarioText, text }: Label, view: MappingView): string | undefined {
  const names = indexNames(view.scenarios);
  const own = names.get(plainName(text)) ?? names.get(plainName(scenarioText));
  if (own !== undefined) return own;
  const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
  return ofKind.length === 1 ? ofKind[0]!.key : undefined;
}

/** What the texts of a column of scenarios stand for, where they are not called so here: "Ist", "FC", "B". */
function decideScenarios(
  profiles: readonly ColumnProfile[],
  columns: Readonly<Record<string, Meaning>>,
  valuesOf: (place: number) => string[],
  view: MappingView,
): Record<string, NameDecision> {
  const place = profiles.findIndex((p) => columns[p.name]?.as === "scenario");
  const names = indexNames(view.scenarios);
  const texts = place < 0 ? [] : valuesOf(place).filter((text) => !names.has(plainName(text)));
  const kindOf = (text: string) => readLabel(text).scenario ?? SCENARIO_CODES[text.toUpperCase()];
  return Object.fromEntries(
    texts.flatMap((text): [string, NameDecision][] => {
      const kind = kindOf(text);
      if (kind === "prior-year") return [[text, { reject: true }]];
      const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
      // Two texts of one kind are two versions: a person says which is which.
      const isOnly = texts.filter((other) => kindOf(other) === kind).length === 1;
      return ofKind.length === 1 && isOnly ? [[text, { to: ofKind[0]!.key }]] : [];
    }),
  );
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
