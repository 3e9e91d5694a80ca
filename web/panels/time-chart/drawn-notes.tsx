import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useEffect, useState, type ReactNode } from "react";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import type { DrawnForecast } from "#core/forecast/drawn-forecast.ts";
import { shareOf } from "#core/forecast/forecast.ts";
import { GRAIN_NAMES } from "#core/series/grain.ts";
import { AheadWorker } from "./worker-client.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

type Drawn = readonly { readonly name: string; readonly drawn: DrawnForecast | null }[];

/** What a data scientist looks at first: what is left over, the components, and what earlier origins would have said. */
export function DrawnNotes({
  history,
  settings,
  write,
}: {
  history: KpiHistory;
  settings: AheadSettings;
  write: (value: number) => string;
}) {
  const drawn = useDrawn(history, settings);
  if (!drawn)
    return (
      <p role="status" className="mt-4 text-[13px] text-slate">
        Drawing the residuals and earlier origins…
      </p>
    );
  return drawn.map(({ name, drawn: own }) =>
    own ? (
      <section key={name} aria-label={name === "" ? "Drawn" : `Drawn: ${name}`} className="mt-4">
        {name !== "" && <h3 className="font-serif text-[16px]">{name}</h3>}
        <Charts drawn={own} history={history} write={name === "" ? write : plain} />
      </section>
    ) : null,
  );
}

/** Made in a worker, of the same fits as the notes. */
function useDrawn(history: KpiHistory, settings: AheadSettings): Drawn | null {
  const [made, setMade] = useState<{ of: KpiHistory; settings: AheadSettings; drawn: Drawn } | null>(null);
  useEffect(() => {
    const worker = new AheadWorker();
    worker.ask("draw", [history], settings, ([drawn]) => setMade({ of: history, settings, drawn: drawn! }));
    return () => worker.end();
  }, [history, settings]);
  return made?.of === history && made.settings === settings ? made.drawn : null;
}

function plain(value: number): string {
  return value.toLocaleString("en-GB", { maximumSignificantDigits: 3 });
}

/** How a chart of the notes names periods and writes values. */
interface Writing {
  readonly history: KpiHistory;
  readonly write: (value: number) => string;
}

function Charts({ drawn, history, write }: Writing & { drawn: DrawnForecast }) {
  const { residuals, correlogram, components, origins, coverage } = drawn;
  return (
    <>
      <Residuals {...{ residuals, history, write }} />
      {correlogram && <Correlogram correlogram={correlogram} />}
      {components && <Components {...{ components, history, write }} />}
      {origins.length > 0 && <Origins {...{ origins, history, write }} />}
      {coverage.some(({ of }) => of.length > 0) && (
        <Coverage coverage={coverage} origins={origins.length} unit={GRAIN_NAMES[history.grain]} />
      )}
    </>
  );
}

const nameOf = (history: KpiHistory, t: number) => history.keys[t] ?? "";
const endsOf = (history: KpiHistory, from = 0) => ({ first: nameOf(history, from), last: history.keys.at(-1) ?? "" });

function Residuals({ residuals, history, write }: Writing & Pick<DrawnForecast, "residuals">) {
  const seen = residuals.filter((value) => value !== null);
  const deviation = Math.sqrt(seen.reduce((sum, value) => sum + value * value, 0) / Math.max(1, seen.length));
  return (
    <Figure
      title={`Residuals, one ${GRAIN_NAMES[history.grain]} ahead`}
      note={`The band is two standard deviations wide, ${write(2 * deviation)} to either side.`}
    >
      <Plot
        label="Residuals over time"
        values={[...seen, 2 * deviation, -2 * deviation]}
        x={[0, residuals.length - 1]}
        ends={endsOf(history)}
        write={write}
      >
        {({ x, y }) => (
          <>
            <rect
              {...ACROSS}
              y={y(2 * deviation)}
              height={y(-2 * deviation) - y(2 * deviation)}
              fill="var(--indigo)"
              opacity=".1"
            />
            {residuals.map(
              (value, t) =>
                value !== null && (
                  <line key={t} x1={x(t)} x2={x(t)} y1={y(0)} y2={y(value)} stroke="var(--indigo)" strokeWidth="1.4">
                    <title>{`${nameOf(history, t)}: ${write(value)}`}</title>
                  </line>
                ),
            )}
            <line {...ALONG} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
          </>
        )}
      </Plot>
    </Figure>
  );
}

