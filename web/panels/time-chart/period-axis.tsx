import type { Grain } from "#core/series/grain.ts";
import { labelWidth } from "../../chart-kit/labels.ts";
import type { TimeChartLayout } from "./layout.ts";

/** Below this width a month is its first letter. */
const LETTER_BELOW = 24;

/** The periods below a chart, as many as fit beside each other, and the bracket below those of the span. */
export function PeriodAxis({ layout, grain, spanName }: { layout: TimeChartLayout; grain: Grain; spanName: string }) {
  const step = layout.months[0]?.band.width ?? 0;
  const isLetters = grain === "month" && step < LETTER_BELOW && step >= 8;
  const texts = layout.months.map(({ point }) => (isLetters ? point.short.slice(0, 1) : point.short));
  const every = Math.max(1, Math.ceil((Math.max(...texts.map(labelWidth)) + 3) / Math.max(1, step)));
  const hasYears = grain === "month" && layout.months.length > YEAR_NAMES_FROM;
  return (
    <g>
      {layout.months.map((m, i) =>
        i % every === 0 ? (
          <text
            key={m.point.period}
            x={m.centre}
            y={layout.monthY}
            textAnchor="middle"
            fill={m.point.inSpan ? "var(--ink)" : "var(--slate)"}
            fontWeight={m.point.inSpan ? 600 : 400}
          >
            {texts[i]}
          </text>
        ) : null,
      )}
      {hasYears && <YearNames layout={layout} />}
      {layout.spanX && (
        <g>
          <path
            d={`M${layout.spanX[0]} ${layout.monthY + 5}v3H${layout.spanX[1]}v-3`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth=".9"
          />
          <SpanName
            layout={layout}
            names={hasYears ? [`${spanName}, ${yearAt(layout, firstIn(layout))}`, spanName] : [spanName]}
            mayReachBeyond={!hasYears}
          />
        </g>
      )}
    </g>
  );
}

/** With more months than this, the fiscal years they belong to are named. */
const YEAR_NAMES_FROM = 13;

/** The name of the span below its bracket: the fullest that has room. */
function SpanName({
  layout: { spanX, monthY, plot },
  names,
  mayReachBeyond,
}: {
  layout: TimeChartLayout;
  names: readonly string[];
  /** Whether nothing else stands beside the bracket. */
  mayReachBeyond: boolean;
}) {
  if (!spanX) return null;
  const [from, to] = spanX;
  const centre = (from + to) / 2;
  const inside = Math.min(centre - plot.x, plot.x + plot.width - centre) * 2;
  const room = mayReachBeyond ? Math.max(to - from, inside) : to - from;
  const name = names.find((own) => labelWidth(own) * 0.9 <= room);
  if (name === undefined) return null;
  return (
    <text
      x={centre}
      y={monthY + 18}
      textAnchor="middle"
      fill="var(--slate)"
      stroke="var(--panel)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {name}
    </text>
  );
}

function firstIn({ months }: TimeChartLayout): number {
  return months.findIndex(({ point }) => point.inSpan);
}

function yearAt({ months }: TimeChartLayout, place: number): string | undefined {
  return months[place]?.point.name.split(" ").at(-1);
}

/** The fiscal years below their first months; the one under the span's bracket stands in the name of the span. */
function YearNames({ layout }: { layout: TimeChartLayout }) {
  const [from, to] = layout.spanX ?? [Infinity, -Infinity];
  return layout.months.map(({ point, centre, band }, i) =>
    yearAt(layout, i) === yearAt(layout, i - 1) || (centre > from - band.width && centre < to) ? null : (
      <g key={point.period}>
        <path d={`M${band.x} ${layout.monthY - 10}v26`} stroke="var(--thread)" />
        <text x={band.x + 4} y={layout.monthY + 16} fill="var(--slate)">
          {yearAt(layout, i)}
        </text>
      </g>
    ),
  );
}
