import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import { expectedRange } from "#core/forecast/expected-range.ts";
import { forecastSeries } from "#core/forecast/index.ts";
import {
  allKinds,
  COMPARED,
  gainOf,
  judgeByLength,
  judgeDefault,
  type KindRow,
} from "#core/forecast/testing/judge-default.ts";
import { judgedSeries } from "#core/forecast/testing/kinds.ts";
import { forecastMany } from "#server/versions/forecast-many.ts";
import { medianTime } from "./timing.ts";

const EACH = 6;

/** How near forecasts are to what was held back, by kinds of series, and how long they take. */
export async function benchForecasts(): Promise<void> {
  for (const half of ["settings", "report"] as const) {
    const rows = judgeDefault(half, EACH);
    console.log(`\nforecasts of the half for ${half}: mean absolute scaled error, and the share held by intervals`);
    console.log(`  ${"".padEnd(22)}${COMPARED.map((name) => name.padStart(16)).join("")}     80%   95%  forecasts`);
    for (const row of [...rows, allKinds(rows)]) console.log(lineOf(row));
    console.log(`  nearer than the best single method by ${(100 * gainOf(allKinds(rows))).toFixed(1)}%`);
    console.log("  by how many months are known");
    for (const row of judgeByLength(half, EACH))
      console.log(`${lineOf(row)}  ${(100 * gainOf(row)).toFixed(1)}% nearer`);
  }
  const monthly = judgedSeries("report", 1).find(({ kind }) => kind === "growing season")!;
  const values = monthly.values.slice(0, 72);
  const ms = await medianTime(15, () => Promise.resolve(forecastSeries({ ...monthly, values }, { horizon: 12 })));
  console.log(`  one monthly series of 72 periods, chosen from all methods: ${ms.toFixed(0)} ms`);
  await benchMany();
  const days = fourYears();
  const range = await medianTime(7, () => Promise.resolve(expectedRange({ values: days, season: 7 }, { from: 1400 })));
  console.log(`  the expected range of the last 61 days of four years: ${range.toFixed(0)} ms`);
}

const MANY = 1_000;

/** Many series on threads, as when a version is posted, told as they come. */
async function benchMany(): Promise<void> {
  const series = judgedSeries("report", 20).filter(({ season }) => season === 12);
  const histories = Array.from({ length: MANY }, (_, i): KpiHistory => {
    const { values } = series[i % series.length]!;
    const kept = values.slice(0, 72);
    return {
      grain: "month",
      values: kept.map((value) => value && value * (1 + i / MANY)),
      first: { month: 24_240, day: null },
      keys: kept.map((_value, t) => String(t)),
      known: { confirmed: [], dismissed: [] },
      isFlow: true,
      isShare: false,
      made: null,
    };
  });
  const began = performance.now();
  let told = 0;
  for await (const news of forecastMany(histories, { horizon: 12 })) told += "done" in news ? 1 : 0;
  const seconds = (performance.now() - began) / 1000;
  console.log(`  ${MANY} monthly series on threads: ${seconds.toFixed(1)} s, told of ${told} times`);
}

/** A series by day with a week and a year. */
function fourYears(): number[] {
  return Array.from({ length: 1461 }, (_, t) => {
    const noise = Math.sin(t * 12.9898) * 43_758.5453;
    const year = 1 + 0.4 * Math.sin((2 * Math.PI * t) / 365.25);
    return Math.round(1000 * year * (1 + 0.25 * Math.sin((2 * Math.PI * t) / 7)) * (1 + 0.08 * (noise % 1)));
  });
}

function lineOf({ kind, mase, held, forecasts }: KindRow): string {
  const share = (part: number) => `${Math.round(part * 100)}%`.padStart(6);
  const errors = COMPARED.map((name) => mase[name].toFixed(3).padStart(16)).join("");
  return `  ${kind.padEnd(22)}${errors}  ${share(held.narrow)}${share(held.wide)}${String(forecasts).padStart(11)}`;
}
