import type { TimeMarks, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** How a chart is drawn where it stands, and why not as it was asked for. */
export interface FittingMarks {
  readonly marks: TimeMarks;
  readonly why: string | null;
}

/** A column narrower than this, in pixels, is not told from the next. */
const LEAST_COLUMN = 4;
/** What of a chart's width its columns have, between the axis and the gaps. */
const COLUMN_SHARE = 0.56;

/** The marks asked for, or those that can be read in the width there is. A width of 0 is not known yet. */
export function fittingMarks(
  wanted: TimeMarks,
  { parts, points, stacking, grain, moving, trend, band, right, references }: TimeChartAnswer,
  width: number,
): FittingMarks {
  if (wanted === "bars") {
    if (parts.length > 0) return { marks: "columns", why: "Bars show one series; several are shown as columns." };
    const hasLines = moving !== null || trend !== null || band !== null || right !== null || references.length > 0;
    return {
      marks: "bars",
      why: hasLines ? "Bars leave out averages, trends and reference lines; columns show them." : null,
    };
  }
  const isBeside = parts.length > 1 && stacking === "clustered" && wanted !== "lines";
  if (!isBeside || width === 0) return { marks: wanted, why: null };
  return (width * COLUMN_SHARE) / points.length / parts.length >= LEAST_COLUMN
    ? { marks: wanted, why: null }
    : {
        marks: "lines",
        why: `${parts.length} columns per ${grain} do not fit side by side, so they are drawn as lines.`,
      };
}
