import { inMember } from "../../compare/measure-ground.ts";
import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { compareKpi } from "../../compare/compare-kpi.ts";
import { measureOver } from "../../compare/measure.ts";
import { SHOWN } from "../../compare/side.ts";
import { spanWindow } from "../../compare/window.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import { periodsOf } from "../../series/periods.ts";
import { wholeFigure } from "../../series/whole-period.ts";
import { correlationWords, fittedLine } from "../../statistics/fitted-line.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { beyondNotes, repetition } from "../parts/repetition.ts";
import type { ScatterChoice, ScatterDefinition, ScatterAnswer, ScatterPoint } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";
import type { FittedLine } from "../../statistics/schema.ts";

export function computeScatter(
  definition: ScatterDefinition,
  choice: ScatterChoice,
  question: PanelQuestion,
): ScatterAnswer {
  const { company, asked } = question;
  const [x, y] = [requireKpi(company, definition.x), requireKpi(company, definition.y)];
  const size = definition.size === null ? null : requireKpi(company, definition.size);
  const { all, noun, dimension, path, over, notes } = pointsOf(
    definition,
    choice.below ?? null,
    [x, y, size],
    question,
  );
  const points = all.filter((point) => isPresent(point.x) && isPresent(point.y));
  const pairs = points.map((point) => ({ x: valueOf(point.x), y: valueOf(point.y) }));
  const line = definition.hasLine ? fittedLine(pairs) : null;
  const { words } = asked.answer;
  const names = `${x.definition.name} and ${lowered(y.definition.name)}`;
  return {
    kind: "scatter",
    frame: asked.answer,
    x: kpiHead(x),
    y: kpiHead(y),
    size: size && kpiHead(size),
    headline: definition.title ?? headlineOf(names, noun, points.length, fittedLine(pairs)),
    descriptor: `${names} by ${noun}${size ? `, sized by ${lowered(size.definition.name)}` : ""}, ${over}, for ${words.scope}`,
    noun,
    dimension,
    path,
    points,
    line,
    quadrants: quadrantsOf(definition, x, y, pairs, question),
    absent: all.flatMap((point) => {
      const missing = [point.x, point.y].find((figure) => !isPresent(figure));
      return missing && "absent" in missing ? [{ name: point.name, reason: missing.detail }] : [];
    }),
    notes: [
      ...notes,
      ...(line === null && definition.hasLine
        ? ["No line is fitted: there are too few points, or they do not vary."]
        : []),
    ],
  };
}

function pointsOf(
  { by }: ScatterDefinition,
  below: string | null,
  [x, y, size]: readonly [CompiledKpi, CompiledKpi, CompiledKpi | null],
  question: PanelQuestion,
): Pick<ScatterAnswer, "noun" | "dimension" | "path" | "notes"> & { all: ScatterPoint[]; over: string } {
  const { company, asked } = question;
  const { calendar } = company;
  const { frame } = asked;
  const context = measureContext(question);
  if (by.kind === "member") {
    const repeated = repetition(question, by, below);
    const { members, level, dimension, path } = repeated;
    const window = spanWindow(context, frame.span, frame.asOf);
    const all = members.map((member): ScatterPoint => {
      const own = inMember(context, dimension.key, member.key, member.scope);
      const of = (kpi: CompiledKpi) => measureOver(kpi, SHOWN, window, own).figure;
      return { key: member.key, name: member.name, member, months: null, x: of(x), y: of(y), size: size && of(size) };
    });
    const over = asked.answer.words.spanMonths;
    return { all, noun: level, dimension: dimension.key, path, over, notes: beyondNotes(repeated) };
  }
  const periods = periodsOf(by.grain, { calendar, asOf: frame.asOf, months: [], last: by.last + 12 })
    .filter(({ to }) => to <= frame.asOf)
    .slice(-by.last);
  const all = periods.map((period): ScatterPoint => {
    const { key, name, from, to } = period;
    const of = (kpi: CompiledKpi) => wholeFigure(kpi, period, context);
    const months = from === to ? formatMonth(from) : `${formatMonth(from)}..${formatMonth(to)}`;
    return { key, name, member: null, months, x: of(x), y: of(y), size: size && of(size) };
  });
  const over = periods.length === 0 ? "no period" : rangeName(calendar, periods[0]!.from, periods.at(-1)!.to);
  return { all, noun: by.grain, dimension: null, path: [], over, notes: [] };
}

/** Where the plot is parted: at the mean of the points, or where the KPIs' basis stands in the frame. */
function quadrantsOf(
  { quadrants }: ScatterDefinition,
  x: CompiledKpi,
  y: CompiledKpi,
  pairs: readonly { readonly x: number; readonly y: number }[],
  question: PanelQuestion,
): ScatterAnswer["quadrants"] {
  if (quadrants === "none" || pairs.length === 0) return null;
  if (quadrants === "average") {
    const mean = (of: "x" | "y") => pairs.reduce((sum, pair) => sum + pair[of], 0) / pairs.length;
    return { x: mean("x"), y: mean("y"), at: "mean" };
  }
  const basisOf = (kpi: CompiledKpi) => compareKpi(kpi, question.asked.frame, measureContext(question)).basis;
  const [bx, by] = [basisOf(x), basisOf(y)];
  if (!isPresent(bx.figure) || !isPresent(by.figure)) return null;
  return { x: bx.figure.value, y: by.figure.value, at: bx.side.name };
}

function headlineOf(names: string, noun: string, n: number, line: FittedLine | null): string {
  const over = `${n} ${noun}${n === 1 ? "" : "s"}`;
  if (!line) return `${names}: ${n === 0 ? `no ${noun} has both` : `too few points over ${over}`}.`;
  return `${names} ${correlationWords(line)}: r = ${line.r.toFixed(2).replace("-", "−")} over ${over}.`;
}

function lowered(name: string): string {
  return name.charAt(0).toLowerCase() + name.slice(1);
}

function valueOf(figure: Figure): number {
  return isPresent(figure) ? figure.value : NaN;
}