function Correlogram({ correlogram }: { correlogram: NonNullable<DrawnForecast["correlogram"]> }) {
  const { byLag, bound } = correlogram;
  const beyond = byLag.flatMap((r, i) => (Math.abs(r) > bound ? [i + 1] : []));
  return (
    <Figure
      title="Autocorrelation of the residuals"
      note={
        beyond.length === 0
          ? `Within 95% bounds at every lag up to ${byLag.length}.`
          : `Outside the 95% bounds at ${beyond.length === 1 ? "lag" : "lags"} ${beyond.join(", ")}; of ${byLag.length} lags, ${(byLag.length * 0.05).toFixed(1)} are to be expected.`
      }
    >
      <Plot
        label="Autocorrelation by lag"
        values={[...byLag, bound * 1.3, -bound * 1.3]}
        x={[0.5, byLag.length + 0.5]}
        ends={{ first: "lag 1", last: `lag ${byLag.length}` }}
        write={(value) => value.toFixed(1)}
      >
        {({ x, y }) => (
          <>
            <rect {...ACROSS} y={y(bound)} height={y(-bound) - y(bound)} fill="var(--indigo)" opacity=".1" />
            {byLag.map((r, i) => (
              <line
                key={i}
                x1={x(i + 1)}
                x2={x(i + 1)}
                y1={y(0)}
                y2={y(r)}
                stroke={Math.abs(r) > bound ? "var(--ink)" : "var(--indigo)"}
                strokeWidth="3"
              >
                <title>{`Lag ${i + 1}: ${r.toFixed(2)}`}</title>
              </line>
            ))}
            <line {...ALONG} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
          </>
        )}
      </Plot>
    </Figure>
  );
}

function Components({
  components,
  history,
  write,
}: Writing & { components: NonNullable<DrawnForecast["components"]> }) {
  const { form, isMultiplied, level, slope, season } = components;
  const drawn = [
    ["level", level, write],
    ["slope", slope, write],
    ["season", season, isMultiplied ? (value: number) => `× ${value.toFixed(2)}` : write],
  ] as const;
  return (
    <Figure title={`Components, by ${form}`} note={isMultiplied ? "The season is a factor of the level." : null}>
      {drawn.map(
        ([name, values, writeOwn]) =>
          values && (
            <Plot
              key={name}
              label={`The ${name} over time`}
              name={name}
              values={values.flatMap((value) => value ?? [])}
              x={[0, values.length - 1]}
              ends={endsOf(history)}
              write={writeOwn}
              height={74}
            >
              {({ x, y }) => <Path values={values} x={x} y={y} from={0} stroke="var(--indigo)" />}
            </Plot>
          ),
      )}
    </Figure>
  );
}

function Origins({ origins, history, write }: Writing & Pick<DrawnForecast, "origins">) {
  const judgedFrom = Math.max(0, origins[0]!.from - 12);
  return (
    <Figure title="Forecasts from earlier origins" note="Dark: actuals. Dashed: forecasts from each origin.">
      <Plot
        label="Actuals, and forecasts from earlier origins"
        values={[
          ...history.values.slice(judgedFrom).flatMap((value) => value ?? []),
          ...origins.flatMap(({ said }) => said.flatMap((value) => value ?? [])),
        ]}
        x={[judgedFrom, history.values.length - 1]}
        ends={endsOf(history, judgedFrom)}
        write={write}
        height={130}
      >
        {({ x, y }) => (
          <>
            <Path values={history.values.slice(judgedFrom)} x={x} y={y} from={judgedFrom} stroke="var(--ink)" />
            {origins.map(({ from, said, seen: came }) => (
              <g key={from}>
                <circle cx={x(from - 1)} cy={y(history.values[from - 1] ?? came[0] ?? 0)} r="2.5" fill="var(--weld)" />
                <Path values={said} x={x} y={y} from={from} stroke="var(--weld)" isStitched />
                <title>{`From ${nameOf(history, from - 1)}`}</title>
              </g>
            ))}
          </>
        )}
      </Plot>
    </Figure>
  );
}

