import type { Knex } from "knex";
import { periodName } from "#core/calendar/fiscal-calendar.ts";
import type { Month } from "#core/calendar/month.ts";
import { spanName, type Span } from "#core/calendar/span.ts";
import { coveredMonths, coverSide, measure } from "#core/compare/measure.ts";
import type { Side } from "#core/compare/side.ts";
import type { Figure } from "#core/figures/figure.ts";
import type { CompiledKpi } from "#core/kpis/compile-kpi.ts";
import type { Structure } from "#server/db/structure.ts";
import type { MovedFigure } from "#contract/loads.ts";
import { sqlFactSource } from "./fact-source.ts";
import { readContext, structureFrame } from "./read-context.ts";

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
export async function figuresNow(knex: Knex, structure: Structure, touched: readonly Touched[]): Promise<FigureAt[]> {
  const { calendar, coverage, accounts } = structure;
  const asked = touched.flatMap(({ scenario, months, accounts: own }) => {
    const known = coverage.scenarios.get(scenario);
    const side: Side = { scenario, shift: 0, name: known?.name ?? scenario };
    const asOf = Math.max(...months);
    const spans = known?.kind === "actual" ? [MONTH, YEAR_TO_DATE] : [FULL_YEAR];
    const kpis = [...structure.kpis.values()].filter((kpi) =>
      kpi.formula.inputs.some(
        (input) => input.kind === "account" && accounts.leaves.get(input.account)?.some((leaf) => own.has(leaf)),
      ),
    );
    return spans.map((span) => ({ side, asOf, span, kpis, window: { span, asOf } }));
  });
  if (asked.every((a) => a.kpis.length === 0)) return [];
  const context = await readContext(
    sqlFactSource(knex, structure),
    structureFrame(structure),
    asked.map(({ kpis, side, window }) => ({ kpis, side, windows: [window] })),
  );
  return asked.flatMap(({ side, asOf, span, kpis, window }) =>
    kpis.map((kpi) => {
      const cover = coverSide(kpi, side, window, context);
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
        figure: measure(kpi, cover, coveredMonths(cover), context).figure,
      };
    }),
  );
}

/** The figures that are not what they were. */
export function movedFigures(before: readonly FigureAt[], after: readonly FigureAt[]): MovedFigure[] {
  const place = ({ kpi, scenario, span }: FigureAt) => JSON.stringify([kpi.definition.key, scenario, span]);
  const was = new Map(before.map((at) => [place(at), at.figure]));
  return after.flatMap((at) => {
    const former: Figure = was.get(place(at)) ?? { absent: "no data", detail: "It was not there before." };
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
