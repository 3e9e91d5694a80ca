import type { Account } from "../accounts/account.ts";
import { fiscalQuarterStart } from "../calendar/fiscal-calendar.ts";
import { parseMonth } from "../calendar/month.ts";
import type { Fact } from "../cube/fact.ts";
import { readDate, type ReadDate } from "../reading/read-date.ts";
import type { Decimal } from "../figures/exact-sum.ts";
import { readNumber, roundUnits, toUnits, type DecimalMark } from "../reading/read-number.ts";
import { writeDecimal } from "../reading/write-decimal.ts";
import { monthName, yearOf } from "../calendar/month.ts";
import type { TidyRow } from "../tidy/row.ts";
import type { LineRule } from "./line-rule.ts";
import type { Mapping, Meaning, NameDecision, SignRule, ValueMeaning } from "./mapping.ts";
import { bringsRates, openDimensions, plannedView, type MappingView } from "./mapping-view.ts";
import { currencyCode, currencyWithAmount } from "../currency/currency-code.ts";
import { convertAmount, rateKindOf, ratePlace } from "../currency/rate.ts";
import { rateKindsOf, RATES_DIMENSION } from "../currency/rates-dataset.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { indexNames, newKey, plainName } from "../reading/names.ts";
import { RunningBalances } from "./running-balances.ts";

/** A line that makes no fact: which rule, which column, what stands there. */
export interface LineFault {
  readonly line: number;
  readonly rule: LineRule;
  readonly column: string;
  readonly value: string;
  readonly cells: readonly string[];
}

/** A fact with the line it came from, and its amount as the file has it. */
export interface MappedFact {
  readonly fact: Fact;
  readonly line: number;
  /** The amount as it stands in the file; `isQuantity` when it counts things rather than money. */
  readonly units: number;
  readonly decimals: number;
  readonly isQuantity: boolean;
  /** Whether digits were rounded away. */
  readonly isRounded: boolean;
  /** Whether it is a balance that lines of movements add up to: those lines were counted one by one. */
  readonly isRunning?: boolean;
}

/** A member that comes with the rows. */
export interface NewMember {
  readonly dimension: string;
  readonly key: string;
  readonly name: string;
  readonly parent: string | null;
}

/** Rows becoming facts. */
export interface MappingRun {
  take(row: TidyRow): void;
  /** After the last row: what rows only give together. */
  end(): void;
  /** Members that the rows and the decisions bring, in the order in which they came. */
  readonly newMembers: () => NewMember[];
  /** Accounts that decisions bring. */
  readonly newAccounts: () => Account[];
  /** By dimension, the members that rows named. */
  readonly usedMembers: () => ReadonlyMap<string, ReadonlySet<string>>;
}

/** Where mapped rows go. */
export interface MappingSink {
  fact(mapped: MappedFact): void;
  /** An amount of another currency, whether there is a rate for it or not. */
  foreign(amount: Decimal & { readonly currency: string }): void;
  /** What moved a balance, which comes as a fact in the end. */
  moved(value: Pick<MappedFact, "units" | "decimals" | "isQuantity">): void;
  fault(fault: LineFault): void;
}

