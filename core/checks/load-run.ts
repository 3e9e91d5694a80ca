import type { Account } from "../accounts/account.ts";
import type { Month } from "../calendar/month.ts";
import type { Fact } from "../cube/fact.ts";
import { getOrCreate } from "../keyed.ts";
import { startMapping, type LineFault, type LineRule, type MappedFact, type NewMember } from "../mapping/map-rows.ts";
import type { MappingView } from "../mapping/mapping-view.ts";
import type { Mapping } from "../mapping/mapping.ts";
import { hashText } from "../mapping/names.ts";
import { ExactSum, sumTexts } from "../reading/exact-sum.ts";
import type { DecimalMark } from "../reading/read-number.ts";
import type { TidyRow } from "../tidy/row.ts";
import { startTidy, type StepEffect, type TidyCount } from "../tidy/tidy-run.ts";
import type { TidyStep } from "../tidy/step.ts";
import type { FoundLine } from "./finding.ts";

/** How a file's rows are brought in, besides how they are read. */
export interface LoadRules {
  readonly steps: readonly TidyStep[];
  readonly mapping: Mapping;
  /** Lines that a person took out. */
  readonly rejectedLines: readonly number[];
  /** Rules whose lines are left out rather than stopped at. */
  readonly rejectedRules: readonly LineRule[];
}

/** What a person said of a file as a whole. */
export interface LoadAnswers {
  /** The figure the file's amounts must add up to, as a plain decimal. */
  readonly control: string | null;
  /** Whether a difference to the control figure was accepted. */
  readonly acceptsDifference: boolean;
  /** What becomes of what is posted already for the same periods and accounts. */
  readonly posting: "new" | "beside" | "restate";
}

