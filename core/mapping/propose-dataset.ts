import { monthsBetween } from "../calendar/month.ts";
import type { Grain } from "../cube/coverage.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { indexNames, newKey, plainName } from "../reading/names.ts";
import { readDate } from "../reading/read-date.ts";
import { SLOTS_LEFT_OUT } from "./column-names.ts";
import type { DatasetShape } from "./mapping-view.ts";
import type { FigureEvidence, Proposal } from "./proposal.ts";

/** Facts keep the members of at most this many dimensions. */
export const MOST_DIMENSIONS = 8;

/** The dataset whose accounts the file's account column names; `undefined` where the rows speak of nothing that is there. */
export function fittingDataset({ profiles, columns, valuesOf, view, has }: Proposal): DatasetShape | undefined {
  if (!has("account")) return undefined;
  const place = profiles.findIndex((p) => columns[p.name]?.as === "account");
  const names = indexNames(view.accounts);
  const keys = valuesOf(place).flatMap((v) => names.get(plainName(v)) ?? []);
  const fits = view.datasets.map((dataset) => ({
    dataset,
    fit: keys.filter((key) => dataset.accounts.has(key)).length / Math.max(1, keys.length),
  }));
  const best = fits.reduce<(typeof fits)[number] | undefined>((a, b) => (a && a.fit >= b.fit ? a : b), undefined);
  return best && best.fit >= 0.5 ? best.dataset : undefined;
}

/** Gives columns of texts that come again dimensions of their own. */
export function proposeDimensions(
  { profiles, hints, columns, view }: Proposal,
  { apart }: Pick<FigureEvidence, "apart">,
): { key: string; name: string }[] {
  const keys = new Set(view.dimensions.map(({ key }) => key));
  const free = Math.max(0, MOST_DIMENSIONS - view.dimensions.length);
  const candidates = profiles.filter((profile) => {
    const { name } = profile;
    if (columns[name] || SLOTS_LEFT_OUT.test(name) || !isRepeated(profile)) return false;
    return hints[name]?.as === "dimension" || (profile.type === "text" && !apart.has(name));
  });
  return candidates.slice(0, free).map(({ name }) => {
    const key = newKey(name, keys, "-");
    keys.add(key);
    columns[name] = { as: "dimension", dimension: key };
    return { key, name };
  });
}

function isRepeated(profile: ColumnProfile): boolean {
  return profile.distinct <= 200 || profile.distinct < profile.filled * 0.5;
}

/** Days when nearly every day of the sample's time is there; a list with gaps is kept by month. */
export function grainOf({ profiles, columns, valuesOf, view }: Proposal): Grain {
  const place = profiles.findIndex((p) => columns[p.name]?.as === "period");
  const format = profiles[place]?.dateFormat;
  if (!format) return "month";
  if (format === "quarter") return "quarter";
  const dates = valuesOf(place).flatMap((v) => readDate(v, format, view.calendar) ?? []);
  const days = new Set(dates.filter((d) => d.day !== null).map((d) => d.month * 31 + d.day!));
  if (days.size < 28) return "month";
  const span = monthsBetween(Math.min(...dates.map((d) => d.month)), Math.max(...dates.map((d) => d.month)));
  return days.size >= (span.length - 1) * 30 * 0.97 ? "day" : "month";
}
