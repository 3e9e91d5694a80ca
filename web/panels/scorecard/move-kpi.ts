import type { DefinitionOf } from "#core/panels/schemas.ts";
import { moved } from "../arrange/moved.ts";

type Groups = DefinitionOf<"scorecard">["groups"];

/** A KPI one place up or down; at the end of its group it goes over into the next. */
export function moveKpi(groups: Groups, g: number, i: number, by: -1 | 1): Groups {
  const own = groups[g]!;
  const to = i + by;
  if (to >= 0 && to < own.kpis.length)
    return groups.map((group, k) => (k === g ? { ...group, kpis: moved(group.kpis, i, to) } : group));
  const key = own.kpis[i]!;
  return groups.map((group, k) => {
    if (k === g) return { ...group, kpis: group.kpis.toSpliced(i, 1) };
    if (k !== g + by) return group;
    return { ...group, kpis: by > 0 ? [key, ...group.kpis] : [...group.kpis, key] };
  });
}
