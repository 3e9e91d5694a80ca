import { compareSides } from "../../compare/compare-kpi.ts";
import { inMembers, type MeasureContext } from "../../compare/measure-ground.ts";
import { measureOver } from "../../compare/measure.ts";
import { SHOWN } from "../../compare/side.ts";
import { spanWindow } from "../../compare/window.ts";
import { intersectScopes } from "../../dimensions/scope.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { repetition } from "../parts/repetition.ts";
import { scenarioSides } from "../parts/scenario-sides.ts";
import { MOST_PARTS, type BreakdownDefinition, type BreakdownSeries } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

/** The parts that every bar of a breakdown is taken apart into; the smallest of many are gathered. */
export function seriesOf(
  { cluster, kpis, by }: BreakdownDefinition,
  kpi: CompiledKpi,
  question: PanelQuestion,
): readonly BreakdownSeries[] {
  const { company, asked } = question;
  switch (cluster?.kind) {
    case undefined:
      return [];
    case "kpis":
      return kpis
        .map((key) => requireKpi(company, key).definition)
        .filter(({ unit }) => unit.kind === kpi.definition.unit.kind)
        .map(({ key, name }, at) => ({ key, name, at }));
    case "scenarios":
      return scenarioSides(kpi, question).map(({ key, side }, at) => ({ key, name: side.name, scenario: key, at }));
    case "dimension": {
      if (cluster.dimension === by.dimension) return [];
      const { members, beyond, dimension } = repetition(question, cluster, null);
      const window = spanWindow(company, asked.frame.span, asked.frame.asOf);
      const sized = members.map((member, at) => {
        const figure = measureOver(kpi, SHOWN, window, { ...measureContext(question), scope: member.scope }).figure;
        return { member, at, size: isPresent(figure) ? Math.abs(figure.value) : 0 };
      });
      const kept = new Set(
        sized.length <= MOST_PARTS ? sized : sized.toSorted((a, b) => b.size - a.size).slice(0, MOST_PARTS - 1),
      );
      const rest = [...sized.filter((one) => !kept.has(one)).map(({ member }) => member), ...beyond];
      const own = sized
        .filter((one) => kept.has(one))
        .map(({ member, at }): BreakdownSeries => ({
          key: member.key,
          name: member.name,
          dimension: dimension.key,
          members: [member.key],
          at,
        }));
      if (rest.length === 0) return own;
      return [
        ...own,
        {
          key: "others",
          name: `The other ${rest.length.toLocaleString("en")}`,
          dimension: dimension.key,
          members: rest.map(({ key }) => key),
          at: null,
        },
      ];
    }
  }
}

/** The figures of a bar's parts on the bar's own ground, in the order of the series. */
export function partsOf(
  series: readonly BreakdownSeries[],
  kpi: CompiledKpi,
  context: MeasureContext,
  question: PanelQuestion,
): readonly Figure[] {
  const { company, asked } = question;
  const window = spanWindow(context, asked.frame.span, asked.frame.asOf);
  const sides = new Map(
    series.some(({ scenario }) => scenario !== undefined)
      ? scenarioSides(kpi, question).map(({ key, side }) => [key, side])
      : [],
  );
  return series.map(({ key, scenario, dimension, members }) => {
    if (scenario === "actual") return measureOver(kpi, SHOWN, window, context).figure;
    const side = scenario === undefined ? undefined : sides.get(scenario);
    // A scenario is measured on the months that it has in common with the actual, as every basis is.
    if (side) return compareSides(kpi, SHOWN, side, window, context).basis.figure;
    if (dimension === undefined) return measureOver(requireKpi(company, key), SHOWN, window, context).figure;
    const part = intersectScopes(company.dimensions, context.scope, { [dimension]: members! });
    if (part[dimension]!.length === 0) return absent("not covered", "It is outside the scope.");
    return measureOver(kpi, SHOWN, window, inMembers(context, { [dimension]: members! }, part)).figure;
  });
}