/** What is missing before rows can be mapped at all, each as a sentence with the way out. */
export function mappingProblems(mapping: Mapping, columns: readonly string[], view: MappingView): string[] {
  const planned = plannedView(view, mapping);
  const meanings = columns.map((name) => mapping.columns[name]).filter((m) => m !== undefined);
  const has = (as: Meaning["as"]) => meanings.some((m) => m.as === as);
  const values = meanings.filter(isValue);
  const problems: string[] = [];
  // What was found out about the columns says why.
  const whys = Object.entries(mapping.apart ?? {}).map(([name, { why }]) => `${name} ${why}.`);
  const dataset = planned.datasets.find((d) => d.key === mapping.dataset);
  if (!dataset) problems.push("No dataset is chosen. Choose where the rows go, or make a new one.");
  if (!has("period") && parseMonth(mapping.fixed.month ?? "") === undefined)
    problems.push(
      [
        "No column says which period a row belongs to. Mark one as period, or choose one month for all rows.",
        ...whys,
      ].join(" "),
    );
  if (values.length === 0)
    problems.push(
      ["No column holds an amount that adds up. Mark at least one as amount or quantity.", ...whys].join(" "),
    );
  if (!has("account") && mapping.fixed.account === null && values.some((m) => m.account === null))
    problems.push(
      "No column says which account an amount belongs to. Mark one as account, or choose one for all rows.",
    );
  if (!has("scenario") && mapping.fixed.scenario === null && values.some((m) => m.scenario === null))
    problems.push("Nothing says which scenario this is. Choose actual, or a version of budget, forecast or target.");
  if (bringsRates(mapping) && !has("currency"))
    problems.push("No column says which currency a rate is of. Mark one as currency.");
  if (bringsRates(mapping) && mapping.priced === undefined)
    problems.push(
      `Nothing says which way round the rates are. Choose whether they say what one unit of a currency costs in ${view.currency}, or what one ${view.currency} costs in it.`,
    );
  for (const once of ["period", "account", "scenario", "reference", "currency"] as const) {
    const names = columns.filter((name) => mapping.columns[name]?.as === once);
    if (names.length > 1) problems.push(`${names.join(" and ")} are both marked as ${once}. Keep one of them.`);
  }
  const accounts = new Set(planned.accounts.map((a) => a.key));
  const named = [mapping.fixed.account, ...values.map((m) => m.account)].filter((key) => key !== null);
  const missing = named.find((key) => !accounts.has(key));
  if (missing !== undefined) problems.push(`There is no account "${missing}" any more. Choose another.`);
  for (const meaning of meanings) {
    if (meaning.as !== "dimension") continue;
    const dimension = planned.dimensions.find((d) => d.key === meaning.dimension);
    if (!dimension) problems.push(`There is no dimension "${meaning.dimension}" any more. Choose another.`);
    else if (dataset && !dataset.dimensions.includes(dimension.key))
      problems.push(
        `${dataset.name} is not kept by ${dimension.name.toLowerCase()}. Ignore the column, or add the dimension to the dataset.`,
      );
  }
  return problems;
}

/**
 * Starts turning rows into facts. Names are found by name, key or alias whatever their
 * case; a person's decision goes first. Each distinct text is looked up once. The
 * mapping must have no `mappingProblems`.
 */
