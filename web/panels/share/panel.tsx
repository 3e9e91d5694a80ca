import { formatScope } from "#core/dimensions/scope-text.ts";
import type { ShareOf, SharePart } from "#core/panels/share/schema.ts";
import { shareTable } from "#core/panels/share/table.ts";
import { writePercent, writeWithUnit } from "#core/formats/number-words.ts";
import { BetterKind } from "../../chart-kit/better-kind.tsx";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { dyeKey } from "../../chart-kit/dyes.ts";
import { figurePanel } from "../../chart-kit/figure-panel.tsx";
import { markHandlers, type MarkHandlers } from "../../chart-kit/mark.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { DyeMark, useDyes } from "../../chart-kit/page-dyes.tsx";
import { weighedIn, WeighedMark, type Weighed } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { judgementColour } from "../../figures/judgement.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { filled, laidShares, ringPath } from "./layout.ts";

type OwnShare = Own<"share">;

/** How a KPI is made up, or how far its members are, as rings or rulers. */
export default figurePanel<"share">({
  label: "Shares",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: shareTable,
  skeleton: (
    <div className="p-5" role="status" aria-label="Shares: being calculated">
      <div className="waiting h-6 w-3/4" />
      <div className="waiting mt-4 h-[120px] w-[120px] rounded-full" />
    </div>
  ),
  around,
  Figures: (own) => (own.data.of === "basis" ? <Attainment own={own} /> : <Whole own={own} />),
});

function around({ data, panel, actions }: OwnShare): Around {
  const words = (of: ShareOf) => OF_WORDS[of](data.whole.basisName);
  return {
    head: (
      <span className="inline-flex flex-wrap items-baseline gap-x-1">
        <ChoiceWord
          label="Seen"
          words={words(data.of)}
          choices={(["whole", "basis"] as const).map((key) => ({ key, name: words(key) }))}
          chosen={data.of}
          onChoose={(of) => actions.choose({ of: of as ShareOf })}
          className="meaning-word"
        />
        <MemberPath path={data.path} onOpen={(below) => actions.choose({ below })} />
      </span>
    ),
    refusal:
      data.refusal === null
        ? null
        : {
            title: "No shares to show",
            detail: data.refusal,
            better: <BetterKind kind="breakdown" name="a breakdown" kpi={data.kpi.key} by={panel.by} />,
          },
  };
}

function handlersOf({ data, actions }: OwnShare, { member, name }: SharePart): MarkHandlers {
  return markHandlers(actions, {
    member: member ? { dimension: data.dimension, member: member.key, name } : undefined,
    open: member?.hasBelow ? () => actions.choose({ below: member.key }) : undefined,
    source: {
      figure: formatFigureAddress(data.kpi.key, "actual"),
      scope: member ? formatScope(member.scope) : undefined,
    },
  });
}

/** The selected part of one of the parts. */
function weighedOf({ data, part, money }: OwnShare, { member, name, row }: SharePart): Weighed | null {
  const own = part?.parts.find((one) => (one.member?.key ?? one.name) === (member?.key ?? name));
  return weighedIn(data.kpi, row.actual, own?.row.actual, money);
}

const OF_WORDS: Readonly<Record<ShareOf, (basis: string) => string>> = {
  whole: () => "parts of the whole",
  basis: (basis) => `attainment of ${basis}`,
};

const RING = 74;
const HOLE = 46;

