import { UnfoldHorizontal } from "lucide-react";
import type { MouseEvent, RefObject } from "react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { bridgeTable } from "#core/panels/bridge/table.ts";
import {
  deltaStyle,
  valueStyle,
  writePercent,
  writeSigned,
  writeWithUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { useMarkWalk } from "../../chart-kit/use-mark-walk.ts";
import { WalkedChart } from "../../chart-kit/walked-chart.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { IconButton } from "../../ui/form.tsx";
import { JudgementMark } from "../../figures/judgement.tsx";
import { FilledPlace } from "../../chart-kit/filled-place.tsx";
import { useSize } from "../../ui/use-size.ts";
import { BetterKind } from "../../chart-kit/better-kind.tsx";
import { ChartBody } from "../../chart-kit/chart-body.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import { ChosenPart } from "../../chart-kit/chosen-part.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import { pickHandlers } from "../../chart-kit/pick-handlers.ts";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { layoutBridge, type BridgeLine } from "./layout.ts";
import { START_CHOICES, startWords } from "./starts.ts";
import { Steps } from "./steps.tsx";
import type { BridgeStart, BridgeAnswer } from "#core/panels/bridge/schema.ts";

/** What takes a KPI from one figure to another, as a chart or as a table of numbers. */
export default function BridgePanel(view: PanelProps<"bridge">) {
  return (
    <PanelSheet
      view={view}
      label="Bridge"
      table={bridgeTable}
      skeleton={
        <div className="p-5" role="status" aria-label="The bridge is being calculated">
          <div className="waiting h-6 w-3/4" />
          {Array.from({ length: 6 }, (_, i) => (
            <div key={i} className="waiting mt-3 h-4" style={{ width: "30%", marginLeft: `${i * 11}%` }} />
          ))}
        </div>
      }
    >
      {(data, part) => <Bridge view={view} data={data} part={part} />}
    </PanelSheet>
  );
}

function Bridge({
  view: { panel, choice, picked, actions },
  data,
  part,
}: {
  view: PanelProps<"bridge">;
  data: BridgeAnswer;
  part: BridgeAnswer | undefined;
}) {
  const isTable = choice.table === "open";
  const toggleTable = () => actions.choose({ table: isTable ? undefined : "open" });
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const dStyle = deltaStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const [{ width, height }, holder] = useSize();
  const layout = layoutBridge({ data, width: Math.max(1, width), room: height, style, deltaStyle: dStyle });
  return (
    <ChartBody
      words={panel}
      head={
        <span className="inline-flex flex-wrap items-baseline gap-x-1">
          <ChoiceWord
            label="Leads"
            words={startWords(data.from, data.start?.name ?? data.frame.words.basis)}
            choices={START_CHOICES}
            chosen={data.from}
            onChoose={(from) => actions.choose({ from: from as BridgeStart, below: undefined })}
            className="meaning-word"
          />
          <MemberPath path={data.path} onOpen={(below) => actions.choose({ below })} />
        </span>
      }
      signs={
        layout.mayShorten && (
          <IconButton
            label={layout.isShort ? "Show the axis from zero" : "Shorten the axis"}
            isOn={layout.isShort}
            onClick={() => actions.choose({ axis: layout.isShort ? "whole" : "short" })}
          >
            <UnfoldHorizontal size={15} />
          </IconButton>
        )
      }
      isTable={isTable}
      onTable={toggleTable}
      table={() => bridgeTable(data)}
      caption={`${data.kpi.name} in ${style.unitName}, step by step`}
      style={style}
      deltaStyle={dStyle}
      money={data.frame.unit}
      refusal={
        data.refusal === null
          ? null
          : {
              title: "No bridge here",
              detail: data.refusal,
              better:
                panel.by.kind === "member" ? (
                  <BetterKind kind="breakdown" name="a breakdown" kpi={data.kpi.key} by={panel.by} />
                ) : (
                  <BetterKind kind="time-chart" name="a chart over time" kpi={data.kpi.key} />
                ),
            }
      }
      foot={
        layout.isShort && (
          <p className="px-4 pt-1 text-[12.5px] text-slate">
            The axis does not begin at zero: figures are torn off there.
          </p>
        )
      }
      absent={data.absent}
      notes={data.notes}
    >
      <BridgeChart
        {...{ data, part, layout, width, holder, style, actions }}
        deltaStyle={dStyle}
        picked={data.dimension === null ? undefined : picked[data.dimension]}
        onTable={toggleTable}
      />
    </ChartBody>
  );
}

function BridgeChart({
  data,
  part,
  layout,
  width,
  holder,
  style,
  deltaStyle: dStyle,
  picked,
  actions,
  onTable,
}: {
  data: BridgeAnswer;
  part: BridgeAnswer | undefined;
  layout: ReturnType<typeof layoutBridge>;
  width: number;
  holder: RefObject<HTMLDivElement | null>;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  picked: readonly string[] | undefined;
  actions: PanelProps<"bridge">["actions"];
  onTable: () => void;
}) {
  const openOf = ({ step }: BridgeLine) =>
    step?.opens ? () => actions.choose({ below: step.opens ?? undefined }) : undefined;
  const memberOf = ({ step }: BridgeLine) =>
    step?.member && data.dimension !== null
      ? { dimension: data.dimension, member: step.member.key, name: step.member.name }
      : undefined;
  const ask = ({ step }: BridgeLine) => {
    const address = formatFigureAddress(data.kpi.key, "actual", step?.months ?? undefined);
    actions.ask(address, step?.member ? formatScope(step.member.scope) : undefined);
  };
  const handlersOf = (
    line: BridgeLine,
  ): { onClick?: (event: MouseEvent) => void; onDoubleClick?: (event: MouseEvent) => void } => {
    const member = memberOf(line);
    if (member) return pickHandlers(actions.pick, member, openOf(line));
    const open = openOf(line);
    // Accounts and months are no members: there is nothing to narrow to, so a click leads to what lies below or behind.
    if (open) return { onClick: open };
    return line.step === null || line.step.kind === "step" ? { onClick: () => ask(line) } : {};
  };
  const walk = useMarkWalk(layout.lines.length, 0, {
    onTable,
    onEnter: (mark, event) => {
      const line = layout.lines[mark]!;
      const member = memberOf(line);
      if (event.shiftKey || !member) ask(line);
      else actions.pick?.(member, { adds: event.ctrlKey || event.metaKey, otherWay: event.altKey });
    },
    onDown: (mark) => openOf(layout.lines[mark]!)?.(),
  });
  const line = walk.active === null ? undefined : layout.lines[walk.active];
  return (
    <FilledPlace holder={holder} least={layout.least}>
      <WalkedChart
        width={width}
        height={layout.height}
        label={`${data.headline} ${data.descriptor}. Left and right walk along the steps, Enter narrows or shows where a figure comes from, down opens.`}
        walk={walk}
        words={line ? lineWords(data, line, style, dStyle) : ""}
        card={line && <StepCard {...{ data, part, line, style, width }} deltaStyle={dStyle} />}
      >
        <Steps {...{ layout, picked, handlersOf }} active={walk.active} onLook={walk.look} />
      </WalkedChart>
    </FilledPlace>
  );
}

function StepCard({
  data,
  part,
  line,
  style,
  deltaStyle: dStyle,
  width,
}: {
  data: BridgeAnswer;
  part: BridgeAnswer | undefined;
  line: BridgeLine;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  width: number;
}) {
  const own = part?.steps.find(({ key }) => key === line.step?.key);
  const { step, end } = line;
  const { delta } = data.variance;
  const share = step && "value" in delta && delta.value !== 0 && !step.isForecast ? step.value / delta.value : null;
  return (
    <div
      aria-hidden="true"
      className="popover pointer-events-none absolute z-10 w-60 p-3 text-[13px]"
      style={{
        left: Math.max(0, Math.min(width - 240, width * 0.36)),
        ...(line.centre > 150
          ? { bottom: `calc(100% - ${line.band.y - 4}px)` }
          : { top: line.band.y + line.band.height + 4 }),
      }}
    >
      <p className="font-serif text-[15px]">{line.fullName}</p>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
        {step && (
          <>
            <dt>Brings</dt>
            <dd className="text-right font-semibold">{writeSigned(step.value, dStyle)}</dd>
          </>
        )}
        <dt>{end ? end.name : "Leads to"}</dt>
        <dd className="text-right">{writeWithUnit(line.after, style)}</dd>
      </dl>
      {step && line.kind === "step" && (
        <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1">
          <JudgementMark judgement={step.judgement} />
          {share !== null && step.kind !== "gap" && <span>{writePercent(share)} of Δ</span>}
        </p>
      )}
      <ChosenPart figure={own && { value: own.value }} write={(value) => writeSigned(value, dStyle)} />
      {step?.count !== null && step?.count !== undefined && (
        <p className="mt-1 text-[12px] text-slate">{step.count} smaller steps, added up</p>
      )}
      {line.kind === "step" && step?.opens && (
        <p className="mt-1 text-[11.5px] text-slate">
          {step.member ? "Click narrows, Ctrl adds, double click opens" : "Click opens"}
        </p>
      )}
    </div>
  );
}

function lineWords(data: BridgeAnswer, line: BridgeLine, style: NumberStyle, dStyle: NumberStyle): string {
  const { step, end } = line;
  if (!step) return `${end!.name}: ${data.kpi.name} ${writeWithUnit(end!.value, style)}`;
  const judged = step.judgement && line.kind === "step" ? `, ${step.judgement}` : "";
  return `${line.fullName}: ${writeSigned(step.value, dStyle)}${judged}; leads to ${writeWithUnit(line.after, style)}`;
}