export function startMapping(
  mapping: Mapping,
  columns: readonly string[],
  {
    view,
    mark,
    rejectedLines,
    sink,
  }: { view: MappingView; mark: DecimalMark; rejectedLines: ReadonlySet<number>; sink: MappingSink },
): MappingRun {
  const planned = plannedView(view, mapping);
  const grain = planned.datasets.find((d) => d.key === mapping.dataset)!.grain;
  const placeOf = (as: Meaning["as"]) => columns.findIndex((name) => mapping.columns[name]?.as === as);
  const newMembers: NewMember[] = [];
  const newAccounts: Account[] = [];
  const accountTexts = accountResolver(mapping, planned, newAccounts);
  const scenarioTexts = resolver(mapping.scenarios, planned.scenarios, () => undefined);
  const fixedMonth = parseMonth(mapping.fixed.month ?? "");
  const fixedDate: KeptDate | undefined =
    fixedMonth === undefined ? undefined : { month: fixedMonth, day: null, written: null };
  const fixedAccount = mapping.fixed.account === null ? undefined : accountTexts.byKey(mapping.fixed.account);
  const dates = new Map<string, KeptDate | undefined>();
  const dateOf = (text: string): KeptDate | undefined => {
    if (dates.has(text)) return dates.get(text);
    const date = readDate(text, mapping.dateFormat, planned.calendar);
    const kept = date && {
      month: grain === "quarter" ? fiscalQuarterStart(planned.calendar, date.month) : date.month,
      day: grain === "day" ? date.day : null,
      written: date.day,
    };
    // A daily dataset needs the day.
    const whole = kept && grain === "day" && kept.day === null ? undefined : kept;
    if (dates.size < 100_000) dates.set(text, whole);
    return whole;
  };

  const made = openDimensions(mapping);
  // In the dimensions' order, so that equal members look equal whatever the order of the columns.
  const order = planned.dimensions.map((d) => d.key);
  const isOfRates = bringsRates(mapping);
  const members = columns
    .flatMap((name, place) => {
      const meaning = mapping.columns[name];
      if (isOfRates) return meaning?.as === "currency" ? [{ name, place, dimension: RATES_DIMENSION }] : [];
      return meaning?.as === "dimension" ? [{ name, place, dimension: meaning.dimension }] : [];
    })
    .sort((a, b) => order.indexOf(a.dimension) - order.indexOf(b.dimension));
  const memberTexts = new Map(
    [...new Set(members.map((m) => m.dimension))].map((key) => {
      const dimension = planned.dimensions.find((d) => d.key === key)!;
      const taken = new Set(dimension.members.map((m) => m.key));
      const create = (name: string, parent: string | null) => {
        const member = { dimension: key, key: newKey(name, taken, "-"), name, parent };
        taken.add(member.key);
        newMembers.push(member);
        return member.key;
      };
      return [
        key,
        resolver(mapping.members[key] ?? {}, dimension.members, (text, decision) =>
          decision
            ? create(decision.name, decision.parent)
            : made.has(key)
              ? create(text.trim().normalize("NFC"), null)
              : undefined,
        ),
      ] as const;
    }),
  );
  const memberColumns = members.map((column) => ({ ...column, texts: memberTexts.get(column.dimension)! }));
  const periodPlace = placeOf("period");
  const accountPlace = placeOf("account");
  const scenarioPlace = placeOf("scenario");
  const referencePlace = placeOf("reference");
  const currencyPlace = isOfRates ? -1 : placeOf("currency");
  const fixedCurrency = mapping.fixed.currency ?? planned.currency;
  const seenRates = new Set<string>();
  const values = columns.flatMap((name, place) => {
    const meaning = mapping.columns[name];
    if (!meaning || !isValue(meaning)) return [];
    const own = meaning.account === null ? undefined : accountTexts.byKey(meaning.account);
    return [
      {
        name,
        place,
        own,
        scenario: meaning.scenario,
        isQuantity: meaning.as === "quantity",
        side: meaning.side,
        currency: meaning.currency,
      },
    ];
  });
  const byRow = values.filter((v) => v.own === undefined && v.side === undefined);
  const hasBoth = byRow.some((v) => v.isQuantity) && byRow.some((v) => !v.isQuantity);
  const hasClosing = values.some((v) => v.side === "closing");
  const accumulates = mapping.movements === "accumulate" && grain !== "day";
  const running = new RunningBalances();
  // Where rows have days and months are kept, a balance on two days of a month is not to be added up.
  const dayOf = new Map<string, number>();
  const hasSecondDay = (account: Account, scenario: string, date: KeptDate): boolean => {
    if (grain === "day" || date.written === null || account.behaviour !== "balance") return false;
    const key = `${account.key}\n${scenario}\n${date.month}`;
    const day = getOrCreate(dayOf, key, () => date.written!);
    return day !== date.written;
  };

  const converted = (value: Decimal, currency: string, account: Account, { month }: KeptDate) => {
    // Of a quarter there is no rate.
    const rate = grain === "quarter" ? undefined : planned.rates.get(ratePlace(currency, month, rateKindOf(account)));
    return rate === undefined ? "no rate" : (convertAmount(value, rate, account.decimals) ?? "too-large");
  };

  // One function for all rows, rather than one made anew for each: millions go by.
  let current: TidyRow = { line: 0, cells: [] };
  const cell = (place: number) => {
    const text = current.cells[place];
    return text === undefined || text === "" ? "" : text.trim();
  };
  const fault = (rule: LineRule, column: string, value: string) =>
    sink.fault({ line: current.line, rule, column, value, cells: current.cells });

  return {
    newMembers: () => newMembers,
    newAccounts: () => newAccounts,
    usedMembers: () => new Map([...memberTexts].map(([key, texts]) => [key, texts.found()])),
    take(row) {
      current = row;
      if (rejectedLines.has(row.line)) return fault("rejected-line", "", "");
      let date = fixedDate;
      if (periodPlace >= 0) {
        const text = cell(periodPlace);
        if (text === "" && !fixedDate) return fault("no-period", columns[periodPlace]!, "");
        if (text !== "") date = dateOf(text);
        if (!date) return fault("unreadable-period", columns[periodPlace]!, text);
      }
      let rowAccount: AccountResult | undefined = fixedAccount;
      if (accountPlace >= 0) {
        rowAccount = accountTexts.find(cell(accountPlace));
        if ("rule" in rowAccount) return fault(rowAccount.rule, columns[accountPlace]!, cell(accountPlace));
      }
      let rowScenario: string | null = mapping.fixed.scenario;
      if (scenarioPlace >= 0) {
        const found = scenarioTexts.find(cell(scenarioPlace));
        if (found === null || found === undefined)
          return fault(
            found === null ? "rejected-name" : "unknown-scenario",
            columns[scenarioPlace]!,
            cell(scenarioPlace),
          );
        rowScenario = found;
      }
      const rowMembers: Record<string, string> = {};
      for (const { name, place, dimension, texts } of memberColumns) {
        const text = cell(place);
        if (text === "" && !isOfRates) continue;
        const found = texts.find(text);
        if (found === null || found === undefined)
          return fault(found === null ? "rejected-name" : "unknown-member", name, text);
        rowMembers[dimension] = found;
      }
      const rowCurrency = currencyPlace < 0 || cell(currencyPlace) === "" ? null : currencyCode(cell(currencyPlace));
      const reference = referencePlace < 0 ? null : cell(referencePlace) || null;
      let written = 0;
      let firstEmpty = "";
      for (const { name, place, own, scenario, isQuantity, side, currency: columnCurrency } of values) {
        const result = own ?? rowAccount;
        if (!result || "rule" in result) continue;
        const { account } = result;
        const counts = account.unit.kind === "count";
        // Amounts and quantities side by side: the row's account says which of them is meant.
        if (!own && side === undefined && hasBoth && counts !== isQuantity) continue;
        const moves =
          account.behaviour === "balance" &&
          (accumulates
            ? side === undefined || !hasClosing
            : (side !== undefined && !hasClosing) || hasSecondDay(account, scenario ?? rowScenario!, date!));
        if (moves && !accumulates) return fault("movement-of-balance", columns[accountPlace] ?? name, account.name);
        // What there is at the end says it for balances; for the others, what was posted to both sides.
        if (side !== undefined && hasClosing && (side === "closing") !== (account.behaviour === "balance")) continue;
        const text = cell(place);
        if (text === "") {
          firstEmpty ||= name;
          continue;
        }
        const value = readNumber(text, mark);
        if (!value) return fault("unreadable-amount", name, text);
        const writtenCurrency = counts || isOfRates ? undefined : currencyWithAmount(text, planned.currency);
        if (writtenCurrency !== undefined && rowCurrency !== null && writtenCurrency !== rowCurrency)
          return fault("two-currencies", name, `${text}, ${rowCurrency}`);
        // What is written with the amount says it first, then the row, then the column's head, then the file.
        const currency =
          counts || isOfRates ? undefined : (writtenCurrency ?? rowCurrency ?? columnCurrency ?? fixedCurrency);
        const isForeign = currency !== undefined && currency !== planned.currency;
        if (isForeign) sink.foreign({ currency, units: value.units, decimals: value.decimals });
        if (isForeign && moves) return fault("foreign-movement", columns[accountPlace] ?? name, account.name);
        const exact = isForeign ? converted(value, currency, account, date!) : toUnits(value, account.decimals);
        if (exact === "no rate")
          return fault("foreign-currency", name, `${currency!} in ${monthName(date!.month)} ${yearOf(date!.month)}`);
        if (exact === "too-large") return fault("too-large", name, text);
        if (exact === "fraction" && mapping.fractions === "stop") return fault("fraction", name, text);
        const units = exact === "fraction" ? roundUnits(value, account.decimals)! : exact;
        if (isOfRates) {
          if (units <= 0) return fault("no-rate", name, text);
          const places = rateKindsOf(account.key).map((kind) =>
            ratePlace(rowMembers[RATES_DIMENSION] ?? "", date!.month, kind),
          );
          if (places.some((own) => seenRates.has(own)))
            return fault(
              "second-rate",
              name,
              `${rowMembers[RATES_DIMENSION]} in ${monthName(date!.month)} ${yearOf(date!.month)}`,
            );
          for (const own of places) seenRates.add(own);
        }
        written += 1;
        const direction = (side === "credit" ? -1 : 1) * signOf(mapping.sign, account);
        const fact: Fact = {
          scenario: scenario ?? rowScenario!,
          account: account.key,
          month: date!.month,
          day: date!.day,
          members: rowMembers,
          amount: units === 0 ? 0 : direction * units,
          reference,
          ...(isForeign
            ? { original: { amount: writeDecimal({ ...value, units: direction * value.units }, "."), currency } }
            : {}),
        };
        const asWritten = { units: value.units, decimals: value.decimals, isQuantity };
        if (accumulates) running.see(fact.scenario, fact.month);
        if (moves) {
          running.add(fact, row.line);
          sink.moved(asWritten);
        } else sink.fact({ fact, line: row.line, ...asWritten, isRounded: exact === "fraction" });
      }
      // Of a row's own measures some may be empty; a row without any says nothing.
      if (written === 0) fault("no-amount", firstEmpty || (values[0]?.name ?? ""), "");
    },
    end() {
      for (const { fact, line } of running.balances(grain === "quarter" ? 3 : 1))
        sink.fact({ fact, line, units: 0, decimals: 0, isQuantity: false, isRounded: false, isRunning: true });
    },
  };
}

