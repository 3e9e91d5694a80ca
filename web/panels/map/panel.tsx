import { use, useMemo, useState, Suspense } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { MapColour, MapPlace } from "#core/panels/map/schema.ts";
import { mapTable } from "#core/panels/map/table.ts";
import { writeSigned, writeSignedPercent, writeWithUnit } from "#core/formats/number-words.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { figurePanel } from "../../chart-kit/figure-panel.tsx";
import { markHandlers, type MarkHandlers } from "../../chart-kit/mark.ts";
import type { Own } from "../../chart-kit/own.ts";
import { weighedIn, WeighedMark, type Weighed } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { judgementColour } from "../../figures/judgement.tsx";
import { useSize } from "../../ui/use-size.ts";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { loadCountries, type Country } from "./geometry.ts";
import { countriesShown, layoutCircles, layoutGround, type MapGround } from "./layout.ts";

type OwnMap = Own<"map">;

const LEAST_HEIGHT = 240;

/** A KPI on a map with a list that reads the same. */
export default figurePanel<"map">({
  label: "Map",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: mapTable,
  around,
  Figures: Places,
});

const COLOUR_WORDS: Readonly<Record<MapColour, string>> = {
  judgement: "coloured by judgement",
  value: "in one colour",
};

function around({ data, actions }: OwnMap): Around {
  return {
    head: (
      <ChoiceWord
        label="Circles"
        words={COLOUR_WORDS[data.colour]}
        choices={(["judgement", "value"] as const).map((key) => ({ key, name: COLOUR_WORDS[key] }))}
        chosen={data.colour}
        onChoose={(colour) => actions.choose({ colour: colour as MapColour })}
        className="meaning-word"
      />
    ),
    refusal:
      data.places.length === 0
        ? {
            title: `No ${data.noun} has a figure here`,
            detail: `${data.kpi.name} has no figures by ${data.noun} for ${data.frame.words.scope}.`,
          }
        : null,
  };
}

/** The map with its list; what is looked at in one is shown in the other. */
function Places(own: OwnMap) {
  const [active, look] = useState<number | null>(null);
  return (
    <div className="flex min-h-0 flex-1 flex-wrap gap-x-4 gap-y-2 pt-1">
      <div className="relative min-w-56 flex-[1.6]" data-fill={LEAST_HEIGHT} style={{ minHeight: LEAST_HEIGHT }}>
        <Suspense fallback={<div className="waiting absolute inset-0" />}>
          <Drawing {...{ own, active, look }} />
        </Suspense>
      </div>
      <List {...{ own, active, look }} />
    </div>
  );
}

interface Shared {
  readonly own: OwnMap;
  readonly active: number | null;
  readonly look: (index: number | null) => void;
}

function handlersOf({ data, actions }: OwnMap, { member }: MapPlace): MarkHandlers {
  return markHandlers(actions, {
    member: { dimension: data.dimension, member: member.key, name: member.name },
    source: { figure: formatFigureAddress(data.kpi.key, "actual"), scope: formatScope(member.scope) },
  });
}

/** The selected part of a place. */
function weighedOf({ data, part, money }: OwnMap, { member, row }: MapPlace): Weighed | null {
  const own = part?.places.find((place) => place.member.key === member.key);
  return weighedIn(data.kpi, row.actual, own?.row.actual, money);
}

