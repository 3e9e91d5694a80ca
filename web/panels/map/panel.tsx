import { use, useMemo, useState, Suspense, type MouseEvent } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { mapTable } from "#core/panels/map/table.ts";
import {
  deltaStyle,
  valueStyle,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { judgementColour } from "../../figures/judgement.tsx";
import { useSize } from "../../ui/use-size.ts";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChartSkeleton } from "../../chart-kit/chart-skeleton.tsx";
import { partOf } from "#core/panels/parts/part-of.ts";
import { PartMark } from "../../chart-kit/part-mark.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { loadCountries, type Country } from "./geometry.ts";
import { countriesShown, layoutCircles, layoutGround, type MapGround } from "./layout.ts";
import type { MapColour, MapAnswer, MapPlace } from "#core/panels/map/schema.ts";
import type { Figure } from "#core/figures/schema.ts";

const LEAST_HEIGHT = 240;

/** A KPI on a map with a list that reads the same, or as a table of numbers. */
export default function MapPanel(view: PanelProps<"map">) {
  return (
    <PanelSheet
      view={view}
      label="Map"
      table={mapTable}
      skeleton={<ChartSkeleton label="The map is being calculated" height={180} />}
    >
      {(data, part) => <Places view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

const COLOUR_WORDS: Readonly<Record<MapColour, string>> = {
  judgement: "coloured by judgement",
  value: "in one colour",
};

type Handlers = { onClick?: (event: MouseEvent) => void };

function Places({
  view: { choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"map">;
  data: MapAnswer;
  part: MapAnswer | undefined;
}) {
  const weighed = part && new Map(part.places.map(({ member, row }) => [member.key, row.actual]));
  const partAt = ({ member }: MapPlace) => weighed?.get(member.key);
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const money = data.frame.unit;
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, money);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, money);
  const chosen = picked[data.dimension];
  const [active, look] = useState<number | null>(null);
  const handlersOf = ({ member }: MapPlace): Handlers => {
    const ask = () => actions.ask(formatFigureAddress(data.kpi.key, "actual"), formatScope(member.scope));
    const pick = pickHandlers(actions.pick, {
      dimension: data.dimension,
      member: member.key,
      name: member.name,
    }).onClick;
    // With Shift, the way to where the figure comes from, as on every other mark.
    return { onClick: (event) => (event.shiftKey || !pick ? ask() : pick(event)) };
  };
  const shared = { data, chosen, active, look, handlersOf, partAt };
  return (
    <ChartBody
      head={
        <ChoiceWord
          label="Circles"
          words={COLOUR_WORDS[data.colour]}
          choices={(["judgement", "value"] as const).map((key) => ({ key, name: COLOUR_WORDS[key] }))}
          chosen={data.colour}
          onChoose={(colour) => actions.choose({ colour: colour as MapColour })}
          className="meaning-word"
        />
      }
      isTable={isTable}
      onTable={toggleTable}
      table={() => mapTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}`}
      style={style}
      deltaStyle={dStyle}
      money={money}
      refusal={
        data.places.length === 0
          ? {
              title: `No ${data.noun} has a figure here`,
              detail: `${data.kpi.name} has no figures by ${data.noun} for ${data.frame.words.scope}.`,
            }
          : null
      }
      absent={data.absent}
      notes={data.notes}
    >
      <div className="flex min-h-0 flex-1 flex-wrap gap-x-4 gap-y-2 pt-1">
        <div className="relative min-w-56 flex-[1.6]" data-fill={LEAST_HEIGHT} style={{ minHeight: LEAST_HEIGHT }}>
          <Suspense fallback={<div className="waiting absolute inset-0" />}>
            <Drawing {...shared} />
          </Suspense>
        </div>
        <List {...shared} style={style} deltaStyle={dStyle} />
      </div>
    </ChartBody>
  );
}

interface Shared {
  readonly data: MapAnswer;
  readonly chosen: readonly string[] | undefined;
  readonly active: number | null;
  readonly look: (index: number | null) => void;
  readonly handlersOf: (place: MapPlace) => Handlers;
  /** The part of a place that is weighed; `undefined` where nothing is. */
  readonly partAt: (place: MapPlace) => Figure | undefined;
}

/** The map itself; the list beside it says the same to those who do not see it. */
function Drawing({ data, chosen, active, look, handlersOf, partAt }: Shared) {
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
                onMouseEnter={() => look(index)}
                {...handlersOf(place)}
              />
            );
          })}
          {circles.map(({ place, cx, cy, r }) => {
            const of = partOf(data.kpi.unit, place.row.actual, partAt(place));
            // Areas are told apart, not lengths.
            return of?.is === "share" ? (
              <circle
                key={place.member.key}
                cx={cx}
                cy={cy}
                r={r * Math.sqrt(of.share)}
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

function List({
  data,
  chosen,
  active,
  look,
  handlersOf,
  partAt,
  style,
  deltaStyle: dStyle,
}: Shared & { readonly style: NumberStyle; readonly deltaStyle: NumberStyle }) {
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
              onMouseEnter={() => look(index)}
              onFocus={() => look(index)}
              onBlur={() => look(null)}
              className={`grid min-h-[25px] w-full grid-cols-[minmax(5.5rem,1fr)_auto_minmax(0,4.5rem)] items-center gap-x-2 text-left ${index === active ? "bg-chosen" : ""} ${isFaded ? "text-slate" : ""}`}
              {...handlersOf(place)}
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
                    : writeSigned(delta.value, dStyle)
                  : ""}
              </span>
            </button>
            <PartMark kpi={data.kpi} whole={actual} part={partAt(place)} money={data.frame.unit} />
          </li>
        );
      })}
    </ul>
  );
}