/** A date in the grain of the dataset, with the day that is written. */
type KeptDate = ReadDate & { readonly written: number | null };

/** +1 or −1: what turns the file's sign into the account's own direction. Statistics keep theirs unless all is flipped. */
export function signOf(rule: SignRule, account: Pick<Account, "kind">): number {
  if (rule === "own" || (account.kind === "statistic" && rule !== "flipped")) return 1;
  if (rule === "flipped") return -1;
  const isDebit = account.kind === "expense" || account.kind === "asset";
  if (rule === "debit") return isDebit ? 1 : -1;
  return account.kind === "income" || account.kind === "asset" ? 1 : -1;
}

function isValue(meaning: Meaning): meaning is ValueMeaning {
  return meaning.as === "amount" || meaning.as === "quantity";
}

type AccountResult = { readonly account: Account } | { readonly rule: LineRule };

function accountResolver(
  mapping: Mapping,
  planned: MappingView,
  newAccounts: Account[],
): { find(text: string): AccountResult; byKey(key: string): AccountResult } {
  const byKey = new Map(planned.accounts.map((a) => [a.key, a]));
  const parents = new Set(planned.accounts.map((a) => a.parent));
  const taken = new Set(byKey.keys());
  const result = (account: Account): AccountResult =>
    parents.has(account.key) ? { rule: "parent-account" } : { account };
  const find = resolver(mapping.accounts, planned.accounts, (_text, decision) => {
    const parent = byKey.get(decision?.parent ?? "");
    if (!decision || !parent) return undefined;
    const { kind, behaviour, unit, decimals } = parent;
    const account: Account = {
      key: newKey(decision.name, taken, "_"),
      name: decision.name,
      parent: parent.key,
      kind,
      behaviour,
      unit,
      decimals,
    };
    taken.add(account.key);
    byKey.set(account.key, account);
    newAccounts.push(account);
    return account.key;
  });
  const known = new Map<string, AccountResult>();
  return {
    byKey: (key) => result(byKey.get(key)!),
    find(text) {
      let found = known.get(text);
      if (!found) {
        const key = find.find(text);
        found =
          key === null
            ? { rule: "rejected-name" }
            : key === undefined
              ? { rule: "unknown-account" }
              : result(byKey.get(key)!);
        known.set(text, found);
      }
      return found;
    },
  };
}

