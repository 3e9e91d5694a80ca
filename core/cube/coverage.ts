import { LAST_DAY, type DayRange } from "../calendar/days.ts";
import { monthsName, type FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import { daysInMonth, type Month } from "../calendar/month.ts";
import { requiredDepth, type Scope } from "../dimensions/scope.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { keyOfScope } from "../dimensions/step-scope.ts";
import { absent } from "../figures/figure.ts";
import { keptOf } from "../collections/kept-of.ts";
import { getOrCreate } from "../collections/keyed.ts";
import type { Absence } from "../figures/schema.ts";

/** How finely a dataset's facts are dated. */
export type Grain = "day" | "month" | "quarter";

/** A dataset as coverage sees it. */
export interface DatasetGrain {
  readonly key: string;
  readonly name: string;
  readonly grain: Grain;
  /** Whether a month counts as closed only once this dataset has it whole. */
  readonly closes?: boolean;
  /** How its days without a line are taken, where it is kept by day and of what adds up. */
  readonly days?: DaysTaken | undefined;
}

/** A scenario's place in time. Forecast versions know the last month that was closed when they were made. */
export interface Scenario {
  readonly key: string;
  readonly name: string;
  readonly kind: "actual" | "budget" | "forecast" | "target";
  readonly madeAfter: Month | null;
  /** Whether it is still worked on: it can be looked at, and is not the latest forecast yet. */
  readonly isOpen?: boolean;
  /** Whether it is offered no more. */
  readonly isRetired?: boolean;
}

/** That a scenario keeps an account in a dataset, and how deep in each dimension (0: not at all). */
export interface AccountCoverage {
  readonly dataset: string;
  readonly scenario: string;
  readonly account: string;
  readonly depths: Readonly<Record<string, number>>;
}

/** That a dataset has facts of a scenario for a month; for daily facts on which days. */
export interface MonthCoverage {
  readonly dataset: string;
  readonly scenario: string;
  readonly month: Month;
  /** Bit d − 1 stands for day d of the month; `null` where facts are not daily. */
  readonly dayMask: number | null;
}

/** What the loaded facts cover. */
export interface CoverageMap {
  readonly datasets: ReadonlyMap<string, DatasetGrain>;
  readonly scenarios: ReadonlyMap<string, Scenario>;
  /** By scenario and leaf account. A scenario keeps an account in one dataset. */
  readonly homes: ReadonlyMap<string, ReadonlyMap<string, AccountCoverage>>;
  /** By dataset and scenario; read through `monthsOf`. */
  readonly months: ReadonlyMap<string, ReadonlyMap<Month, MonthCoverage>>;
}

/** Arranges coverage for look-up. */
export function mapCoverage({
  datasets,
  scenarios,
  accounts,
  months,
}: {
  datasets: readonly DatasetGrain[];
  scenarios: readonly Scenario[];
  accounts: readonly AccountCoverage[];
  months: readonly MonthCoverage[];
}): CoverageMap {
  const homes = new Map<string, Map<string, AccountCoverage>>();
  for (const entry of accounts) {
    const byAccount = homes.get(entry.scenario) ?? new Map<string, AccountCoverage>();
    homes.set(entry.scenario, byAccount.set(entry.account, entry));
  }
  const byPlace = new Map<string, Map<Month, MonthCoverage>>();
  for (const entry of months) {
    const place = placeKey(entry.dataset, entry.scenario);
    const byMonth = byPlace.get(place) ?? new Map<Month, MonthCoverage>();
    byPlace.set(place, byMonth.set(entry.month, entry));
  }
  return {
    datasets: new Map(datasets.map((d) => [d.key, d])),
    scenarios: new Map(scenarios.map((s) => [s.key, s])),
    homes,
    months: byPlace,
  };
}

const inOrder = new WeakMap<ReadonlyMap<Month, MonthCoverage>, readonly MonthCoverage[]>();

/** The months of a scenario in a dataset, in calendar order. */
export function monthsOf(coverage: CoverageMap, dataset: string, scenario: string): readonly MonthCoverage[] {
  const months = coverage.months.get(placeKey(dataset, scenario));
  return months ? getOrCreate(inOrder, months, () => [...months.values()].sort((a, b) => a.month - b.month)) : [];
}

/** Whether a month is there to its last day. Monthly and quarterly facts cover a month or do not. */
export function isWhole(entry: MonthCoverage): boolean {
  return entry.dayMask === null || hasDays(entry, { from: 1, to: LAST_DAY });
}

/** The last day with daily facts in the month; `null` where facts are not daily. */
export function lastDayOf(entry: MonthCoverage): number | null {
  return entry.dayMask === null ? null : 32 - Math.clz32(entry.dayMask);
}

/**
 * The day a month to date counts to: the last one with daily actuals in that month.
 * 31, which means the whole month, where no dataset is daily.
 */
export function asOfDay(coverage: CoverageMap, month: Month): number {
  const days = [...coverage.datasets.values()]
    .filter((dataset) => dataset.grain === "day")
    .flatMap((dataset) => {
      const entry = monthsOf(coverage, dataset.key, "actual").find((e) => e.month === month);
      return entry ? (lastDayOf(entry) ?? []) : [];
    });
  return days.length === 0 ? 31 : Math.max(...days);
}

/** Whether days of a month are there, as far as the month has them; a month that has none of them has not. */
function hasDays({ dayMask, month }: MonthCoverage, { from, to }: DayRange): boolean {
  const last = Math.min(to, daysInMonth(month));
  if (dayMask === null || from > last) return false;
  const wanted = 2 ** last - 2 ** (from - 1);
  return (dayMask & wanted) === wanted;
}

/**
 * The last closed month: the as-of period when none is chosen. It is the last month that
 * every dataset that closes months has whole; where none is marked so, every dataset with
 * actuals. Data that come day by day, ahead of the books, then do not hold it up.
 */
export function lastClosedMonth(coverage: CoverageMap): Month | undefined {
  const withActuals = [...coverage.datasets.values()].flatMap((dataset) => {
    const whole = monthsOf(coverage, dataset.key, "actual").filter(isWhole).at(-1);
    return whole ? [{ closes: dataset.closes === true, month: whole.month }] : [];
  });
  const marked = withActuals.filter((d) => d.closes);
  const months = (marked.length > 0 ? marked : withActuals).map((d) => d.month);
  return months.length === 0 ? undefined : Math.min(...months);
}

/** What is asked of coverage: leaf accounts of a scenario inside a scope, month by month. */
export interface CoverageQuestion {
  readonly name: string;
  readonly leaves: readonly string[];
  readonly scenario: string;
  readonly months: readonly Month[];
  readonly scope: Scope;
  /** The days of a month that must be there, such as those to date; only daily facts can tell. */
  readonly daysIn?: (month: Month) => DayRange;
  /** The as-of month: of an actual, later months are not known, even where they are posted. */
  readonly knownTo?: Month;
}

/** Which of the asked months have figures, from which leaves, and why the others have none. */
export interface CoverageAnswer {
  /** The asked months with figures, in the order asked. */
  readonly covered: readonly Month[];
  /** Leaves that can be told apart in the scope. */
  readonly leaves: readonly string[];
  /** Leaves the scenario has, but does not keep by a dimension of the scope. */
  readonly leavesLeftOut: readonly string[];
  readonly datasets: readonly string[];
  /** Months that only come as a whole quarter, because their facts are quarterly. */
  readonly wholeQuarters: boolean;
  /** Why nothing is covered; `null` when something is. */
  readonly absence: Absence | null;
}

/** Answers what a scenario covers of an account. Zero is meant in a covered month, absence elsewhere. */
export function askCoverage(
  coverage: CoverageMap,
  calendar: FiscalCalendar,
  dimensions: readonly Dimension[],
  question: CoverageQuestion,
): CoverageAnswer {
  const scenario = coverage.scenarios.get(question.scenario);
  const scenarioName = scenario?.name ?? question.scenario;
  const keeping = keepingOf(coverage, dimensions, question);
  if (!keeping.found) {
    const { because } = keeping;
    return nothing(absent("not covered", `${scenarioName} ${because(question.name)}`), keeping.leavesLeftOut);
  }
  const { leaves, leavesLeftOut, datasets, grains, places } = keeping;
  const { knownTo = Infinity } = question;
  const isActual = scenario?.kind === "actual";
  const covered = keptOf(
    question.months,
    (month) =>
      (!isActual || month <= knownTo) &&
      places.every((byMonth, i) => {
        const entry = byMonth?.get(month);
        if (!entry) return false;
        if (!question.daysIn) return isWhole(entry);
        return grains[i]!.grain === "day" && hasDays(entry, question.daysIn(month));
      }),
  );
  return {
    covered,
    leaves,
    leavesLeftOut,
    datasets,
    wholeQuarters: grains.some((d) => d.grain === "quarter"),
    absence: covered.length > 0 ? null : whyNoMonth({ coverage, calendar, question, scenarioName, grains }),
  };
}

/** What a scenario keeps of leaf accounts inside a scope, whatever the months; or why it keeps nothing. */
type Keeping =
  | {
      readonly found: true;
      readonly leaves: readonly string[];
      readonly leavesLeftOut: readonly string[];
      readonly datasets: readonly string[];
      readonly grains: readonly DatasetGrain[];
      /** Dataset by dataset, the months there are. */
      readonly places: readonly (ReadonlyMap<Month, MonthCoverage> | undefined)[];
    }
  | {
      readonly found: false;
      readonly leavesLeftOut: readonly string[];
      /** The reason, of an account of that name. */
      readonly because: (name: string) => string;
    };

/** Found once for each state of the data, whose coverage and leaves are the same objects then. */
const keepings = new WeakMap<CoverageMap, WeakMap<readonly string[], Map<string, Keeping>>>();

function keepingOf(
  coverage: CoverageMap,
  dimensions: readonly Dimension[],
  question: Pick<CoverageQuestion, "scenario" | "leaves" | "scope">,
): Keeping {
  const byLeaves = getOrCreate(keepings, coverage, () => new WeakMap<readonly string[], Map<string, Keeping>>());
  const byPlace = getOrCreate(byLeaves, question.leaves, () => new Map<string, Keeping>());
  return getOrCreate(byPlace, `${question.scenario} ${keyOfScope(question.scope)}`, () =>
    findKeeping(coverage, dimensions, question),
  );
}

function findKeeping(
  coverage: CoverageMap,
  dimensions: readonly Dimension[],
  { scenario, leaves, scope }: Pick<CoverageQuestion, "scenario" | "leaves" | "scope">,
): Keeping {
  const { homes: known, isWhole: isAll } = keptLeaves(coverage, scenario, leaves);
  if (known.length === 0) return { found: false, leavesLeftOut: [], because: (name) => `has no ${name}.` };
  if (!isAll) {
    const because = (name: string) =>
      `has only part of ${name}: ${known.length} of its accounts, and the actual has more.`;
    return { found: false, leavesLeftOut: [], because };
  }
  const depths = dimensions.flatMap((dimension) => {
    const chosen = scope[dimension.key];
    return chosen && chosen.length > 0 ? [{ dimension, depth: requiredDepth(dimension, chosen) }] : [];
  });
  const missing = (home: AccountCoverage) =>
    depths.find(({ dimension, depth }) => (home.depths[dimension.key] ?? 0) < depth);
  const kept = known.filter((home) => !missing(home));
  const leavesLeftOut = known.filter((home) => missing(home)).map((home) => home.account);
  if (kept.length === 0) {
    const { dimension, depth } = missing(known[0]!)!;
    const level = dimension.levels[depth - 1] ?? dimension.name;
    return { found: false, leavesLeftOut, because: (name) => `does not keep ${name} by ${level.toLowerCase()}.` };
  }
  const datasets = [...new Set(kept.map((home) => home.dataset))];
  return {
    found: true,
    leaves: kept.map((home) => home.account),
    leavesLeftOut,
    datasets,
    grains: datasets.map((key) => coverage.datasets.get(key)!),
    places: datasets.map((key) => coverage.months.get(placeKey(key, scenario))),
  };
}

/**
 * Which leaves a scenario keeps, and whether that is the whole of what the actual
 * has. A budget or forecast without an account means 0 for it; a target is set on
 * chosen accounts only, and a part of them is no target for the whole.
 */
export function keptLeaves(
  coverage: CoverageMap,
  scenario: string,
  leaves: readonly string[],
): { homes: readonly AccountCoverage[]; isWhole: boolean } {
  const own = coverage.homes.get(scenario);
  const homes = leaves.flatMap((leaf) => own?.get(leaf) ?? []);
  const isPartial =
    coverage.scenarios.get(scenario)?.kind === "target" &&
    leaves.some((leaf) => coverage.homes.get("actual")?.has(leaf) && !own?.has(leaf));
  return { homes, isWhole: homes.length > 0 && !isPartial };
}

function nothing(absence: Absence, leavesLeftOut: readonly string[] = []): CoverageAnswer {
  return { covered: [], leaves: [], leavesLeftOut, datasets: [], wholeQuarters: false, absence };
}

function whyNoMonth({
  coverage,
  calendar,
  question,
  scenarioName,
  grains,
}: {
  coverage: CoverageMap;
  calendar: FiscalCalendar;
  question: CoverageQuestion;
  scenarioName: string;
  grains: readonly DatasetGrain[];
}): Absence {
  const coarse = grains.find((d) => d.grain !== "day");
  if (question.daysIn && coarse) {
    return absent("not covered", `${coarse.name}: kept by ${coarse.grain}, and days need daily figures.`);
  }
  const isActual = coverage.scenarios.get(question.scenario)?.kind === "actual";
  const { knownTo } = question;
  const isKnown = (month: Month) => !isActual || knownTo === undefined || month <= knownTo;
  if (knownTo !== undefined && !question.months.some(isKnown))
    return absent(
      "not closed yet",
      `${monthsName(calendar, question.months)} is after the as-of month, ${monthsName(calendar, [knownTo])}.`,
    );
  const entries = grains.flatMap((d) => monthsOf(coverage, d.key, question.scenario)).filter((e) => isKnown(e.month));
  const whole = entries.filter(isWhole).map((e) => e.month);
  const asked = monthsName(calendar, question.months);
  const partial = entries.find((e) => !isWhole(e) && question.months.includes(e.month));
  const closed = Math.max(...whole);
  if (isActual && (partial || whole.length > 0) && question.months.every((m) => m > closed)) {
    const until = partial
      ? `${monthsName(calendar, [partial.month])} is there to day ${lastDayOf(partial)}`
      : `the last closed month is ${monthsName(calendar, [closed])}`;
    return absent("not closed yet", `${asked} is not closed yet; ${until}.`);
  }
  const range = whole.length > 0 ? ` It has ${monthsName(calendar, whole)}.` : "";
  return absent("no data", `${scenarioName} has nothing for ${asked}.${range}`);
}

function placeKey(dataset: string, scenario: string): string {
  // Keys hold no spaces.
  return `${dataset} ${scenario}`;
}

/** How a dataset's days without a line are taken, and whether its own past leaves a doubt. */
export interface DaysTaken {
  readonly as: DaysWithoutLines;
  /** Whether it follows from the days that have lines; what somebody said is always clear. */
  readonly isClear: boolean;
}

/** What days without a line are: days on which nothing happened, or days whose figures are missing. */
export type DaysWithoutLines = "zero" | "missing";
