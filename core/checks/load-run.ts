import type { Account } from "../accounts/account.ts";
import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";
import { factHashes, hashRow } from "../reading/fact-hash.ts";
import { NumberSet } from "../reading/number-set.ts";
import { SliceTally, type LoadedAccount, type LoadedMonth } from "./slice-tally.ts";
import type { LineRule } from "../mapping/line-rule.ts";
import { startMapping, type LineFault, type MappedFact, type NewMember } from "../mapping/map-rows.ts";
import { bringsRates, plannedView, type MappingView } from "../mapping/mapping-view.ts";
import type { Mapping } from "../mapping/mapping.ts";
import { ExactSum, sumTexts } from "../figures/exact-sum.ts";
import type { DecimalMark } from "../reading/read-number.ts";
import type { TidyRow } from "../tidy/row.ts";
import type { TidyContext } from "../tidy/step-run.ts";
import { startTidy, type StepEffect, type TidyCount } from "../tidy/tidy-run.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
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

/** What a file has of a currency, as plain decimals. */
export interface ForeignAmount {
  readonly currency: string;
  readonly inFile: string;
  readonly converted: string;
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
  /** Amounts of other currencies, as the file has them, and what those with a rate became in the company's own. */
  readonly foreign: readonly ForeignAmount[];
  readonly roundedLines: number;
  /** Accounts whose balances were added up from what moved them. */
  readonly runningBalances: readonly string[];
  readonly months: readonly LoadedMonth[];
  readonly accounts: readonly LoadedAccount[];
  /** Whether lines were compared as they stand, since no column refers to a document. */
  readonly areRowsCompared: boolean;
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

const LINES_SHOWN = 50;
/** The share of rows up to which being alike is out of the ordinary. */
const MOST_ALIKE = 0.2;
const NOTHING_REPEATED: LoadResult["repeated"] = { count: 0, lines: [] };
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
    tables,
    posted,
    isPosting = false,
    onFact,
    onFault,
  }: {
    view: MappingView;
    mark: DecimalMark;
    /** The tables that steps look up in. */
    tables?: TidyContext["tables"];
    /** Contents posted already, with the month they are in, to find doubles. */
    posted?: ReadonlyMap<number, Month>;
    /** A pass that posts what a former one checked: it keeps no step totals and looks for no doubles. */
    isPosting?: boolean;
    onFact?: (mapped: MappedFact) => void;
    onFault?: (fault: LineFault) => void;
  },
): LoadRun {
  const { mapping } = rules;
  const looksForDoubles = !isPosting;
  // A sum of rates says nothing.
  const amountColumns = bringsRates(mapping)
    ? []
    : Object.entries(mapping.columns).flatMap(([name, m]) => (m.as === "amount" || m.as === "quantity" ? [name] : []));
  const faults = new Map<LineRule, { count: number; lines: FoundLine[]; texts: Map<string, Map<string, number>> }>();
  const amounts = new ExactSum();
  const quantities = new ExactSum();
  const foreign = new Map<string, { inFile: ExactSum; converted: ExactSum }>();
  const ofCurrency = (currency: string) =>
    getOrCreate(foreign, currency, () => ({ inFile: new ExactSum(), converted: new ExactSum() }));
  const decimalsOf = new Map(plannedView(view, mapping).accounts.map((account) => [account.key, account.decimals]));
  const slices = new SliceTally();
  const seen = new NumberSet();
  const repeated = { count: 0, lines: [] as FoundLine[] };
  const doubles: (FoundLine & { month: Month })[] = [];
  const runningBalances = new Set<string>();
  let facts = 0;
  let roundedLines = 0;
  let current: TidyRow = { line: 0, cells: [] };

  const context: TidyContext = { mark, calendar: view.calendar, tables };
  const mapped = startMapping(mapping, columnsAfter(rules, columns, context), {
    view,
    mark,
    rejectedLines: new Set(rules.rejectedLines),
    sink: {
      fact(made) {
        const { fact } = made;
        facts += 1;
        if (made.isRounded) roundedLines += 1;
        if (made.isRunning) runningBalances.add(fact.account);
        else (made.isQuantity ? quantities : amounts).add(made.units, made.decimals);
        if (fact.original !== undefined)
          ofCurrency(fact.original.currency).converted.add(fact.amount, decimalsOf.get(fact.account) ?? 2);
        slices.add(fact);
        if (looksForDoubles && fact.reference !== null && seen.size < REPEATS_CHECKED) {
          const { place, content } = factHashes(fact);
          const isNew = seen.add(place);
          const postedIn = posted?.get(content);
          if (!isNew || postedIn !== undefined) {
            const found = { line: made.line, column: "", value: fact.reference, cells: current.cells };
            if (!isNew) repeated.count += 1;
            if (!isNew && repeated.lines.length < LINES_SHOWN) repeated.lines.push(found);
            if (postedIn !== undefined && doubles.length < DOUBLES_KEPT) doubles.push({ ...found, month: postedIn });
          }
        }
        onFact?.(made);
      },
      foreign: ({ currency, units, decimals }) => ofCurrency(currency).inFile.add(units, decimals),
      moved: ({ units, decimals, isQuantity }) => (isQuantity ? quantities : amounts).add(units, decimals),
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
  // Without a reference, rows are the same when they agree in every column.
  const comparesRows = looksForDoubles && !Object.values(mapping.columns).some(({ as }) => as === "reference");
  let rowsCompared = 0;
  const tidy = startTidy(rules.steps, columns, {
    context,
    valueColumns: isPosting ? [] : amountColumns,
    sink: (row) => {
      current = row;
      if (comparesRows && seen.size < REPEATS_CHECKED) {
        rowsCompared += 1;
        if (!seen.add(hashRow(row.cells))) {
          repeated.count += 1;
          if (repeated.lines.length < LINES_SHOWN)
            repeated.lines.push({ line: row.line, column: "", value: "", cells: row.cells });
        }
      }
      mapped.take(row);
    },
  });
  const moneyColumns = Object.entries(mapping.columns).flatMap(([name, m]) => (m.as === "amount" ? [name] : []));
  return {
    columns: tidy.columns,
    take: (row) => tidy.take(row),
    end() {
      tidy.end();
      mapped.end();
      const effects = tidy.effects();
      const months = slices.months();
      const last = effects.at(-1)?.after ?? tidy.before();
      return {
        before: tidy.before(),
        effects,
        facts,
        faults: [...faults].map(([rule, group]) => ({ rule, ...group })),
        amountInFile: sumTexts(moneyColumns.flatMap((name) => last.totals[name] ?? [])),
        amountInFacts: amounts.toText(),
        quantityInFacts: quantities.toText(),
        foreign: [...foreign].map(([currency, { inFile, converted }]) => ({
          currency,
          inFile: inFile.toText(),
          converted: converted.toText(),
        })),
        roundedLines,
        runningBalances: [...runningBalances],
        months,
        accounts: slices.accounts(),
        // Among rows that are often alike, being alike says nothing.
        repeated: repeated.count > rowsCompared * MOST_ALIKE && comparesRows ? NOTHING_REPEATED : repeated,
        areRowsCompared: comparesRows,
        doubles: doubles.filter((double) => !months.some((m) => m.month === double.month)),
        newMembers: mapped.newMembers(),
        newAccounts: mapped.newAccounts(),
        usedMembers: mapped.usedMembers(),
      };
    },
  };
}

function columnsAfter(rules: LoadRules, columns: readonly string[], context: TidyContext): readonly string[] {
  return startTidy(rules.steps, columns, { context, valueColumns: [], sink: () => {} }).columns;
}
