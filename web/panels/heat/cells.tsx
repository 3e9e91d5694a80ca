import type { HeatShade } from "#core/panels/heat/schema.ts";
import { shadeOf } from "../../chart-kit/shade.ts";
import type { HeatLayout, PlacedCell } from "./layout.ts";

const TONES: Readonly<Record<PlacedCell["tone"], string>> = {
  value: "var(--indigo)",
  favourable: "var(--verdigris)",
  unfavourable: "var(--madder)",
  even: "var(--slate)",
};

/** Draws a laid-out heat grid: names at its edges, a shade a cell, and in it how much of it is the selected part. */
export function Cells({
  layout,
  active,
  isFaded,
}: {
  layout: HeatLayout;
  active: number | null;
  isFaded: (cell: PlacedCell) => boolean;
}) {
  return (
    <g>
      {layout.columns.map(({ name, x }) => (
        <text key={x} x={x} y={13} textAnchor="middle" fill="var(--slate)">
          {name}
        </text>
      ))}
      {layout.rows.map(({ name, fullName, y }) => (
        <text key={y} x={0} y={y} fill="var(--ink)" className="text-[12.5px]">
          {name}
          <title>{fullName}</title>
        </text>
      ))}
      {layout.cells.map((cell, i) => (
        <Cell key={i} cell={cell} isFaded={isFaded(cell)} />
      ))}
      {active !== null && layout.cells[active] && (
        <rect {...layout.cells[active].box} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      )}
    </g>
  );
}

function Cell({ cell: { box, strength, tone, label, part }, isFaded }: { cell: PlacedCell; isFaded: boolean }) {
  return (
    <g opacity={isFaded ? 0.4 : 1}>
      <rect
        {...box}
        fill={strength === null ? "var(--panel)" : shadeOf(TONES[tone], strength)}
        stroke="var(--panel)"
        strokeWidth="1"
      />
      {strength === null && (
        <path
          d={`M${box.x + 3} ${box.y + box.height / 2}h${Math.max(0, box.width - 6)}`}
          stroke="var(--thread)"
          strokeWidth="1"
        />
      )}
      {part && <rect {...part} fill="var(--indigo)" />}
      {label !== null && (
        <text x={box.x + box.width / 2} y={box.y + box.height / 2 + 4} textAnchor="middle" fill="var(--ink)">
          {label}
        </text>
      )}
    </g>
  );
}

/** What the shades run between; signs stand with them for those who do not tell the colours apart. */
export function ShadeScale({ layout: { scale }, shade }: { layout: HeatLayout; shade: HeatShade }) {
  if (!scale) return null;
  if (shade === "judgement")
    return (
      <span className="flex items-center gap-3 text-[12.5px] text-slate">
        {(["favourable", "unfavourable"] as const).map((judgement) => (
          <span key={judgement} className="flex items-center gap-1">
            <span className="inline-block size-3" style={{ background: shadeOf(TONES[judgement], 0.8) }} />
            {judgement}
          </span>
        ))}
      </span>
    );
  const steps = [0, 0.25, 0.5, 0.75, 1];
  return (
    <span className="flex items-center gap-1.5 text-[12.5px] text-slate">
      {shade === "value" ? (
        <>
          {scale.low}
          <Swatches colours={steps.map((step) => shadeOf(TONES.value, step))} />
          {scale.high}
        </>
      ) : (
        <>
          unfavourable
          <Swatches
            colours={[
              ...steps.toReversed().map((step) => shadeOf(TONES.unfavourable, step)),
              ...steps.map((step) => shadeOf(TONES.favourable, step)),
            ]}
          />
          favourable, up to {scale.high.replace("+", "")}
        </>
      )}
    </span>
  );
}

function Swatches({ colours }: { colours: readonly string[] }) {
  return (
    <span aria-hidden="true" className="inline-flex">
      {colours.map((colour, i) => (
        <span key={i} className="inline-block h-3 w-3.5" style={{ background: colour }} />
      ))}
    </span>
  );
}
