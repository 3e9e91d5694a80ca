import { area, line } from "d3-shape";
import { OutsideMark } from "../../chart-kit/outside-mark.tsx";
import type { ExpectedMark, TimeChartLayout } from "./layout.ts";

const band = area<ExpectedMark | null>()
  .defined((mark) => mark !== null)
  .x((mark) => mark!.x)
  .y0((mark) => mark!.bottom)
  .y1((mark) => mark!.top);
const middle = line<ExpectedMark | null>()
  .defined((mark) => mark !== null)
  .x((mark) => mark!.x)
  .y((mark) => mark!.middle);

const edge = (at: (mark: ExpectedMark) => number) =>
  line<ExpectedMark | null>()
    .defined((mark) => mark !== null)
    .x((mark) => mark!.x)
    .y((mark) => at(mark!));

/** The range that was expected one step ahead, and its middle. */
export function ExpectedBand({
  layout: { expected },
  isOnColumns,
}: {
  layout: TimeChartLayout;
  /** Over columns its edges have to be seen in front of them. */
  isOnColumns: boolean;
}) {
  return (
    <>
      {isOnColumns &&
        [edge((mark) => mark.bottom), edge((mark) => mark.top)].map((along, i) => (
          <path
            key={i}
            d={along([...expected]) ?? ""}
            fill="none"
            stroke="var(--panel)"
            strokeOpacity=".75"
            strokeWidth="1.25"
          />
        ))}
      <path d={band([...expected]) ?? ""} fill="var(--indigo)" fillOpacity=".14" />
      <path
        d={middle([...expected]) ?? ""}
        fill="none"
        stroke="var(--indigo)"
        strokeOpacity=".6"
        strokeDasharray="1 4"
      />
    </>
  );
}

/** A sign at each period that came outside of what was expected. */
export function OutsideMarks({ layout: { expected } }: { layout: TimeChartLayout }) {
  return expected.map((mark) => mark?.seen && <OutsideMark key={mark.x} x={mark.seen.x} y={mark.seen.y} />);
}
