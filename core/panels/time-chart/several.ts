import { measureOver } from "../../compare/measure.ts";
import { inMember, type MeasureContext } from "../../compare/measure-ground.ts";
import { absent, isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { CompiledKpi } from "../../kpis/compile-kpi.ts";
import type { Period } from "../../series/periods.ts";
import { listed } from "../../formats/listed.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { isAdditive } from "../parts/part-of.ts";
import { beyondNotes, othersScope, type Repetition } from "../parts/repetition.ts";
import type { Stacking } from "../parts/stacking.ts";
import { chartSides } from "./open-side.ts";
import { MOST_KPIS_OVER_TIME, type TimeChartDefinition, type ChartPart } from "./schema.ts";
import type { Figure } from "../../figures/schema.ts";

/** Several series, how they can stand without misleading, and what the reader must know. */
export interface ChartParts {
  readonly parts: readonly ChartPart[];
  readonly stacking: Stacking;
  readonly notes: readonly string[];
}

/** So many members are told apart; the smallest of more are gathered. */
const MOST_MEMBERS_APART = 8;

/** The series of a chart of several KPIs, or of one that is split by members; none where it is of one alone. */
export function chartParts(
  definition: TimeChartDefinition,
  kpi: CompiledKpi,
  wanted: Stacking,
  periods: readonly Period[],
  isOpen: (period: number) => boolean,
  split: Repetition | null,
  question: PanelQuestion,
): ChartParts {
  // A chart's own KPI, and its members, are open together; another KPI goes on from where it is closed itself.
  const figuresOf = (own: CompiledKpi, context: MeasureContext) =>
    own === kpi
      ? periods.map((period, i) => actualOrForecast(own, period, isOpen(i), context))
      : actualsAndForecasts(own, periods, context);
  const found = split ? bySplit(split, kpi, figuresOf, question) : byKpi(definition, kpi, figuresOf, question);
  return { ...found, ...fittingStacking(wanted, kpi, found.parts, found.notes, split !== null) };
}

function bySplit(
  repeated: Repetition,
  kpi: CompiledKpi,
  figuresOf: (kpi: CompiledKpi, context: MeasureContext) => readonly Figure[],
  question: PanelQuestion,
): Pick<ChartParts, "parts" | "notes"> {
  const context = measureContext(question);
  const all = repeated.members.map((member, at): ChartPart & { readonly size: number } => {
    const figures = figuresOf(kpi, inMember(context, repeated.dimension.key, member.key, member.scope));
    const size = figures.reduce((sum, figure) => sum + (isPresent(figure) ? Math.abs(figure.value) : 0), 0);
    const { key, name } = member;
    return { key, name, kpi: kpiHead(kpi), dimension: repeated.dimension.key, member, at, figures, size };
  });
  const there = all.filter(({ figures }) => figures.some((figure) => isPresent(figure) && figure.value !== 0));
  const most = there.length <= MOST_MEMBERS_APART ? MOST_MEMBERS_APART : MOST_MEMBERS_APART - 1;
  const kept = new Set(there.toSorted((a, b) => b.size - a.size).slice(0, most));
  const rest = there.filter((part) => !kept.has(part));
  const parts: readonly ChartPart[] = there.filter((part) => kept.has(part)).map(({ size: _, ...part }) => part);
  const without = all.length - there.length;
  const notes = [
    ...beyondNotes(repeated),
    ...(without === 0
      ? []
      : [
          `${without} of ${all.length} ${repeated.dimension.plural} ${without === 1 ? "has" : "have"} no figures here.`,
        ]),
  ];
  const members = [...rest.map(({ member }) => member!), ...repeated.beyond];
  if (members.length === 0) return { parts, notes };
  const figures = figuresOf(kpi, { ...context, scope: othersScope(repeated, question.asked.scope, members) });
  return {
    parts: [
      ...parts,
      {
        key: "others",
        name: `The other ${members.length.toLocaleString("en")}`,
        kpi: kpiHead(kpi),
        dimension: repeated.dimension.key,
        member: null,
        at: null,
        figures,
      },
    ],
    notes,
  };
}

function byKpi(
  { others = [] }: TimeChartDefinition,
  kpi: CompiledKpi,
  figuresOf: (kpi: CompiledKpi, context: MeasureContext) => readonly Figure[],
  question: PanelQuestion,
): Pick<ChartParts, "parts" | "notes"> {
  const wanted = others.map((key) => requireKpi(question.company, key)).filter((own) => own !== kpi);
  const [alike, unlike] = [true, false].map((is) => wanted.filter((own) => isSameUnit(own, kpi) === is));
  const notes =
    unlike!.length === 0
      ? []
      : [
          `${listed(unlike!.map(({ definition: { name } }) => name))} ${unlike!.length === 1 ? "is" : "are"} of another unit and left out: one of them can stand on an axis at the right.`,
        ];
  if (alike!.length === 0) return { parts: [], notes };
  const context = measureContext(question);
  const parts = [kpi, ...alike!].slice(0, MOST_KPIS_OVER_TIME).map((own, at): ChartPart => ({
    key: own.definition.key,
    name: own.definition.name,
    kpi: kpiHead(own),
    dimension: null,
    member: null,
    at,
    figures: figuresOf(own, context),
  }));
  return { parts, notes };
}

/** A KPI's actuals as far as it is closed itself, then the latest forecast. */
export function actualsAndForecasts(kpi: CompiledKpi, periods: readonly Period[], context: MeasureContext): Figure[] {
  const last = periods.findLastIndex((period) => isPresent(actualOrForecast(kpi, period, false, context)));
  return periods.map((period, i) => actualOrForecast(kpi, period, i > last, context));
}

/** The actual of a period, or the latest forecast's where it is open. */
function actualOrForecast(kpi: CompiledKpi, period: Period, isOpen: boolean, context: MeasureContext): Figure {
  const { known, open } = chartSides(kpi, context.knownTo ?? period.to, context);
  if (!isOpen) return measureOver(kpi, known, period.window, context).figure;
  return open
    ? measureOver(kpi, open, period.window, context).figure
    : absent("not covered", "No forecast had been made.");
}

function isSameUnit(a: CompiledKpi, b: CompiledKpi): boolean {
  return JSON.stringify(a.definition.unit) === JSON.stringify(b.definition.unit);
}

/** How the series can stand without misleading, and why not otherwise. */
function fittingStacking(
  wanted: Stacking,
  kpi: CompiledKpi,
  parts: readonly ChartPart[],
  notes: readonly string[],
  isSplit: boolean,
): Pick<ChartParts, "stacking" | "notes"> {
  if (wanted === "clustered" || parts.length === 0) return { stacking: "clustered", notes };
  if (!isAdditive(kpi.definition.unit)) {
    const whose = isSplit ? kpi.definition.name : listed(parts.map(({ name }) => name));
    return {
      stacking: "clustered",
      notes: [
        ...notes,
        `${whose} ${isSplit || parts.length === 1 ? "does" : "do"} not add up, so the parts are shown side by side.`,
      ],
    };
  }
  const isNegative = parts.some(({ figures }) => figures.some((figure) => isPresent(figure) && figure.value < 0));
  if (wanted === "share" && isNegative)
    return { stacking: "stacked", notes: [...notes, "Some parts are negative: shares of the whole would mislead."] };
  return { stacking: wanted, notes };
}
