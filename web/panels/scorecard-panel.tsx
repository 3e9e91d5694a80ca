import { useRef, type KeyboardEvent } from "react";
import { deltaStyle, valueStyle, writePercent, writeWithUnit } from "#core/words/number-words.ts";
import type { WireFigure } from "#contract/figure.ts";
import type { ScorecardAnswer, ScorecardRowAnswer } from "#contract/panels.ts";
import type { ProvenanceSide } from "#contract/provenance.ts";
import { usePanel, type FrameParams } from "../app/questions.ts";
import { Bead } from "../charts/bead.tsx";
import { Spark } from "../charts/spark.tsx";
import { GradeMark } from "../ui/grade.tsx";
import { judgementColour, JudgementMark } from "../ui/judgement.tsx";
import { Absent, AlignedNumber } from "../ui/number.tsx";
import { unbroken } from "../ui/unbroken.ts";
import { codeOf, ScenarioHeader } from "../ui/scenario-mark.tsx";
import { formatFigureAddress } from "./figure-address.ts";
import { CoverageGlyph, NoteMark } from "./note-mark.tsx";
import { PanelFrame } from "./panel-frame.tsx";

/** The trend gives way first where the panel is narrow. */
const TREND = "hidden pl-1.5 text-right @min-[645px]:table-cell";

interface ScorecardProps {
  readonly frame: FrameParams;
  readonly chosen: string | undefined;
  readonly onChoose: (kpi: string) => void;
  readonly onAsk: (figure: string) => void;
}

/** The page's message, drafted from its scorecard's own figures. */
export function ScorecardMessage({
  place,
  frame,
}: {
  place: { pack: string; page: string; panel: string };
  frame: FrameParams;
}) {
  const { data, error, isPlaceholderData } = usePanel(place, frame);
  if (error && !data) return null;
  if (data?.kind !== "scorecard") return <div className="waiting mt-2 h-7 w-3/4" />;
  const { words } = data.frame;
  return (
    <div style={{ opacity: isPlaceholderData ? 0.55 : 1 }}>
      <h1 className="mt-2 font-serif text-[21px] leading-snug">{unbroken(data.message)}</h1>
      <p className="text-[13px] text-slate">
        {capital(words.span)}
        {words.isOpen ? " as far as closed" : ""}, {words.spanMonths}, for {words.scope}, against {words.basis}
      </p>
    </div>
  );
}

/** KPIs by row: actual, basis, Δ, judgement, prior year and trend. */
export function ScorecardPanel({
  place,
  ...props
}: ScorecardProps & { place: { pack: string; page: string; panel: string } }) {
  const answer = usePanel(place, props.frame);
  return (
    <PanelFrame label="Scorecard" answer={answer} skeleton={<Skeleton />}>
      {(data) => (data.kind === "scorecard" ? <Scorecard data={data} {...props} /> : null)}
    </PanelFrame>
  );
}

