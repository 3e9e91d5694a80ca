import type { Month } from "../../calendar/month.ts";

/** A month that a version said something of, and that came. */
export interface JudgedMonth {
  readonly month: Month;
  /** How many months after the last one that was known when it was made, from 1. */
  readonly ahead: number;
  readonly said: number;
  readonly seen: number;
}

/** How right a version was over some months. */
export interface VersionAccuracy {
  readonly months: number;
  /** The mean of what was seen less what was said, in the KPI's own unit; `null` of no month. */
  readonly bias: number | null;
  /** The mean absolute error. */
  readonly mae: number | null;
  /** Absolute errors by what was seen, added up each: no month counts for more because it was small. */
  readonly share: number | null;
  readonly byAhead: readonly {
    readonly ahead: number;
    readonly months: number;
    readonly share: number | null;
    readonly bias: number;
  }[];
}

/** How right a version was over months. */
export function judgeVersion(months: readonly JudgedMonth[]): VersionAccuracy {
  const { bias, mae, share } = errorsOf(months);
  const aheads = [...new Set(months.map(({ ahead }) => ahead))].sort((a, b) => a - b);
  return {
    months: months.length,
    bias,
    mae,
    share,
    byAhead: aheads.map((ahead) => {
      const own = months.filter((month) => month.ahead === ahead);
      const errors = errorsOf(own);
      return { ahead, months: own.length, share: errors.share, bias: errors.bias! };
    }),
  };
}

function errorsOf(months: readonly JudgedMonth[]): Pick<VersionAccuracy, "bias" | "mae" | "share"> {
  if (months.length === 0) return { bias: null, mae: null, share: null };
  const sum = (of: (month: JudgedMonth) => number) => months.reduce((all, month) => all + of(month), 0);
  const absolute = sum(({ seen, said }) => Math.abs(seen - said));
  const seen = sum((month) => Math.abs(month.seen));
  return {
    bias: sum((month) => month.seen - month.said) / months.length,
    mae: absolute / months.length,
    share: seen === 0 ? null : absolute / seen,
  };
}