function Coverage({ coverage, origins, unit }: Pick<DrawnForecast, "coverage"> & { origins: number; unit: string }) {
  return (
    <Figure
      title={`Coverage by ${unit}s ahead`}
      note={`How many of the ${origins} origins' intervals covered the actual, for each ${unit} ahead.`}
    >
      <table className="mt-1 text-[12px] tabular-nums">
        <thead>
          <tr className="text-slate">
            <th scope="col" className="pr-2 text-left font-normal">
              Interval
            </th>
            {coverage[0]!.of.map((_, i) => (
              <th key={i} scope="col" className="w-[22px] text-center font-normal">
                {i + 1}
              </th>
            ))}
            <th scope="col" className="pl-2 text-right font-normal">
              in all
            </th>
          </tr>
        </thead>
        <tbody>
          {coverage.map(({ level, held, of }) => {
            const [all, ofAll] = [sum(held), sum(of)];
            return (
              <tr key={level}>
                <th scope="row" className="pr-2 text-left font-normal">
                  {Math.round(shareOf(level) * 100)}%
                </th>
                {held.map((count, i) => (
                  <td
                    key={i}
                    title={`${i + 1} ahead: ${count} of ${of[i]}`}
                    className="h-[22px] w-[22px] border border-panel text-center"
                    style={{
                      background: `color-mix(in srgb, var(--indigo) ${of[i] === 0 ? 0 : Math.round((count / of[i]!) * 40)}%, transparent)`,
                    }}
                  >
                    {of[i] === 0 ? "" : count}
                  </td>
                ))}
                <td className="pl-2 text-right">{ofAll === 0 ? "none" : `${Math.round((all / ofAll) * 100)}%`}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Figure>
  );
}

function sum(values: readonly number[]): number {
  return values.reduce((all, value) => all + value, 0);
}

function Figure({ title, note, children }: { title: string; note: string | null; children: ReactNode }) {
  return (
    <figure className="mt-3">
      <figcaption className="text-[13px] font-semibold">{title}</figcaption>
      {children}
      {note !== null && <p className="text-[12px] text-slate">{note}</p>}
    </figure>
  );
}

const WIDTH = 372;
const LEFT = 58;
const ACROSS = { x: LEFT, width: WIDTH - LEFT };
const ALONG = { x1: LEFT, x2: WIDTH };

interface Scales {
  readonly x: (t: number) => number;
  readonly y: (value: number) => number;
}

/** A small chart with the ends of its axes written. */
function Plot({
  values,
  x: across,
  ends,
  write,
  label,
  name,
  height = 96,
  children,
}: {
  values: readonly number[];
  x: readonly [number, number];
  ends: { readonly first: string; readonly last: string };
  write: (value: number) => string;
  label: string;
  name?: string;
  height?: number;
  children: (scales: Scales) => ReactNode;
}) {
  const [low = 0, high = 1] = extent(values) as [number | undefined, number | undefined];
  const bottom = height - 16;
  const [least, most] = write(low) === write(high) ? spreadOut(low, high) : [low, high];
  const y = scaleLinear([least, most], [bottom, 8]);
  const x = scaleLinear(across, [LEFT, WIDTH - 4]);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} className="block w-full text-[10.5px]" role="img" aria-label={label}>
      {[least, most].map((value, i) => (
        <g key={i}>
          <line x1={LEFT} x2={WIDTH} y1={y(value)} y2={y(value)} stroke="var(--thread)" />
          <text x={LEFT - 5} y={y(value) + 3.5} textAnchor="end" fill="var(--slate)">
            {write(value)}
          </text>
        </g>
      ))}
      {name !== undefined && (
        <text x={LEFT - 5} y={(8 + bottom) / 2 + 3} textAnchor="end" fill="var(--ink)">
          {name}
        </text>
      )}
      {children({ x, y })}
      <text x={LEFT} y={height - 4} fill="var(--slate)">
        {ends.first}
      </text>
      <text x={WIDTH - 4} y={height - 4} textAnchor="end" fill="var(--slate)">
        {ends.last}
      </text>
    </svg>
  );
}

/** What hardly moves is drawn as such: its axis reaches a tenth to either side. */
function spreadOut(low: number, high: number): [number, number] {
  const reach = Math.max(Math.abs(low), Math.abs(high)) / 10 || 1;
  return [low - reach, high + reach];
}

function Path({
  values,
  from,
  x,
  y,
  stroke,
  isStitched = false,
}: Scales & { values: readonly (number | null)[]; from: number; stroke: string; isStitched?: boolean }) {
  const path = line<number | null>()
    .defined((value) => value !== null)
    .x((_, i) => x(from + i))
    .y((value) => y(value!));
  return (
    <path
      d={path(values) ?? ""}
      fill="none"
      stroke={stroke}
      strokeWidth="1.5"
      {...(isStitched ? { strokeDasharray: "4 2" } : {})}
    />
  );
}
