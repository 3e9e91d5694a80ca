import { area, line } from "d3-shape";
import { OutsideMark } from "../../chart-kit/outside-mark.tsx";
import { PART_LINE } from "../../chart-kit/part-line.ts";
import { ValueAxis } from "../../chart-kit/value-axis.tsx";
import type { RangeLayout, RangeMark } from "./layout.ts";

const band = area<RangeMark>()
  .defined(({ range }) => range !== null)
  .x(({ x }) => x)
  .y0(({ range }) => range!.bottom)
  .y1(({ range }) => range!.top);
const middle = line<RangeMark>()
  .defined(({ range }) => range !== null)
  .x(({ x }) => x)
  .y(({ range }) => range!.expected);
const partLine = line<RangeMark>()
  .defined(({ part }) => part !== null)
  .x(({ x }) => x)
  .y(({ part }) => part!.y);
const actual = line<RangeMark>()
  .defined(({ seen }) => seen !== null)
  .x(({ x }) => x)
  .y(({ seen }) => seen!.y);

/** Draws a laid-out range: the line in its band, the stretches of its events, and the selected part. */
export function RangeDrawing({
  layout: { marks, events, scale, plot, axisY },
  active,
}: {
  layout: RangeLayout;
  active: number | null;
}) {
  const looked = active === null ? undefined : marks[active];
  return (
    <>
      {looked && <rect {...looked.band} fill="var(--chosen)" fillOpacity=".5" />}
      {events.map(({ x, width, centre, isKnown }, i) => (
        <g key={i} stroke={isKnown ? "var(--slate)" : "var(--weld)"} fill={isKnown ? "var(--slate)" : "var(--weld)"}>
          <rect x={x} width={width} y={plot.y} height={plot.height} stroke="none" fillOpacity={isKnown ? 0.08 : 0.14} />
          <circle cx={centre} cy={11} r="8" fillOpacity=".25" />
          <text x={centre} y={14.5} textAnchor="middle" stroke="none" fill="var(--ink)" className="text-[10.5px]">
            {i + 1}
          </text>
        </g>
      ))}
      <ValueAxis scale={scale} plot={plot} right={plot.x + plot.width} />
      <path d={band([...marks]) ?? ""} fill="var(--indigo)" fillOpacity=".14" />
      <path d={middle([...marks]) ?? ""} fill="none" stroke="var(--indigo)" strokeOpacity=".6" strokeDasharray="1 4" />
      <path d={actual([...marks]) ?? ""} fill="none" stroke="var(--indigo)" strokeWidth="1.8" />
      <path d={partLine([...marks]) ?? ""} {...PART_LINE} />
      {marks.map(({ seen, isOutside, x }) => seen && isOutside && <OutsideMark key={x} x={seen.x} y={seen.y} />)}
      {marks.map(
        ({ label, x }) =>
          label !== null && (
            <text key={x} x={x} y={axisY} textAnchor="middle" fill="var(--slate)">
              {label}
            </text>
          ),
      )}
    </>
  );
}
