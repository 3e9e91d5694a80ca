import { absent, isPresent } from "../figures/figure.ts";
import type { Absence, Figure, KpiUnit } from "../figures/schema.ts";
import type { Grade, Band, StatusRule } from "./schema.ts";

/** A status that was reached. `place` runs from 0, at the worst band's far limit, to 1 at the best one's. */
export interface Status {
  readonly grade: Grade;
  readonly word: string;
  readonly place: number;
}

/** A hole or overlap between bands: what is wrong, between which numbers, and the way out. */
export interface BandProblem {
  readonly kind: "hole" | "overlap" | "empty" | "open";
  readonly from: number | null;
  readonly to: number | null;
  readonly message: string;
}

/** Whether bands tile the whole line: no gap, no overlap. In the order of their lower limits. */
export function bandProblems(bands: readonly Band[]): BandProblem[] {
  if (bands.length === 0)
    return [{ kind: "open", from: null, to: null, message: "There are no bands: add at least one." }];
  const problems: BandProblem[] = [];
  for (const { from, to, word } of bands)
    if (from !== null && to !== null && from >= to)
      problems.push({
        kind: "empty",
        from,
        to,
        message: `"${word}" begins at ${from} and ends at ${to}: nothing falls into it.`,
      });
  const sorted = sortBands(bands);
  const [first] = sorted;
  if (first!.from !== null)
    problems.push({
      kind: "open",
      from: null,
      to: first!.from,
      message: `Values below ${first!.from} have no band: leave the lower limit of "${first!.word}" open, or add a band.`,
    });
  for (const [i, band] of sorted.entries()) {
    const next = sorted[i + 1];
    if (!next) {
      if (band.to !== null)
        problems.push({
          kind: "open",
          from: band.to,
          to: null,
          message: `Values from ${band.to} up have no band: leave the upper limit of "${band.word}" open, or add a band.`,
        });
    } else if (band.to === null || next.from === null || band.to > next.from) {
      problems.push({
        kind: "overlap",
        from: next.from,
        to: band.to,
        message: `"${band.word}" and "${next.word}" overlap${next.from === null ? "" : ` from ${next.from}`}${band.to === null ? "" : ` to ${band.to}`}: let one end where the other begins.`,
      });
    } else if (band.to < next.from) {
      problems.push({
        kind: "hole",
        from: band.to,
        to: next.from,
        message: `Values between ${band.to} and ${next.from} have no band: extend "${band.word}" or "${next.word}".`,
      });
    }
  }
  return problems;
}

/**
 * The status of a value. `reference` is what the limits are percent of; not asked for when they
 * are numbers, and then limits of a KPI in percent are in percent too. Absent where either is,
 * or where a percentage of the reference says nothing.
 */
export function statusOf(rule: StatusRule, value: Figure, reference: Figure, unit: KpiUnit): Status | Absence {
  if (!isPresent(value)) return value;
  const bands = sortBands(rule.bands);
  if (rule.against.kind === "value") {
    // Limits are divided rather than values multiplied: what is 29 percent must not come out as 28.99999.
    const isPercent = unit.kind === "percent";
    return find(
      bands,
      value.value,
      (limit) => (isPercent ? limit / 100 : limit),
      isPercent ? value.value * 100 : value.value,
    );
  }
  if (!isPresent(reference)) return absent("no base", `There is nothing to compare it with: ${reference.detail}`);
  const { value: whole } = reference;
  if (whole <= 0) return absent("no base", "A percentage of zero or less is undefined.");
  return find(bands, value.value * 100, (limit) => limit * whole, (value.value / whole) * 100);
}

function find(
  bands: readonly Band[],
  measured: number,
  limit: (of: number) => number,
  inLimits: number,
): Status | Absence {
  const band = bands.find(
    ({ from, to }) => (from === null || measured >= limit(from)) && (to === null || measured < limit(to)),
  );
  if (!band) return absent("not covered", "No band covers this value: correct the KPI's bands.");
  return { grade: band.grade, word: band.word, place: placeOf(bands, inLimits) };
}

/** Where a value stands between the worst and the best band, for a gradient. */
function placeOf(bands: readonly Band[], value: number): number {
  const limits = bands.slice(1).map((band) => band.from!);
  if (limits.length === 0) return 1;
  const first = limits[0]!;
  const last = limits.at(-1)!;
  // Open ends reach as far beyond the limits as these lie apart.
  const reach = last === first ? Math.abs(first) || 1 : last - first;
  const share = Math.min(1, Math.max(0, (value - (first - reach)) / (last - first + 2 * reach)));
  return gradeValue(bands.at(-1)!.grade) >= gradeValue(bands[0]!.grade) ? share : 1 - share;
}

function gradeValue(grade: Grade): number {
  return { poor: 0, fair: 1, good: 2 }[grade];
}

function sortBands(bands: readonly Band[]): Band[] {
  return [...bands].sort(
    (a, b) => (a.from ?? -Infinity) - (b.from ?? -Infinity) || (a.to ?? Infinity) - (b.to ?? Infinity),
  );
}
