import type { DefinitionOf } from "#core/panels/schemas.ts";

type Groups = DefinitionOf<"scorecard">["groups"];

/** Groups with a KPI in the place of another one, of whichever group. */
export function placeKpi(groups: Groups, kpi: string, onto: string): Groups {
  const from = groups.findIndex(({ kpis }) => kpis.includes(kpi));
  const to = groups.findIndex(({ kpis }) => kpis.includes(onto));
  if (from < 0 || to < 0 || kpi === onto) return groups;
  const at = groups[to]!.kpis.indexOf(onto);
  return groups.map((group, g) => {
    const rest = group.kpis.filter((key) => key !== kpi);
    // Within its own group what lay before it moves up; the place it was dropped on stays the same.
    return g === to ? { ...group, kpis: rest.toSpliced(at, 0, kpi) } : { ...group, kpis: rest };
  });
}
