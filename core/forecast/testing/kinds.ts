import { monthOf, type Month } from "../../calendar/month.ts";
import { calendarCount } from "../calendar-effects.ts";
import { randomOf, type Random } from "../numerics/random.ts";
import publicSeries from "./public-series.json" with { type: "json" };
import referenceFits from "./reference-fits.json" with { type: "json" };

/** A series to judge forecasts by, with how far ahead it is forecast. */
export interface JudgedSeries {
  readonly kind: string;
  readonly name: string;
  readonly season: number;
  readonly values: readonly number[];
  readonly horizon: number;
  /** The calendar month of the first value, where it is known. */
  readonly firstMonth?: Month;
}

const wave = (t: number, season: number, random: readonly number[]) =>
  random.reduce((sum, own, k) => sum + own * Math.sin((2 * Math.PI * (k + 1) * t) / season + k), 0);

interface Kind {
  readonly season: number;
  readonly n: number;
  readonly horizon: number;
  readonly make: (random: Random) => (t: number) => number;
}

/** Kinds of series that monthly, weekly and daily finance has, each made anew by its seed. */
const KINDS: Readonly<Record<string, Kind>> = {
  "growing season": {
    season: 12,
    n: 96,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const [growth, shape] = [0.002 + 0.008 * uniform(), [0.15 + 0.2 * uniform(), 0.1 * uniform()]];
      return (t) => 800 * Math.exp(growth * t) * (1 + wave(t, 12, shape)) * (1 + 0.05 * normal());
    },
  },
  "trend break": {
    season: 12,
    n: 84,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const [at, before, after] = [40 + Math.floor(20 * uniform()), 3 + 4 * uniform(), -6 + 8 * uniform()];
      const shape = [30 * uniform(), 20 * uniform()];
      return (t) => 600 + before * Math.min(t, at) + after * Math.max(0, t - at) + wave(t, 12, shape) + 12 * normal();
    },
  },
  "level shift": {
    season: 12,
    n: 84,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const [at, by] = [30 + Math.floor(35 * uniform()), (uniform() < 0.5 ? -1 : 1) * (120 + 100 * uniform())];
      const shape = [40 * uniform(), 20 * uniform()];
      return (t) => 500 + (t >= at ? by : 0) + wave(t, 12, shape) + 15 * normal();
    },
  },
  "giant outlier": {
    season: 12,
    n: 72,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const at = 30 + Math.floor(18 * uniform());
      const shape = [60 * uniform(), 30 * uniform()];
      return (t) => 500 + 1.5 * t + wave(t, 12, shape) + 15 * normal() + (t === at ? 600 : 0);
    },
  },
  intermittent: {
    season: 12,
    n: 72,
    horizon: 12,
    make: ({ uniform }) => {
      const [often, size] = [0.25 + 0.3 * uniform(), 5 + 30 * uniform()];
      return () => (uniform() < often ? Math.ceil(size * (0.3 - Math.log(uniform()) * 0.7)) : 0);
    },
  },
  short: {
    season: 12,
    n: 30,
    horizon: 6,
    make: ({ uniform, normal }) => {
      const [slope, shape] = [-1 + 3 * uniform(), [25 * uniform()]];
      return (t) => 300 + slope * t + wave(t, 12, shape) + 15 * normal();
    },
  },
  "53 weeks": {
    season: 52,
    n: 53 + 52 * 3,
    horizon: 13,
    make: ({ uniform, normal }) => {
      const shape = [60 * uniform(), 30 * uniform(), 15 * uniform()];
      // The first year has 53 weeks: the season of the years after it is a week later than its number says.
      return (t) => 500 + 0.4 * t + wave((t * 364) / 365.25, 52, shape) + 20 * normal();
    },
  },
  "zeros and negatives": {
    season: 12,
    n: 84,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const shape = [60 + 60 * uniform(), 30 * uniform()];
      let level = 10;
      return (t) => {
        level += 6 * normal();
        return t % 11 === 3 ? 0 : level + wave(t, 12, shape) + 15 * normal();
      };
    },
  },
  "daily, two seasons": {
    season: 7,
    n: 3 * 365,
    horizon: 28,
    make: ({ uniform, normal }) => {
      const [week, year] = [
        [40 + 60 * uniform(), 30 * uniform()],
        [100 + 100 * uniform(), 40 * uniform()],
      ];
      return (t) => 1000 + 0.1 * t + wave(t, 7, week) + wave(t, 365.25, year) + 40 * normal();
    },
  },
  "random walk": {
    season: 12,
    n: 84,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const drift = -2 + 5 * uniform();
      let level = 400;
      return () => (level += drift + 15 * normal());
    },
  },
  "trading days": {
    season: 12,
    n: 84,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const [rate, shape] = [20 + 20 * uniform(), [3 * uniform(), 2 * uniform()]];
      // Working days of the months from January 2019 on.
      return (t) => workingDays(t) * (rate + 0.05 * t + wave(t, 12, shape)) + 12 * normal();
    },
  },
  "quarters, damped": {
    season: 4,
    n: 44,
    horizon: 4,
    make: ({ uniform, normal }) => {
      const [rise, shape] = [150 * uniform(), [30 * uniform(), 10 * uniform()]];
      return (t) => 300 + rise * (1 - 0.92 ** t) + wave(t, 4, shape) + 10 * normal();
    },
  },
  "changing season": {
    season: 12,
    n: 96,
    horizon: 12,
    make: ({ uniform, normal }) => {
      const effects = Array.from({ length: 12 }, () => 80 * (uniform() - 0.5));
      let level = 500;
      return (t) => {
        effects[t % 12]! += 8 * normal();
        level += 3 * normal();
        return level + effects[t % 12]! + 8 * normal();
      };
    },
  },
  "no season": {
    season: 12,
    n: 60,
    horizon: 6,
    make: ({ uniform, normal }) => {
      const slope = 1.5 * uniform();
      return (t) => 200 + slope * t + 20 * normal();
    },
  },
};