function Scorecard({ data, chosen, onChoose, onAsk }: ScorecardProps & { data: ScorecardAnswer }) {
  const { words, basis } = data.frame;
  const rows = data.groups.flatMap((g) => g.rows);
  const limit = beadLimit(rows);
  // Against the prior year the basis says it already.
  const showsPriorYear = basis !== "prior-year";
  const body = useRef<HTMLTableElement>(null);
  const moveRow = (event: KeyboardEvent) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const cell = (event.target as HTMLElement).closest<HTMLTableCellElement>("td, th");
    const index = rows.findIndex((r) => r.kpi.key === (event.target as HTMLElement).closest("tr")?.dataset["kpi"]);
    const next = rows[index + step];
    if (!cell || !next) return;
    onChoose(next.kpi.key);
    const row = body.current?.querySelector<HTMLTableRowElement>(`tr[data-kpi="${next.kpi.key}"]`);
    (row?.cells[cell.cellIndex]?.querySelector("button") ?? row?.querySelector("button"))?.focus();
  };
  return (
    <div>
      <div className="@container overflow-x-auto px-3 pt-3 pb-3">
        <table ref={body} className="w-full border-collapse text-[13px]" onKeyDown={moveRow}>
          <caption className="sr-only">
            Scorecard, {words.span} to {words.asOf}, against {words.basis}, for {words.scope}
          </caption>
          <thead>
            <tr className="align-bottom text-slate">
              <th scope="col" className="pl-2 text-left font-normal">
                KPI
              </th>
              <ScenarioHeader code="actual" name="Actual" />
              <ScenarioHeader code={codeOf(basis)} name={words.basis} />
              <th scope="col" className="pl-1.5 text-right font-normal">
                Δ
              </th>
              <th scope="col" colSpan={2} className="pl-2 text-left font-normal">
                <span className="inline-block w-[42px] text-right">Δ%</span>
              </th>
              <th scope="col" className="pl-1.5 text-left font-normal">
                Status
              </th>
              {showsPriorYear && <ScenarioHeader code="prior-year" name="Prior year" />}
              <th scope="col" className={`${TREND} font-normal`}>
                Trend
              </th>
            </tr>
          </thead>
          {data.groups.map((group) => (
            <tbody key={group.title}>
              <tr>
                <th
                  scope="rowgroup"
                  colSpan={9}
                  className="pt-2 pb-0.5 text-left font-serif text-[14px] font-normal text-slate"
                >
                  {group.title}
                </th>
              </tr>
              {group.rows.map((row) => (
                <Row
                  key={row.kpi.key}
                  row={row}
                  data={data}
                  limit={limit}
                  isChosen={row.kpi.key === chosen}
                  onChoose={onChoose}
                  onAsk={onAsk}
                />
              ))}
            </tbody>
          ))}
        </table>
        <Key hasNotes={rows.some((r) => r.notes.length > 0)} />
      </div>
    </div>
  );
}

function Row({
  row,
  data,
  limit,
  isChosen,
  onChoose,
  onAsk,
}: {
  row: ScorecardRowAnswer;
  data: ScorecardAnswer;
  limit: number;
  isChosen: boolean;
  onChoose: (kpi: string) => void;
  onAsk: (figure: string) => void;
}) {
  const { kpi, variance } = row;
  const { unit, words } = data.frame;
  const style = valueStyle(kpi.unit, kpi.decimals, unit);
  const dStyle = deltaStyle(kpi.unit, kpi.decimals, unit);
  const colour = judgementColour(variance.judgement);
  const isPercent = kpi.unit.kind === "percent";
  const own = row.isFallback ? `against ${row.basisName}` : undefined;
  const ask = (side: ProvenanceSide, figure: WireFigure, name: string) => (
    <button
      type="button"
      className="figure-button"
      onClick={() => onAsk(formatFigureAddress(kpi.key, side))}
      aria-label={`${kpi.name}, ${name}, ${words.span}: ${"value" in figure ? writeWithUnit(figure.value, style) : `${figure.absent}. ${figure.detail}`} Where does it come from?`}
    >
      {"value" in figure ? <AlignedNumber value={figure.value} style={style} /> : <Absent figure={figure} />}
    </button>
  );
  return (
    <tr data-kpi={kpi.key} className={`border-t border-thread/70 ${isChosen ? "bg-chosen" : "hover:bg-chosen/60"}`}>
      <th
        scope="row"
        className={`py-[3.5px] pr-1 whitespace-nowrap text-left font-normal ${isChosen ? "shadow-[inset_3px_0_0_var(--indigo)]" : ""}`}
      >
        <button
          type="button"
          aria-pressed={isChosen}
          title={kpi.description}
          className="pl-2 text-left whitespace-nowrap"
          onClick={() => onChoose(kpi.key)}
        >
          <span className={isChosen ? "font-semibold" : ""}>{kpi.name}</span>{" "}
          <span className="text-[11.5px] whitespace-nowrap text-slate">{shortUnit(style.unitName, kpi.name)}</span>
        </button>
        <NoteMark notes={row.notes} label={isPercent ? undefined : own} />
      </th>
      <td className="pl-1.5 text-right font-semibold">{ask("actual", row.actual, "Actual")}</td>
      <td className="pl-1.5 text-right">{ask("basis", row.basis, row.basisName)}</td>
      <td className="pl-1.5 text-right" style={{ color: colour }}>
        {"value" in variance.delta ? (
          <AlignedNumber value={variance.delta.value} style={dStyle} signed suffix={isPercent ? " pts" : ""} />
        ) : (
          <Absent figure={variance.delta} />
        )}
      </td>
      {"value" in variance.deltaPercent && !isPercent ? (
        <>
          <td className="w-[50px] pl-1 text-right" style={{ color: colour }}>
            {signedPercent(variance.deltaPercent.value)}
          </td>
          <td className="pl-1">
            <Bead fraction={variance.deltaPercent.value} limit={limit} judgement={variance.judgement} width={44} />
          </td>
        </>
      ) : (
        <td colSpan={2} className="pl-3 text-[11.5px] whitespace-nowrap text-slate">
          {isPercent ? own : ""}
        </td>
      )}
      <td className="pl-1.5" title={statusWords(row)}>
        <StatusMark row={row} />
      </td>
      {data.frame.basis !== "prior-year" && (
        <td className="pl-1.5 text-right text-slate">{ask("prior-year", row.priorYear, "Prior year")}</td>
      )}
      <td className={TREND} title={trendWords(row, data)}>
        <Spark figures={row.trend.map((t) => t.actual)} width={48} />
      </td>
    </tr>
  );
}

