import type { Account } from "../accounts/account.ts";
import { monthsName } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import type { MappingView } from "../mapping/mapping-view.ts";
import { bigDecimalText } from "../figures/exact-sum.ts";
import { listed } from "../formats/listed.ts";
import type { Finding } from "./finding.ts";
import type { LoadResult } from "./load-run.ts";
import { writeAmount } from "./write-amount.ts";
import type { CheckContext, PostedSlice, PostedBefore } from "./check-context.ts";
/** Accounts whose totals are said; the others are counted. */
const ACCOUNTS_SAID = 2;
/** A delivery is one of the same when so many of its figures are about those that are there. */
const ALIKE_SHARE = 0.5;
/** How far a corrected figure is from the one before, as a share of it. */
const CORRECTION = 0.2;

/** The slices that a new load's months and accounts meet: what "restate" sets aside. */
export function overlapping<T extends PostedSlice>(
  result: Pick<LoadResult, "months"> & {
    readonly accounts: readonly Pick<LoadResult["accounts"][number], "scenario" | "account">[];
  },
  posted: readonly T[],
): T[] {
  const accounts = new Map<string, Set<string>>();
  for (const { scenario, account } of result.accounts) {
    const own = accounts.get(scenario) ?? new Set();
    accounts.set(scenario, own.add(account));
  }
  return posted.filter((slice) => {
    const entry = result.months.find((m) => m.scenario === slice.scenario && m.month === slice.month);
    if (!entry || (entry.days !== null && slice.days !== null && (entry.days & slice.days) === 0)) return false;
    return [...(accounts.get(slice.scenario) ?? [])].some((account) => slice.accounts.has(account));
  });
}

/** That a file's periods are posted already: what is there, what comes, what both would be, and what it reads like. */
export function alreadyPosted(result: LoadResult, planned: MappingView, context: CheckContext): Finding[] {
  const met = overlapping(result, context.posted);
  if (met.length === 0) return [];
  const files = [...new Set(met.map((slice) => slice.fileName))];
  const months = monthsName(context.view.calendar, [...new Set(met.map((slice) => slice.month))]);
  const names = files.length > 3 ? `${files.slice(0, 2).join(", ")} and ${files.length - 2} more` : files.join(" and ");
  const { posting } = context.answers;
  const compared = context.before ? compare(result, context.before) : undefined;
  const accounts = new Map(planned.accounts.map((account) => [account.key, account]));
  const said = compared ? ` ${totalsSaid(compared, accounts)}` : "";
  const likely = compared && likelyWay(result, compared, planned, context.before!);
  const answer =
    posting === "restate"
      ? `This file takes their place; they are set aside and can be brought back`
      : posting === "beside"
        ? "This file is posted as well; both count"
        : null;
  return [
    {
      rule: "already-posted",
      severity: "stop",
      message: `${months} ${files.length === 1 ? "is" : "are"} posted already, from ${names}.${said}${likely ? ` ${likely.why}` : ""}`,
      count: met.length,
      lines: [],
      names: [],
      answer,
      ...(likely ? { likely: likely.way } : {}),
    },
  ];
}

interface Compared {
  /** By account: what is there, and what comes, over the periods that both have. */
  readonly totals: ReadonlyMap<string, { readonly there: bigint; readonly here: bigint }>;
  readonly figures: number;
  readonly same: number;
  readonly alike: number;
}

function compare(result: LoadResult, before: PostedBefore): Compared {
  const key = (one: { scenario: string; account: string; month: Month }) =>
    JSON.stringify([one.scenario, one.account, one.month]);
  const there = new Map(before.amounts.map((one) => [key(one), one.amount]));
  const totals = new Map<string, { there: bigint; here: bigint }>();
  let [figures, same, alike] = [0, 0, 0];
  for (const own of result.accounts) {
    const posted = there.get(key(own));
    if (posted === undefined) continue;
    figures += 1;
    if (posted === own.amount) same += 1;
    const [p, f] = [Number(posted), Number(own.amount)];
    if (Math.abs(f - p) <= Math.abs(p) * CORRECTION) alike += 1;
    const total = totals.get(own.account) ?? { there: 0n, here: 0n };
    totals.set(own.account, { there: total.there + posted, here: total.here + own.amount });
  }
  return { totals, figures, same, alike };
}

function totalsSaid({ totals }: Compared, accounts: ReadonlyMap<string, Account>): string {
  const size = (value: bigint) => (value < 0n ? -value : value);
  const sorted = [...totals].sort(([, a], [, b]) => (size(b.there) > size(a.there) ? 1 : -1));
  const lines = sorted.slice(0, ACCOUNTS_SAID).flatMap(([key, { there, here }]) => {
    const account = accounts.get(key);
    if (!account) return [];
    const write = (value: bigint) => writeAmount(bigDecimalText(value, account.decimals));
    return [`${account.name} is ${write(there)} there and ${write(here)} here, together ${write(there + here)}`];
  });
  const more = sorted.length - lines.length;
  return lines.length === 0 ? "" : `${lines.join("; ")}${more > 0 ? `; ${more} more accounts alike` : ""}.`;
}

/** What a file reads like beside what is posted; `undefined` where nothing tells. */
function likelyWay(
  result: LoadResult,
  { figures, same, alike }: Compared,
  planned: MappingView,
  before: PostedBefore,
): { way: "restate" | "beside"; why: string } | undefined {
  for (const [dimension, members] of result.usedMembers) {
    const there = before.members.get(dimension);
    if (!there || there.size === 0 || members.size === 0 || [...members].some((key) => there.has(key))) continue;
    const own = planned.dimensions.find(({ key }) => key === dimension);
    const names = [...members].map(
      (key) =>
        own?.members.find((member) => member.key === key)?.name ??
        result.newMembers.find((member) => member.dimension === dimension && member.key === key)?.name ??
        key,
    );
    const few = names.length > 3 ? [...names.slice(0, 2), `${names.length - 2} more`] : names;
    return {
      way: "beside",
      why: `It has ${listed(few)} in ${own?.name ?? dimension}, which the posted figures do not: it looks like another part of the same months.`,
    };
  }
  if (figures > 0 && same === figures)
    return { way: "restate", why: "Every month is identical: it looks like the same file again." };
  if (figures > 0 && alike >= figures * ALIKE_SHARE)
    return { way: "restate", why: "It looks like a corrected version of the same data." };
  return undefined;
}