/** The map itself; the list beside it says the same to those who do not see it. */
function Drawing({ own, active, look }: Shared) {
  const { data } = own;
  const chosen = own.picked[data.dimension];
  const countries = use(loadCountries());
  const [{ width, height }, holder] = useSize<HTMLDivElement>();
  const size = { width, height: Math.max(LEAST_HEIGHT, height) };
  const shown = countriesShown(data, countries);
  const ground = useGround(shown, countries, size);
  const circles = ground ? layoutCircles({ data, countries, ...size }, ground) : [];
  return (
    <div ref={holder} className="absolute inset-0 overflow-hidden rounded" onMouseLeave={() => look(null)}>
      {ground && (
        <svg aria-hidden="true" {...size} className="block text-[11.5px]">
          <rect width="100%" height="100%" fill="var(--ground)" />
          <path d={ground.land} fill="var(--panel)" stroke="var(--thread)" strokeWidth=".6" />
          <path d={ground.own} fill="var(--chosen)" stroke="var(--slate)" strokeOpacity=".5" strokeWidth=".7" />
          {circles.map(({ place, index, cx, cy, r }) => {
            const colour = data.colour === "value" ? "var(--indigo)" : judgementColour(place.row.variance.judgement);
            const isFaded = chosen !== undefined && !chosen.includes(place.member.key);
            return (
              <circle
                key={place.member.key}
                cx={cx}
                cy={cy}
                r={r}
                fill={colour}
                fillOpacity={isFaded ? 0.15 : 0.55}
                stroke={index === active ? "var(--ink)" : colour}
                strokeWidth={index === active ? 2 : 1}
                className="cursor-pointer"
                onMouseMove={() => look(index)}
                {...handlersOf(own, place)}
              />
            );
          })}
          {circles.map(({ place, cx, cy, r }) => {
            const share = weighedOf(own, place)?.share ?? null;
            // Areas are told apart, not lengths.
            return share !== null ? (
              <circle
                key={place.member.key}
                cx={cx}
                cy={cy}
                r={r * Math.sqrt(share)}
                fill="var(--indigo)"
                pointerEvents="none"
              />
            ) : null;
          })}
          {circles.map(
            ({ place, label }) =>
              label && (
                <text
                  key={place.member.key}
                  x={label.x}
                  y={label.y}
                  textAnchor={label.anchor}
                  fill="var(--ink)"
                  stroke="var(--ground)"
                  strokeWidth="3"
                  paintOrder="stroke"
                  pointerEvents="none"
                >
                  {label.text}
                </text>
              ),
          )}
        </svg>
      )}
    </div>
  );
}

/** The ground under the circles: laid out anew only where other countries or another size are shown. */
function useGround(
  shown: readonly Country[],
  countries: ReadonlyMap<string, Country>,
  { width, height }: { readonly width: number; readonly height: number },
): MapGround | null {
  const codes = shown.map(({ code }) => code).join();
  return useMemo(() => {
    if (width === 0) return null;
    const own = codes === "" ? [] : codes.split(",").map((code) => countries.get(code)!);
    return layoutGround(own, countries, { width, height });
  }, [codes, countries, width, height]);
}

function List({ own, active, look }: Shared) {
  const { data, style, deltaStyle } = own;
  const chosen = own.picked[data.dimension];
  return (
    <ul className="min-w-60 flex-1" aria-label={`${data.kpi.name} by ${data.noun}`}>
      {data.places.map((place, index) => {
        const { actual, variance } = place.row;
        const { delta, deltaPercent, judgement } = variance;
        const isFaded = chosen !== undefined && !chosen.includes(place.member.key);
        return (
          <li key={place.member.key} className="border-t border-thread/70 first:border-0">
            <button
              type="button"
              aria-pressed={chosen?.includes(place.member.key) ?? false}
              onMouseMove={() => look(index)}
              onFocus={() => look(index)}
              onBlur={() => look(null)}
              className={`grid min-h-[25px] w-full grid-cols-[minmax(5.5rem,1fr)_auto_minmax(0,4.5rem)] items-center gap-x-2 text-left ${index === active ? "bg-chosen" : ""} ${isFaded ? "text-slate" : ""}`}
              {...handlersOf(own, place)}
            >
              <span className="truncate">
                {place.name}
                {place.country === null && <span className="text-slate"> (not on the map)</span>}
              </span>
              <span className="text-right font-semibold">
                {"value" in actual ? writeWithUnit(actual.value, style) : actual.absent}
              </span>
              <span className="text-right text-[12.5px]" style={isFaded ? {} : { color: judgementColour(judgement) }}>
                {"value" in delta
                  ? "value" in deltaPercent && data.kpi.unit.kind !== "percent"
                    ? writeSignedPercent(deltaPercent.value)
                    : writeSigned(delta.value, deltaStyle)
                  : ""}
              </span>
            </button>
            <WeighedMark part={weighedOf(own, place)} />
          </li>
        );
      })}
    </ul>
  );
}