/** Lines of one rule: how many, and the first of them. */
export interface FaultGroup {
  readonly rule: LineRule;
  readonly count: number;
  readonly lines: readonly FoundLine[];
  /** By column, then text as it stands in the file: on how many lines. */
  readonly texts: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

/** The months and days a scenario gets. */
export interface LoadedMonth {
  readonly scenario: string;
  readonly month: Month;
  readonly days: number | null;
}

/** One account's part of a load, in the account's own units and sign. */
export interface LoadedAccount {
  readonly scenario: string;
  readonly account: string;
  readonly month: Month;
  readonly rows: number;
  readonly amount: bigint;
}

/** Everything one pass over a file's rows finds out without looking at what is posted already. */
export interface LoadResult {
  readonly before: TidyCount;
  readonly effects: readonly StepEffect[];
  readonly facts: number;
  readonly faults: readonly FaultGroup[];
  /** Sums over the columns marked as amount, as the file signs them: of all rows, and of those that became facts. */
  readonly amountInFile: string;
  readonly amountInFacts: string;
  readonly quantityInFacts: string;
  readonly roundedLines: number;
  readonly months: readonly LoadedMonth[];
  readonly accounts: readonly LoadedAccount[];
  readonly repeated: { readonly count: number; readonly lines: readonly FoundLine[] };
  /** Lines like one posted in another month, with that month. */
  readonly doubles: readonly (FoundLine & { readonly month: Month })[];
  readonly newMembers: readonly NewMember[];
  readonly newAccounts: readonly Account[];
  readonly usedMembers: ReadonlyMap<string, ReadonlySet<string>>;
}

/** A file's rows on their way to facts. */
export interface LoadRun {
  readonly columns: readonly string[];
  take(row: TidyRow): void;
  end(): LoadResult;
}

type MutableMonth = { -readonly [K in keyof LoadedMonth]: LoadedMonth[K] };
interface Sum {
  rows: number;
  /** What is safe in float64, and what went beyond. */
  amount: number;
  large: bigint;
}

const LINES_SHOWN = 50;
const TEXTS_KEPT = 2_000;
const DOUBLES_KEPT = 5_000;
/** References are compared for repeats up to this many lines; beyond, memory would grow with the file. */
export const REPEATS_CHECKED = 3_000_000;

/**
 * Starts one pass over a file: steps, mapping, and the tally of what comes of them.
 * `onFact` and `onFault` see each fact and each line left out, in the order of the file.
 */
export function startLoad(
  rules: LoadRules,
  columns: readonly string[],
  {
    view,
    mark,
    posted,
    onFact,
    onFault,
  }: {
    view: MappingView;
    mark: DecimalMark;
    /** Contents posted already, with the month they are in, to find doubles. */
    posted?: ReadonlyMap<number, Month>;
    onFact?: (mapped: MappedFact) => void;
    onFault?: (fault: LineFault) => void;
  },
): LoadRun {
  const { mapping } = rules;
  const amountColumns = Object.entries(mapping.columns).flatMap(([name, m]) =>
    m.as === "amount" || m.as === "quantity" ? [name] : [],
  );
  const faults = new Map<LineRule, { count: number; lines: FoundLine[]; texts: Map<string, Map<string, number>> }>();
  const amounts = new ExactSum();
  const quantities = new ExactSum();
  const months = new Map<Month, Map<string, MutableMonth>>();
  const accounts = new Map<Month, Map<string, Map<string, Sum>>>();
  const usedMembers = new Map<string, Set<string>>();
  const seen = new Set<number>();
  const repeated = { count: 0, lines: [] as FoundLine[] };
  const doubles: (FoundLine & { month: Month })[] = [];
  let facts = 0;
  let roundedLines = 0;
  let current: TidyRow = { line: 0, cells: [] };

  const tallyMonth = (fact: Fact) => {
    const byScenario = getOrCreate(months, fact.month, () => new Map<string, MutableMonth>());
    const bit = fact.day === null ? null : 1 << (fact.day - 1);
    const { scenario, month } = fact;
    const entry = getOrCreate(byScenario, scenario, () => ({ scenario, month, days: bit }));
    if (bit !== null) entry.days = (entry.days ?? 0) | bit;
  };
  const tallyAccount = (fact: Fact) => {
    const byScenario = getOrCreate(accounts, fact.month, () => new Map<string, Map<string, Sum>>());
    const byAccount = getOrCreate(byScenario, fact.scenario, () => new Map<string, Sum>());
    const entry = getOrCreate(byAccount, fact.account, () => ({ rows: 0, amount: 0, large: 0n }));
    entry.rows += 1;
    const sum = entry.amount + fact.amount;
    if (Number.isSafeInteger(sum)) entry.amount = sum;
    else {
      entry.large += BigInt(entry.amount) + BigInt(fact.amount);
      entry.amount = 0;
    }
  };

  const mapped = startMapping(mapping, columnsAfter(rules, columns, view, mark), {
    view,
    mark,
    rejectedLines: new Set(rules.rejectedLines),
    sink: {
      fact(made) {
        const { fact } = made;
        facts += 1;
        if (made.isRounded) roundedLines += 1;
        (made.isQuantity ? quantities : amounts).add(made.units, made.decimals);
        tallyMonth(fact);
        tallyAccount(fact);
        for (const dimension in fact.members) {
          getOrCreate(usedMembers, dimension, () => new Set<string>()).add(fact.members[dimension]!);
        }
        if (fact.reference !== null && seen.size < REPEATS_CHECKED) {
          const hashes = factHashes(fact);
          const found = { line: made.line, column: "", value: fact.reference, cells: current.cells };
          if (seen.has(hashes.place)) {
            repeated.count += 1;
            if (repeated.lines.length < LINES_SHOWN) repeated.lines.push(found);
          } else seen.add(hashes.place);
          const postedIn = posted?.get(hashes.content);
          if (postedIn !== undefined && doubles.length < DOUBLES_KEPT) doubles.push({ ...found, month: postedIn });
        }
        onFact?.(made);
      },
      fault(fault) {
        const group = getOrCreate(faults, fault.rule, () => ({
          count: 0,
          lines: [] as FoundLine[],
          texts: new Map<string, Map<string, number>>(),
        }));
        group.count += 1;
        const { line, column, value, cells } = fault;
        if (group.lines.length < LINES_SHOWN) group.lines.push({ line, column, value, cells });
        const texts = getOrCreate(group.texts, column, () => new Map<string, number>());
        if (texts.has(value) || texts.size < TEXTS_KEPT) texts.set(value, (texts.get(value) ?? 0) + 1);
        onFault?.(fault);
      },
    },
  });
  const tidy = startTidy(rules.steps, columns, {
    context: { mark, calendar: view.calendar },
    valueColumns: amountColumns,
    sink: (row) => {
      current = row;
      mapped.take(row);
    },
  });
  const moneyColumns = Object.entries(mapping.columns).flatMap(([name, m]) => (m.as === "amount" ? [name] : []));
  return {
    columns: tidy.columns,
    take: (row) => tidy.take(row),
    end() {
      tidy.end();
      const effects = tidy.effects();
      const last = effects.at(-1)?.after ?? tidy.before();
      return {
        before: tidy.before(),
        effects,
        facts,
        faults: [...faults].map(([rule, group]) => ({ rule, ...group })),
        amountInFile: sumTexts(moneyColumns.flatMap((name) => last.totals[name] ?? [])),
        amountInFacts: amounts.toText(),
        quantityInFacts: quantities.toText(),
        roundedLines,
        months: [...months.values()].flatMap((byScenario) => [...byScenario.values()]),
        accounts: [...accounts].flatMap(([month, byScenario]) =>
          [...byScenario].flatMap(([scenario, byAccount]) =>
            [...byAccount].map(([account, entry]) => ({
              scenario,
              account,
              month,
              rows: entry.rows,
              amount: entry.large + BigInt(entry.amount),
            })),
          ),
        ),
        repeated,
        doubles: doubles.filter((double) => !months.has(double.month)),
        newMembers: mapped.newMembers(),
        newAccounts: mapped.newAccounts(),
        usedMembers,
      };
    },
  };
}

/**
 * Numbers of 53 bits that stand for a fact: `content` for account, amount, reference and
 * members, whenever it was posted; `place` for the same in one scenario and on one date.
 * Different facts hardly ever share one.
 */
export function factHashes(fact: Fact): { content: number; place: number } {
  let text = `${fact.account}\u0001${fact.amount}\u0001${fact.reference ?? ""}`;
  for (const dimension in fact.members) text += `\u0001${dimension}\u0002${fact.members[dimension]}`;
  const a = hashText(text);
  const b = hashText(text, 0x9747b28c);
  const date = `${fact.scenario}\u0001${fact.month}\u0001${fact.day ?? ""}`;
  return { content: join53(a, b), place: join53(hashText(date, a), hashText(date, b)) };
}

function join53(high: number, low: number): number {
  return high * 0x200000 + (low >>> 11);
}

function columnsAfter(
  rules: LoadRules,
  columns: readonly string[],
  view: MappingView,
  mark: DecimalMark,
): readonly string[] {
  return startTidy(rules.steps, columns, {
    context: { mark, calendar: view.calendar },
    valueColumns: [],
    sink: () => {},
  }).columns;
}
