import { geoArea, geoCentroid } from "d3-geo";
import type { Feature, MultiPolygon, Polygon } from "geojson";
import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";

/** A country's outline and where its mainland lies. */
export interface Country {
  /** ISO 3166-1 numeric. */
  readonly code: string;
  readonly outline: Feature<Polygon | MultiPolygon>;
  /** Longitude and latitude of the middle of its largest part: far islands do not draw it away. */
  readonly middle: readonly [number, number];
}

let loaded: Promise<ReadonlyMap<string, Country>> | undefined;

/** The outlines of all countries, loaded when they are first needed. Geometry: Natural Earth, public domain. */
export function loadCountries(): Promise<ReadonlyMap<string, Country>> {
  loaded ??= import("world-atlas/countries-50m.json").then(({ default: topology }) =>
    countriesOf(topology as unknown as Topology<{ countries: GeometryCollection }>),
  );
  return loaded;
}

/** The countries of a topology, by their codes. */
export function countriesOf(topology: Topology<{ countries: GeometryCollection }>): ReadonlyMap<string, Country> {
  const { features } = feature(topology, topology.objects.countries);
  return new Map(
    features.flatMap((outline) => {
      const { geometry, id } = outline;
      if (id === undefined || (geometry.type !== "Polygon" && geometry.type !== "MultiPolygon")) return [];
      const code = String(id).padStart(3, "0");
      return [[code, { code, outline: outline as Country["outline"], middle: middleOf(geometry) }] as const];
    }),
  );
}

function middleOf(geometry: Polygon | MultiPolygon): [number, number] {
  if (geometry.type === "Polygon") return geoCentroid(geometry);
  const parts = geometry.coordinates.map((coordinates): Polygon => ({ type: "Polygon", coordinates }));
  const largest = parts.reduce((a, b) => (geoArea(b) > geoArea(a) ? b : a));
  return geoCentroid(largest);
}
