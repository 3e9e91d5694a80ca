import { isPresent } from "../figures/figure.ts";
import type { CompiledKpi } from "../kpis/compile-kpi.ts";
import type { Status } from "../kpis/status.ts";
import type { Comparison } from "../compare/compare-kpi.ts";
import type { Absence } from "../figures/schema.ts";

/** The spans that are watched: the last closed month, and the year to it. */
export const ALERT_SPANS = ["month", "year-to-date"] as const;
export type AlertSpan = (typeof ALERT_SPANS)[number];

/** How a KPI stands, as readers are alerted to: by its band, or by the judgement of its variance. */
export interface Standing {
  readonly kpi: string;
  readonly span: AlertSpan;
  readonly word: string;
  /** 0, the worst, to 2, the best. */
  readonly rank: number;
}

/** A KPI whose standing turned. */
export interface StandingChange {
  readonly kpi: string;
  readonly span: AlertSpan;
  readonly from: string;
  readonly to: string;
  readonly isBetter: boolean;
}

const JUDGEMENT_RANK = { favourable: 2, "on plan": 1, unfavourable: 0 } as const;
const GRADE_RANK = { good: 2, fair: 1, poor: 0 } as const;

/** The standing of a KPI; `null` where there is none: nothing to compare, a neutral KPI, no band. */
export function standingOf(
  kpi: CompiledKpi,
  span: AlertSpan,
  comparison: Comparison,
  status: Status | Absence | null,
): Standing | null {
  const { key } = kpi.definition;
  if (status) return "absent" in status ? null : { kpi: key, span, word: status.word, rank: GRADE_RANK[status.grade] };
  const { judgement } = comparison.variance;
  if (judgement === null || judgement === "neutral" || !isPresent(comparison.actual.figure)) return null;
  return { kpi: key, span, word: judgement, rank: JUDGEMENT_RANK[judgement] };
}

/** Standings that are better or worse than they were, the largest turns first. What came or went is no change. */
export function standingChanges(before: readonly Standing[], after: readonly Standing[]): StandingChange[] {
  const place = ({ kpi, span }: Standing) => `${span} ${kpi}`;
  const was = new Map(before.map((s) => [place(s), s]));
  return after
    .flatMap((now) => {
      const then = was.get(place(now));
      return then && then.rank !== now.rank ? [{ now, then, by: now.rank - then.rank }] : [];
    })
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by))
    .map(({ now, then, by }) => ({ kpi: now.kpi, span: now.span, from: then.word, to: now.word, isBetter: by > 0 }));
}