/** The band of a KPI that has bands; else the judgement of its variance. */
function StatusMark({ row: { status, variance } }: { row: ScorecardRowAnswer }) {
  if (status === null) return <JudgementMark judgement={variance.judgement} short />;
  if ("absent" in status) return <Absent figure={status} />;
  return <GradeMark {...status} />;
}

/** What the shapes and letters of the table stand for. */
function Key({ hasNotes }: { hasNotes: boolean }) {
  return (
    <ul className="mt-2 flex flex-wrap gap-x-4 gap-y-0.5 border-t border-thread/70 pt-2 text-[11.5px] text-slate">
      {(["favourable", "unfavourable", "on plan"] as const).map((judgement) => (
        <li key={judgement} className="flex items-center gap-1.5">
          <span aria-hidden="true">
            <JudgementMark judgement={judgement} short />
          </span>
          {judgement === "on plan" ? "inside the KPI's tolerance" : judgement}
        </li>
      ))}
      {hasNotes && (
        <li className="flex items-center gap-1.5">
          <CoverageGlyph />
          something is left out or compared otherwise
        </li>
      )}
    </ul>
  );
}

function Skeleton() {
  return (
    <div className="p-5" role="status" aria-label="The scorecard is being computed">
      <div className="waiting h-6 w-4/5" />
      {Array.from({ length: 14 }, (_, i) => (
        <div key={i} className="waiting mt-3 h-5" />
      ))}
    </div>
  );
}

/** All rows share one zero line and one scale; a single outlier must not flatten the rest. */
function beadLimit(rows: readonly ScorecardRowAnswer[]): number {
  const sizes = rows
    .flatMap((r) =>
      "value" in r.variance.deltaPercent && r.kpi.unit.kind !== "percent"
        ? Math.abs(r.variance.deltaPercent.value)
        : [],
    )
    .sort((a, b) => a - b);
  const typical = sizes[Math.floor(sizes.length * 0.9)] ?? 0;
  return Math.max(0.02, Math.min(sizes.at(-1) ?? 0, typical * 2));
}

function signedPercent(fraction: number): string {
  const text = writePercent(fraction);
  return fraction > 0 && text !== "0.0%" ? `+${text}` : text;
}

/** The unit beside the name, unless the name says it already. */
function shortUnit(unit: string, name: string): string {
  return unit.toLowerCase() === name.toLowerCase()
    ? ""
    : unit.replace("€ thousand", "€ k").replace("€ million", "€ m").replace("€ per ", "€/");
}

function statusWords({ kpi, status, words }: ScorecardRowAnswer): string {
  return `${kpi.name}: ${status === null ? "" : "absent" in status ? `${status.detail} ` : `${status.word}; `}${words}`;
}

function trendWords(row: ScorecardRowAnswer, data: ScorecardAnswer): string {
  const style = valueStyle(row.kpi.unit, row.kpi.decimals, data.frame.unit);
  const known = row.trend.flatMap((t) =>
    "value" in t.actual ? [`${t.month}: ${writeWithUnit(t.actual.value, style)}`] : [],
  );
  return known.length < 2 ? "" : `Monthly, ${known[0]} to ${known.at(-1)}`;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
