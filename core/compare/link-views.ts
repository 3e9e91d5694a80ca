import type { FiscalCalendar } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { getOrCreate } from "../collections/keyed.ts";
import type { View } from "../formula/view.ts";
import { withWholeQuarters, type ViewCoverage } from "./cover-view.ts";
import { windowKind } from "./window.ts";

/** A view with what it covers, on whichever side. */
export interface LinkedView {
  readonly view: View;
  readonly coverage: ViewCoverage;
}

/**
 * The months that each view goes in with, like for like: views on windows of one kind are measured on
 * the months, counted from their windows' starts, that all of them cover; sums kept by quarter on whole
 * quarters of those only. A view that is absent holds no other one up: what it is needed for is absent by itself.
 */
export function linkMonths(views: readonly LinkedView[], calendar: FiscalCalendar): (readonly Month[])[] {
  const months = views.map(({ coverage }) => (coverage.absence ? [] : coverage.own));
  for (const group of linkedGroups(views)) linkGroup(group, views, months, calendar);
  return months;
}

/**
 * Views that are measured on the same months, by their places. A span that the formula names is what it says beside
 * whatever the frame's span is, and a plan's whole year beside what the as-of month has cut off of this one: those are
 * linked with others of that span and reach only. Clocks read no months.
 */
function linkedGroups(views: readonly LinkedView[]): Iterable<readonly number[]> {
  const groups = new Map<string, number[]>();
  const join = (key: string, i: number) => getOrCreate(groups, key, (): number[] => []).push(i);
  const plans: number[] = [];
  const cutAt = new Map<string, number>();
  views.forEach(({ view, coverage }, i) => {
    if (coverage.absence || coverage.isClock) return;
    const kind = windowKind(coverage.window);
    if (view.apart !== 0 || !namesSpan(view)) join(`${view.apart} ${kind}`, i);
    else if (coverage.isPlan) plans.push(i);
    else {
      cutAt.set(kind, Math.min(cutAt.get(kind) ?? Infinity, coverage.asked.length));
      join(`named ${kind}`, i);
    }
  });
  for (const i of plans) {
    const { window, asked } = views[i]!.coverage;
    const kind = windowKind(window);
    join(cutAt.get(kind) === asked.length ? `named ${kind}` : `named ${kind} ${asked.length}`, i);
  }
  return groups.values();
}

function namesSpan({ time }: View): boolean {
  return time.some((step) => step.do === "span");
}

function linkGroup(
  group: readonly number[],
  views: readonly LinkedView[],
  months: (readonly Month[])[],
  calendar: FiscalCalendar,
): void {
  const startOf = (i: number) => views[i]!.coverage.window.from;
  // Dropping part of a quarter on one view may drop months of the others, and so on: months only ever go.
  for (let before = -1, now = countOf(group, months); now !== before; before = now, now = countOf(group, months)) {
    const [first] = group as [number];
    const isAlike = group.every(
      (i) =>
        months[i]!.length === months[first]!.length &&
        months[i]!.every((month, at) => month - startOf(i) === months[first]![at]! - startOf(first)),
    );
    const shared = isAlike
      ? null
      : group
          .map((i) => new Set(months[i]!.map((month) => month - startOf(i))))
          .reduce((common, own) => new Set([...common].filter((offset) => own.has(offset))));
    for (const i of group) {
      const common = shared ? months[i]!.filter((month) => shared.has(month - startOf(i))) : months[i]!;
      months[i] = withWholeQuarters(common, views[i]!.coverage, calendar);
    }
  }
}

function countOf(group: readonly number[], months: readonly (readonly Month[])[]): number {
  return group.reduce((sum, i) => sum + months[i]!.length, 0);
}
