import { fiscalQuarterStart } from "../calendar/fiscal-calendar.ts";
import { askCoverage, type CoverageAnswer, type CoverageQuestion } from "../cube/coverage.ts";
import { absent } from "../figures/figure.ts";
import type { MeasureGround } from "./measure-ground.ts";
import type { Side } from "./side.ts";

/**
 * What a side covers of an account. Of an outlook, closed months are asked of the actual and the others of what plans
 * them; both must tell the same accounts apart in the scope.
 */
export function askSide(
  { scenario, then, name: sideName }: Side,
  { coverage, calendar, dimensions, accounts }: MeasureGround,
  question: Omit<CoverageQuestion, "scenario">,
): CoverageAnswer {
  const ask = (of: string, months: readonly number[]) =>
    askCoverage(coverage, calendar, dimensions, { ...question, scenario: of, months });
  if (!then) return ask(scenario, question.months);
  const closed = question.months.filter((month) => month <= then.after);
  if (closed.length === question.months.length) return ask(scenario, closed);
  const rest = ask(
    then.scenario,
    question.months.filter((month) => month > then.after),
  );
  if (closed.length === 0) return rest;
  const actual = ask(scenario, closed);
  const unlike = unlikeLeaf(actual, rest);
  const detail = `${accounts.accounts.get(unlike ?? "")?.name} is not kept by the actual and ${then.name} alike in this scope.`;
  // A quarter that is partly closed cannot be told apart in what is kept by quarter.
  const isWholeAfter = (month: number) => !rest.wholeQuarters || fiscalQuarterStart(calendar, month) > then.after;
  const covered = [...actual.covered, ...rest.covered.filter(isWholeAfter)];
  return {
    covered,
    leaves: [...new Set([...actual.leaves, ...rest.leaves])],
    leavesLeftOut: [...new Set([...actual.leavesLeftOut, ...rest.leavesLeftOut])],
    datasets: [...new Set([...actual.datasets, ...rest.datasets])],
    wholeQuarters: actual.wholeQuarters || rest.wholeQuarters,
    absence:
      rest.leaves.length === 0
        ? rest.absence
        : unlike !== undefined
          ? absent("not covered", detail)
          : covered.length > 0
            ? null
            : (actual.absence ?? rest.absence ?? absent("not covered", `${sideName} has no month of it.`)),
  };
}

/** A leaf account that one of two tells apart in the scope, and the other does not; `undefined` where they are alike. */
export function unlikeLeaf(one: CoverageAnswer, other: CoverageAnswer): string | undefined {
  return (
    one.leaves.find((leaf) => other.leavesLeftOut.includes(leaf)) ??
    other.leaves.find((leaf) => one.leavesLeftOut.includes(leaf))
  );
}
