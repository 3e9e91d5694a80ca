import { absent, isPresent } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import { statusOf, type Status } from "../kpis/status.ts";
import { compareSides, type Comparison, type SidesCompared } from "./compare-kpi.ts";
import type { Frame } from "./frame.ts";
import { measureOver } from "./measure.ts";
import type { MeasureContext } from "./measure-ground.ts";
import { SHOWN, type Side } from "./side.ts";
import { spanWindow } from "./window.ts";
import type { Absence, Figure } from "../figures/schema.ts";

type Library = ReadonlyMap<string, CompiledKpi>;

const TARGET: Side = { scenario: "target", shift: 0, name: "Target" };

/** The status of a KPI in a frame; `null` where it has no bands. Held against basis or target it is measured like for like. */
export function kpiStatus(
  kpi: CompiledKpi,
  comparison: Comparison,
  frame: Frame,
  context: MeasureContext,
  library: Library,
): Status | Absence | null {
  const rule = kpi.definition.status;
  if (!rule) return null;
  const { value, reference } = held(kpi, comparison, frame, context, library);
  return statusOf(rule, value, reference, kpi.definition.unit);
}

function held(
  kpi: CompiledKpi,
  comparison: Comparison,
  frame: Frame,
  context: MeasureContext,
  library: Library,
): { value: Figure; reference: Figure } {
  const against = kpi.definition.status!.against;
  const window = spanWindow(context, frame.span, frame.asOf);
  switch (against.kind) {
    case "value":
      return { value: comparison.actual.figure, reference: comparison.actual.figure };
    case "basis":
      return likeForLike(comparison);
    case "target": {
      return likeForLike(compareSides(kpi, SHOWN, TARGET, window, context));
    }
    case "kpi": {
      const other = library.get(against.kpi);
      if (!other)
        return {
          value: comparison.actual.figure,
          reference: absent("no base", `There is no KPI "${against.kpi}" any more.`),
        };
      return {
        value: comparison.actual.figure,
        reference: measureOver(other, SHOWN, window, context).figure,
      };
    }
  }
}

/** The actual over the months that both have; where there is nothing to hold it against, that is the reason to give. */
function likeForLike({ actual, actualInCommon, basis }: SidesCompared): {
  value: Figure;
  reference: Figure;
} {
  const value = isPresent(basis.figure) ? actualInCommon.figure : actual.figure;
  return { value, reference: basis.figure };
}
