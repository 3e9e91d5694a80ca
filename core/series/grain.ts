/** How finely a KPI is told over time. */
export const GRAINS = ["day", "week", "month", "quarter", "year"] as const;
export type Grain = (typeof GRAINS)[number];

export const GRAIN_NAMES: Readonly<Record<Grain, string>> = {
  day: "day",
  week: "week",
  month: "month",
  quarter: "quarter",
  year: "year",
};

/** Whether a text names a grain. */
export function isGrain(text: string): text is Grain {
  return (GRAINS as readonly string[]).includes(text);
}