/** All parts on one ring or ruler, with what each is beside it. */
function Whole({ own }: { own: OwnShare }) {
  const { data, style } = own;
  const chosen = own.picked[data.dimension];
  const values = data.parts.map(({ row }) => ("value" in row.actual ? row.actual.value : 0));
  const laid = laidShares(values);
  const isRing = data.shape === "ring";
  const colourOf = useDyes();
  const keyOf = ({ member }: SharePart) => member && dyeKey({ dimension: data.dimension, member: member.key });
  const isFaded = ({ member }: SharePart) => chosen !== undefined && !chosen.includes(member?.key ?? "");
  return (
    <div className={isRing ? "flex flex-wrap items-center gap-x-6 gap-y-3 py-2" : "py-2"}>
      {isRing ? (
        <svg aria-hidden="true" width={RING * 2} height={RING * 2} className="shrink-0">
          <g transform={`translate(${RING} ${RING})`}>
            {data.parts.map((part, i) => (
              <path
                key={part.name}
                d={ringPath(laid[i]!, RING - 1, HOLE)}
                fill={colourOf(keyOf(part), part.at)}
                stroke="var(--panel)"
                strokeWidth="1.5"
                opacity={isFaded(part) ? 0.35 : 1}
              />
            ))}
            <text textAnchor="middle" y="4" className="text-[13px]" fontWeight="650" fill="var(--ink)">
              {"value" in data.whole.actual ? writeWithUnit(data.whole.actual.value, style) : ""}
            </text>
          </g>
        </svg>
      ) : (
        <div aria-hidden="true" className="mb-2 flex h-7 w-full overflow-hidden rounded-sm">
          {data.parts.map((part, i) => (
            <span
              key={part.name}
              style={{
                width: `${(laid[i]!.to - laid[i]!.from) * 100}%`,
                background: colourOf(keyOf(part), part.at),
                borderRight: "1.5px solid var(--panel)",
                opacity: isFaded(part) ? 0.35 : 1,
              }}
            />
          ))}
        </div>
      )}
      <ul className="min-w-52 flex-1">
        {data.parts.map((part) => (
          <li
            key={part.name}
            className={`border-t border-thread/70 first:border-0 ${isFaded(part) ? "text-slate" : ""}`}
          >
            <div className="flex items-center gap-x-1.5 hover:bg-chosen">
              <DyeMark of={keyOf(part)} at={part.at} name={part.name} isFaded={isFaded(part)} />
              <button
                type="button"
                aria-pressed={part.member ? (chosen?.includes(part.member.key) ?? false) : undefined}
                className="grid min-h-[26px] min-w-0 flex-1 grid-cols-[1fr_auto_4.5rem] items-center gap-x-2 text-left"
                {...handlersOf(own, part)}
              >
                <span className="truncate">{part.name}</span>
                <span className="text-right">
                  {"value" in part.row.actual ? writeWithUnit(part.row.actual.value, style) : part.row.actual.absent}
                </span>
                <span className="text-right font-semibold">
                  {"value" in part.share ? writePercent(part.share.value) : part.share.absent}
                </span>
              </button>
            </div>
            <WeighedMark part={weighedOf(own, part)} />
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Each member by how much it reaches, with what is left in words. */
function Attainment({ own }: { own: OwnShare }) {
  const { data } = own;
  const isRing = data.shape === "ring";
  const chosen = own.picked[data.dimension];
  return (
    <ul className={isRing ? "grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-2 py-2" : "py-2"}>
      {data.parts.map((part) => {
        const { attainment, variance } = part.row;
        const known = "value" in attainment ? attainment.value : null;
        const colour = judgementColour(variance.judgement);
        const isFaded = chosen !== undefined && !chosen.includes(part.member?.key ?? "");
        const percent = known === null ? "no base" : writePercent(known);
        return (
          <li key={part.name} className={isFaded ? "text-slate" : ""}>
            <button
              type="button"
              aria-pressed={part.member ? (chosen?.includes(part.member.key) ?? false) : undefined}
              className={`w-full rounded hover:bg-chosen ${isRing ? "grid justify-items-center p-1 text-center" : "grid min-h-[30px] grid-cols-[minmax(6rem,1fr)_2fr_4rem_minmax(7rem,1fr)] items-center gap-x-3 text-left"}`}
              {...handlersOf(own, part)}
            >
              {isRing ? (
                <>
                  <svg aria-hidden="true" width="84" height="84">
                    <g transform="translate(42 42)" opacity={isFaded ? 0.4 : 1}>
                      <path d={ringPath({ from: 0, to: 1 }, 40, 30)} fill="var(--thread)" />
                      {known !== null && <path d={ringPath({ from: 0, to: filled(known) }, 40, 30)} fill={colour} />}
                      <text textAnchor="middle" y="5" className="text-[14px]" fontWeight="650" fill="var(--ink)">
                        {percent}
                      </text>
                    </g>
                  </svg>
                  <span className="font-semibold">{part.name}</span>
                  <span className="sr-only">: {percent}, </span>
                  <span className="text-[12px] text-slate">{part.left}</span>
                </>
              ) : (
                <>
                  <span className="truncate">{part.name}</span>
                  <span aria-hidden="true" className="relative h-3 bg-thread/60">
                    <span
                      className="absolute inset-y-0 left-0"
                      style={{ width: `${filled(known ?? 0) * 100}%`, background: colour, opacity: isFaded ? 0.4 : 1 }}
                    />
                  </span>
                  <span className="text-right font-semibold">{percent}</span>
                  <span className="text-[12.5px] text-slate">{part.left}</span>
                </>
              )}
            </button>
            <WeighedMark part={weighedOf(own, part)} />
          </li>
        );
      })}
    </ul>
  );
}
