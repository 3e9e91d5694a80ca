import { UnfoldHorizontal } from "lucide-react";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { BridgeStart } from "#core/panels/bridge/schema.ts";
import { bridgeTable } from "#core/panels/bridge/table.ts";
import { writePercent, writeSigned, writeWithUnit } from "#core/formats/number-words.ts";
import { BetterKind } from "../../chart-kit/better-kind.tsx";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { chartPanel } from "../../chart-kit/chart-panel.tsx";
import type { ChartMark } from "../../chart-kit/mark.ts";
import { MemberPath } from "../../chart-kit/member-path.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { weighedAs, type Reading } from "../../chart-kit/reading.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { IconButton } from "../../ui/form.tsx";
import { layoutBridge, type BridgeLayout, type BridgeLine } from "./layout.ts";
import { START_CHOICES, startWords } from "./starts.ts";
import { Steps } from "./steps.tsx";

type OwnBridge = Own<"bridge">;

/** What takes a KPI from one figure to another. */
export default chartPanel<"bridge", BridgeLayout>({
  label: "Bridge",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}, step by step`,
  table: bridgeTable,
  around,
  layout: ({ data, part, style, deltaStyle }, { width, height }) =>
    layoutBridge({ data, part, width, room: height, style, deltaStyle }),
  marks: (own, { lines }) => lines.map((line) => markOf(own, line)),
  Drawing: ({ own: { data, picked }, layout, active }) => (
    <Steps layout={layout} active={active} picked={data.dimension === null ? undefined : picked[data.dimension]} />
  ),
  keys: "Left and right walk along the steps, Enter narrows or shows where a figure comes from, down opens.",
  liesInLines: true,
});

function around({ data, panel, actions }: OwnBridge, { mayShorten, isShort }: BridgeLayout): Around {
  return {
    head: (
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
    ),
    signs: mayShorten && (
      <IconButton
        label={isShort ? "Show the axis from zero" : "Shorten the axis"}
        isOn={isShort}
        onClick={() => actions.choose({ axis: isShort ? "whole" : "short" })}
      >
        <UnfoldHorizontal size={15} />
      </IconButton>
    ),
    foot: isShort && <p className="px-4 pt-1 text-[12.5px] text-slate">The axis does not start at zero.</p>,
    refusal: data.refusal === null ? null : { title: "No bridge here", detail: data.refusal, better: betterKind() },
  };

  function betterKind() {
    return panel.by.kind === "member" ? (
      <BetterKind kind="breakdown" name="a breakdown" kpi={data.kpi.key} by={panel.by} />
    ) : (
      <BetterKind kind="time-chart" name="a chart over time" kpi={data.kpi.key} />
    );
  }
}

function markOf(own: OwnBridge, line: BridgeLine): ChartMark {
  const { data, actions } = own;
  const { step } = line;
  return {
    hit: line.band,
    member:
      step?.member && data.dimension !== null
        ? { dimension: data.dimension, member: step.member.key, name: step.member.name }
        : undefined,
    open: step?.opens ? () => actions.choose({ below: step.opens ?? undefined }) : undefined,
    source:
      step === null || step.kind === "step"
        ? {
            figure: formatFigureAddress(data.kpi.key, "actual", step?.months ?? undefined),
            scope: step?.member ? formatScope(step.member.scope) : undefined,
          }
        : undefined,
    reading: () => readingOf(own, line),
  };
}

function readingOf({ data, part, style, deltaStyle }: OwnBridge, line: BridgeLine): Reading {
  const { step, end, kind, fullName, after } = line;
  const { delta } = data.variance;
  const share = step && "value" in delta && delta.value !== 0 && !step.isForecast ? step.value / delta.value : null;
  const own = part?.steps.find(({ key, kind: of }) => key === step?.key && of !== "others");
  const opens = step?.member ? "Click narrows, Ctrl adds, double click opens" : "Click opens";
  return {
    title: fullName,
    lines: [
      ...(step ? [{ name: "Change", text: writeSigned(step.value, deltaStyle), isStrong: true }] : []),
      { name: end ? end.name : "Running total", text: writeWithUnit(after, style) },
    ],
    judged:
      step && kind === "step"
        ? {
            judgement: step.judgement,
            text: share !== null && step.kind !== "gap" ? `${writePercent(share)} of Δ` : "",
          }
        : null,
    weighed: [weighedAs(own && { value: own.value }, (value) => writeSigned(value, deltaStyle))],
    notes: step?.count !== null && step?.count !== undefined ? `${step.count} smaller steps, added up` : "",
    hint: kind === "step" && step?.opens ? opens : null,
  };
}
