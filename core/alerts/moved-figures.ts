import { periodName } from "../calendar/fiscal-calendar.ts";
import type { Month } from "../calendar/month.ts";
import { spanName, type Span } from "../calendar/span.ts";
import { measureOver } from "../compare/measure.ts";
import type { Side } from "../compare/side.ts";
import { spanWindow, wholeWindow } from "../compare/window.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { CellBook } from "../cube/cell-book.ts";
import { EVERYTHING } from "../dimensions/scope.ts";
import type { Company } from "../frame/company.ts";
import type { Figure } from "../figures/schema.ts";
import type { KpiDefinition } from "../kpis/schema.ts";

/** A figure that a load moved. */
export interface MovedFigure {
  readonly kpi: Pick<KpiDefinition, "key" | "name" | "unit" | "decimals" | "direction">;
  readonly scenario: string;
  readonly span: string;
  readonly before: Figure;
  readonly after: Figure;
}

/** What a load touches: a scenario, the months it brings, and its accounts. */
export interface Touched {
  readonly scenario: string;
  readonly months: readonly Month[];
  readonly accounts: ReadonlySet<string>;
}

/** A figure as it stood at one time. */
export interface FigureAt {
  readonly kpi: CompiledKpi;
  readonly scenario: string;
  readonly span: string;
  readonly figure: Figure;
}

const MONTH: Span = { kind: "month" };
const YEAR_TO_DATE: Span = { kind: "year-to-date" };
const FULL_YEAR: Span = { kind: "full-year" };

/**
 * The figures a load may move, as they stand now: of every KPI that its accounts enter,
 * actuals in the last month and to date, plans over the full year.
 */
export function figuresNow(company: Company, touched: readonly Touched[], cells: CellBook): FigureAt[] {
  const { calendar, coverage, accounts } = company;
  const context = { ...company, cells, scope: EVERYTHING, access: EVERYTHING };
  const asked = touched.flatMap(({ scenario, months, accounts: own }) => {
    const known = coverage.scenarios.get(scenario);
    const side: Side = { scenario, shift: 0, name: known?.name ?? scenario };
    const asOf = Math.max(...months);
    const spans = known?.kind === "actual" ? [MONTH, YEAR_TO_DATE] : [FULL_YEAR];
    const kpis = [...company.kpis.values()].filter((kpi) =>
      kpi.formula.inputs.some(
        (input) => input.kind === "account" && accounts.leaves.get(input.account)?.some((leaf) => own.has(leaf)),
      ),
    );
    // Of a plan the whole year is known; of an actual, what there is up to the month.
    const over = known?.kind === "actual" ? spanWindow : wholeWindow;
    return spans.map((span) => ({ side, asOf, span, kpis, window: over(context, span, asOf) }));
  });
  return asked.flatMap(({ side, asOf, span, kpis, window }) =>
    kpis.map((kpi) => {
      const words =
        span.kind === "month"
          ? periodName(calendar, asOf)
          : span.kind === "full-year"
            ? `full year ${periodName(calendar, asOf).split(" ")[1]}`
            : `${spanName(span)} ${periodName(calendar, asOf)}`;
      return {
        kpi,
        scenario: side.name,
        span: words,
        figure: measureOver(kpi, side, window, context).figure,
      };
    }),
  );
}

/** The figures that are not what they were. */
export function movedFigures(before: readonly FigureAt[], after: readonly FigureAt[]): MovedFigure[] {
  const place = ({ kpi, scenario, span }: FigureAt) => JSON.stringify([kpi.definition.key, scenario, span]);
  const was = new Map(before.map((at) => [place(at), at.figure]));
  return after.flatMap((at) => {
    const former: Figure = was.get(place(at)) ?? { absent: "no data", detail: "There was no figure before." };
    const isSame =
      "value" in former ? "value" in at.figure && former.value === at.figure.value : !("value" in at.figure);
    if (isSame) return [];
    const { key, name, unit, decimals, direction } = at.kpi.definition;
    return [
      {
        kpi: { key, name, unit, decimals, direction },
        scenario: at.scenario,
        span: at.span,
        before: former,
        after: at.figure,
      },
    ];
  });
}
