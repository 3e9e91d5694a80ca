import { tidyStep } from "../step-kind.ts";
import { choice, columns } from "../settings.ts";
import { roundUnits } from "../../reading/read-number.ts";
import { writeDecimal } from "../../reading/write-decimal.ts";
import { nameColumns, rewriteCells } from "../step-run.ts";

/** Seconds in a unit, and the decimals that durations are written with in it. */
const UNITS = {
  seconds: { seconds: 1, decimals: 0 },
  minutes: { seconds: 60, decimals: 4 },
  hours: { seconds: 3600, decimals: 6 },
} as const;

/** Writes durations, such as 1:30:00 or 90:00, as a number of hours, minutes or seconds. Other texts stay. */
export const duration = tidyStep(
  "duration",
  {
    columns: columns(),
    in: choice("As a number of", [
      ["hours", "hours"],
      ["minutes", "minutes"],
      ["seconds", "seconds"],
    ]),
  },
  {
    name: "Durations as numbers",
    note: "1:30:00 as 1.5 hours",
    fresh: () => ({ columns: [], in: "hours" as const }),
    needs: (step) => step.columns,
    changes: (step) => step.columns,
    start: (step, columns, { mark }) =>
      rewriteCells(columns, step.columns, (text) => {
        const seconds = secondsOf(text.trim());
        if (seconds === undefined) return undefined;
        const { seconds: unit, decimals } = UNITS[step.in];
        // To the last digit that is kept: 20 minutes are 0.333333 hours.
        const units = Math.round((Math.abs(seconds) * 10 ** decimals) / unit);
        const value = { units: seconds < 0 ? -units : units, decimals };
        const whole = roundUnits(value, 0);
        const isWhole = whole !== undefined && whole * 10 ** decimals === value.units;
        return writeDecimal(isWhole ? { units: whole, decimals: 0 } : value, mark);
      }),
    say: (step) => `Write ${nameColumns(step.columns)} as ${step.in}`,
  },
);

/** Hours, minutes and seconds, or minutes and seconds; `undefined` where it is neither. */
function secondsOf(text: string): number | undefined {
  const [, sign = "", first, second, third] = /^([-−]?)(\d{1,6}):([0-5]\d)(?::([0-5]\d))?$/.exec(text) ?? [];
  if (first === undefined || second === undefined) return undefined;
  const seconds =
    third === undefined
      ? Number(first) * 60 + Number(second)
      : Number(first) * 3600 + Number(second) * 60 + Number(third);
  return sign === "" ? seconds : -seconds;
}