/** Where the generated monthly series begin. */
const FIRST_MONTH = monthOf(2019, 1);

function workingDays(t: number): number {
  return calendarCount("working-days", FIRST_MONTH + t);
}

const HORIZONS: Readonly<Record<number, number>> = { 1: 6, 4: 4, 7: 28, 12: 12 };

/** Public series: those with reference fits, and the employment, air and weather of a registry package of examples. */
function publicOnes(): JudgedSeries[] {
  return [
    ...Object.entries(referenceFits).map(([name, { frequency, values }]) => ({ name, season: frequency, values })),
    ...Object.entries(publicSeries).map(([name, own]) => ({ name, ...own })),
  ].map(({ name, season, values }) => ({ kind: "public", name, season, values, horizon: HORIZONS[season]! }));
}

/**
 * Series of every kind in two halves: settings are looked for on the one, and what they are worth is reported on
 * the other. `each` is how many of a generated kind are in a half.
 */
export function judgedSeries(half: "settings" | "report", each: number): JudgedSeries[] {
  const isIn = (at: number) => at % 2 === (half === "settings" ? 0 : 1);
  const made = Object.entries(KINDS).flatMap(([kind, { season, n, horizon, make }], k) =>
    Array.from({ length: 2 * each }, (_, at): JudgedSeries => {
      const next = make(randomOf(1000 * (k + 1) + at));
      const values = Array.from({ length: n }, (__, t) => Math.round(next(t) * 100) / 100);
      const known = season === 12 ? { firstMonth: FIRST_MONTH } : {};
      return { kind, name: `${kind} ${at + 1}`, season, values, horizon, ...known };
    }).filter((_, at) => isIn(at)),
  );
  return [...publicOnes().filter((_, at) => isIn(at)), ...made];
}