/** Keys by the texts that name them. */
interface Resolver {
  /** `undefined` when nothing is named so, `null` when a person rejected the name. */
  find(text: string): string | null | undefined;
  /** Every key that was found so far. */
  found(): ReadonlySet<string>;
}

/** Finds keys by text, each distinct text once. */
function resolver(
  decisions: Readonly<Record<string, NameDecision>>,
  things: readonly { key: string; name: string; aliases?: readonly string[] }[],
  create: (text: string, decision: { name: string; parent: string | null } | undefined) => string | undefined,
): Resolver {
  const index = indexNames(things);
  const keys = new Set(things.map((t) => t.key));
  const decided = new Map(Object.entries(decisions).map(([text, decision]) => [plainName(text), decision]));
  const byPlain = new Map<string, string | null | undefined>();
  const known = new Map<string, string | null>();
  const look = (text: string, plain: string): string | null | undefined => {
    const decision = decided.get(plain);
    if (decision && "reject" in decision) return null;
    if (decision && "to" in decision && keys.has(decision.to)) return decision.to;
    const found = index.get(plain);
    if (found !== undefined) return found;
    return plain === "" ? undefined : create(text, decision && "create" in decision ? decision.create : undefined);
  };
  return {
    found: () => new Set([...byPlain.values()].filter((key) => typeof key === "string")),
    find(text) {
      const before = known.get(text);
      if (before !== undefined) return before;
      const plain = plainName(text);
      if (!byPlain.has(plain)) byPlain.set(plain, look(text, plain));
      const result = byPlain.get(plain);
      if (result !== undefined && known.size < MOST_TEXTS) known.set(text, result);
      return result;
    },
  };
}

/** Distinct spellings that are remembered; beyond, names are looked up each time. */
const MOST_TEXTS = 200_000;
