import { geoMercator, geoPath } from "d3-geo";
import { scaleSqrt } from "d3-scale";
import type { Box } from "../../chart-kit/geometry.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import { shorten } from "../../chart-kit/shorten.ts";
import type { Country } from "./geometry.ts";
import type { MapAnswer, MapPlace } from "#core/panels/map/schema.ts";

/** What a map is laid out from. */
export interface MapOptions {
  readonly data: MapAnswer;
  readonly countries: ReadonlyMap<string, Country>;
  readonly width: number;
  readonly height: number;
}

/** A member's circle. */
export interface PlacedCircle {
  /** Its place among the answer's. */
  readonly index: number;
  readonly place: MapPlace;
  readonly cx: number;
  readonly cy: number;
  readonly r: number;
  readonly label: {
    readonly text: string;
    readonly x: number;
    readonly y: number;
    readonly anchor: "start" | "end";
  } | null;
}

const MARGIN = 34;
const MOST_R = 21;
const LEAST_R = 3;
/** No map is closer than this many degrees from edge to edge. */
const LEAST_SPAN = 8;
/** Mercator has no poles: beyond this latitude nothing is shown. */
const MOST_LATITUDE = 78;
const LONGEST_LABEL = 120;

/** The ground of a map: what is in sight, and how it is projected. It stays while figures change. */
export interface MapGround {
  readonly project: (place: readonly [number, number]) => readonly [number, number];
  /** All land in sight, and the countries that members stand for. */
  readonly land: string;
  readonly own: string;
}

/** Projects a map that holds all of the countries. The same countries and size give the same ground. */
export function layoutGround(
  own: readonly Country[],
  countries: ReadonlyMap<string, Country>,
  { width, height }: { readonly width: number; readonly height: number },
): MapGround {
  const projection = geoMercator();
  const middles = own.map(({ middle }) => clampedLatitude(middle));
  const margin = Math.min(MARGIN, width / 6, height / 6);
  projection.fitExtent(
    [
      [margin, margin],
      [Math.max(margin + 1, width - margin), Math.max(margin + 1, height - margin)],
    ],
    { type: "MultiPoint", coordinates: cornersOf(middles.length > 0 ? middles : [[0, 40]]) },
  );
  projection.clipExtent([
    [0, 0],
    [width, height],
  ]);
  const path = geoPath(projection);
  const codes = new Set(own.map(({ code }) => code));
  const outlines = (isOwn: boolean) =>
    [...countries.values()]
      .filter(({ code }) => codes.has(code) === isOwn)
      .map(({ outline }) => path(outline) ?? "")
      .join("");
  return {
    project: (place) => projection(clampedLatitude(place)) ?? [0, 0],
    land: outlines(false),
    own: outlines(true),
  };
}

/** The countries that members stand for, in the answer's order. */
export function countriesShown({ places }: MapAnswer, countries: ReadonlyMap<string, Country>): Country[] {
  const codes = new Set(places.flatMap(({ country }) => country ?? []));
  return [...codes].sort().flatMap((code) => countries.get(code) ?? []);
}

/** Places circles at the middles of their countries. Pure: the same options give the same marks. */
export function layoutCircles({ data, countries, width, height }: MapOptions, ground: MapGround): PlacedCircle[] {
  const found = data.places.flatMap((place, index) => {
    const country = place.country === null ? undefined : countries.get(place.country);
    return country ? [{ place, index, country }] : [];
  });
  const most = Math.min(MOST_R, width / 12, height / 7);
  const sizes = found.map(({ place: { row } }) => ("value" in row.actual ? Math.abs(row.actual.value) : 0));
  const radius = scaleSqrt([0, Math.max(...sizes, 0) || 1], [LEAST_R, most]);
  const circles = found
    .map(({ place, index, country }, i) => {
      const [cx, cy] = ground.project(country.middle);
      return { place, index, cx, cy, r: radius(sizes[i]!) };
    })
    .sort((a, b) => b.r - a.r);
  const labels = placeLabels(circles, width, height);
  return circles.map((circle, i) => ({ ...circle, label: labels.get(i) ?? null }));
}

function clampedLatitude([longitude, latitude]: readonly [number, number]): [number, number] {
  return [longitude, Math.max(-MOST_LATITUDE, Math.min(MOST_LATITUDE, latitude))];
}

/** The corners of what must be in sight, never closer than is sensible. */
function cornersOf(middles: readonly (readonly [number, number])[]): [number, number][] {
  const [longitudes, latitudes] = [middles.map(([x]) => x), middles.map(([, y]) => y)];
  const widened = (values: readonly number[], most: number): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const space = Math.max(0, (LEAST_SPAN - (high - low)) / 2);
    return [Math.max(-most, low - space), Math.min(most, high + space)];
  };
  const [west, east] = widened(longitudes, 179);
  const [south, north] = widened(latitudes, MOST_LATITUDE);
  return [
    [west, south],
    [east, north],
  ];
}

function placeLabels(
  circles: readonly { place: MapPlace; cx: number; cy: number; r: number }[],
  width: number,
  height: number,
): Map<number, NonNullable<PlacedCircle["label"]>> {
  const taken: Box[] = circles.map(({ cx, cy, r }) => ({ x: cx - r, y: cy - r, width: 2 * r, height: 2 * r }));
  const labels = new Map<number, NonNullable<PlacedCircle["label"]>>();
  for (const [i, { place, cx, cy, r }] of circles.entries()) {
    const text = shorten(place.name, LONGEST_LABEL);
    const w = labelWidth(text);
    for (const anchor of ["start", "end"] as const) {
      const x = anchor === "start" ? cx + r + 3 : cx - r - 3;
      const box = { x: anchor === "start" ? x : x - w, y: cy - 6, width: w, height: 12 };
      const isInside = box.x >= 0 && box.x + w <= width && box.y >= 0 && box.y + 12 <= height;
      const isFree = taken.every(
        (other, k) =>
          k === i ||
          box.x >= other.x + other.width ||
          other.x >= box.x + w ||
          box.y >= other.y + other.height ||
          other.y >= box.y + 12,
      );
      if (!isInside || !isFree) continue;
      labels.set(i, { text, x, y: cy + 4, anchor });
      taken.push(box);
      break;
    }
  }
  return labels;
}
