import { forecastSeries } from "#core/forecast/index.ts";
import { allKinds, COMPARED, gainOf, judgeDefault, type KindRow } from "#core/forecast/testing/judge-default.ts";
import { judgedSeries } from "#core/forecast/testing/kinds.ts";
import { median } from "../bench/timing.ts";

const EACH = 6;

/** How near forecasts are to what was held back, by kinds of series, and how long they take. */
export async function benchForecasts(): Promise<void> {
  for (const half of ["settings", "report"] as const) {
    const rows = judgeDefault(half, EACH);
    console.log(`\nforecasts of the half for ${half}: mean absolute scaled error, and the share held by intervals`);
    console.log(`  ${"".padEnd(22)}${COMPARED.map((name) => name.padStart(16)).join("")}     80%   95%  forecasts`);
    for (const row of [...rows, allKinds(rows)]) console.log(lineOf(row));
    console.log(`  nearer than the best single method by ${(100 * gainOf(allKinds(rows))).toFixed(1)}%`);
  }
  const monthly = judgedSeries("report", 1).find(({ kind }) => kind === "growing season")!;
  const values = monthly.values.slice(0, 72);
  const ms = await median(15, () => Promise.resolve(forecastSeries({ ...monthly, values }, { horizon: 12 })));
  console.log(`  one monthly series of 72 periods, chosen from all methods: ${ms.toFixed(0)} ms`);
}

function lineOf({ kind, mase, held, forecasts }: KindRow): string {
  const share = (part: number) => `${Math.round(part * 100)}%`.padStart(6);
  const errors = COMPARED.map((name) => mase[name].toFixed(3).padStart(16)).join("");
  return `  ${kind.padEnd(22)}${errors}  ${share(held.narrow)}${share(held.wide)}${String(forecasts).padStart(11)}`;
}
