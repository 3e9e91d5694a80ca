import { expect } from "vitest";
import type { Figure } from "#core/figures/schema.ts";
import { OPERATIONS } from "#contract/operations/index.ts";
import { INDEPENDENT_KPIS, isExact, type independentSums, type Narrowing } from "./independent.ts";
import type { KpiRow } from "#core/panels/parts/schema.ts";

/** A frame as an address writes it. */
export interface SweptFrame {
  readonly asOf: string;
  readonly span: string;
  readonly basis: string;
}

export const SPANS = [
  "month",
  "quarter",
  "quarter-to-date",
  "year-to-date",
  "full-year",
  "trailing-12",
  "month-to-date",
] as const;
export const BASES = ["budget", "forecast", "target", "prior-year", "prior-period"] as const;
/** The last closed month, both sides of the fiscal year's boundary, a quarter's end, the open month, the first months, and one before anything. */
export const AS_OFS = ["2026-10", "2026-04", "2026-03", "2026-09", "2026-11", "2023-04", "2023-06", "2023-03"] as const;

/** All frames as of a month. */
export function framesOf(asOf: string): SweptFrame[] {
  return SPANS.flatMap((span) => BASES.map((basis) => ({ asOf, span, basis })));
}

/**
 * Few frames in which every pair of as-of month and span, of span and basis, and of as-of month and basis stands at
 * least once: as many as the two longest lists have pairs.
 */
export function pairwiseFrames(): SweptFrame[] {
  return AS_OFS.flatMap((asOf, i) => SPANS.map((span, j) => ({ asOf, span, basis: BASES[(i + j) % BASES.length]! })));
}

/** The last day for which the sample company has daily figures in a month. */
export function lastDay(asOf: string): number {
  if (asOf === "2026-11") return 17;
  if (asOf < "2023-04" || asOf > "2026-11") return 31;
  return new Date(Date.UTC(Number(asOf.slice(0, 4)), Number(asOf.slice(5)), 0)).getUTCDate();
}

/** Holds that a panel's answer is by the contract, and that nothing JavaScript says for an absence reaches a reader. */
export function expectReadable(place: string, { status, body }: { status: number; body: unknown }): void {
  expect([place, status]).toEqual([place, 200]);
  expect(OPERATIONS.panel.answer.safeParse(body).error, place).toBeUndefined();
  expect(JSON.stringify(body), place).not.toMatch(/NaN|Infinity|undefined|\[object|null (of|below|above)/);
}

/** The value on the wire; `null` where there is none. */
export const valueOf = (figure: Figure) => ("value" in figure ? figure.value : null);

/**
 * Holds every figure of a scorecard against the independent calculation, in each frame and scope. Returns how many of
 * the figures were there: an agreement of nothing but absences says nothing.
 */
export class Agreement {
  present = 0;

  constructor(
    private readonly sums: ReturnType<typeof independentSums>,
    private readonly scorecard: (frame: SweptFrame, scope: Narrowing) => Promise<readonly KpiRow[]>,
  ) {}

  /** Checks a frame; `own` is what the reader is confined to where that differs from what is asked for. */
  async check(frame: SweptFrame, scope: Narrowing = {}, own: Narrowing = scope): Promise<void> {
    const rows = await this.scorecard(frame, scope);
    const independent = this.sums(own, frame.span === "month-to-date" ? lastDay(frame.asOf) : undefined);
    for (const kpi of INDEPENDENT_KPIS) {
      const row = rows.find((r) => r.kpi.key === kpi)!;
      const wanted = independent.figure(kpi, frame);
      const found = {
        actual: valueOf(row.actual),
        basis: valueOf(row.basis),
        delta: valueOf(row.variance.delta),
        attainment: valueOf(row.attainment),
      };
      for (const side of ["actual", "basis", "delta", "attainment"] as const) {
        if (found[side] !== null) this.present += 1;
        if (found[side] === wanted[side]) continue;
        const said = JSON.stringify(side === "delta" ? row.words : row[side]);
        const place = `${kpi} ${side} ${JSON.stringify({ ...frame, scope })}: ${said}`;
        if (wanted[side] === null || found[side] === null) expect(found[side], place).toBe(wanted[side]);
        else if (isExact(kpi) && (side === "actual" || side === "basis")) expect(found[side], place).toBe(wanted[side]);
        else
          expect(Math.abs(found[side] - wanted[side]), place).toBeLessThanOrEqual(
            1e-9 * Math.max(1, Math.abs(wanted[side]) * 1e-3),
          );
      }
    }
  }
}
