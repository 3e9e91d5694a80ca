import { inMember, type MeasureContext } from "../../compare/measure-ground.ts";
import { asOfDay } from "../../cube/coverage.ts";
import type { RowParts } from "../../compare/scorecard.ts";
import type { Scope } from "../../dimensions/scope.ts";
import { formulaNames, requireKpi } from "../../frame/company.ts";
import { memberMessage, scorecardMessage, type MessageRow } from "../../words/message.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiRow, TREND_MONTHS, type KpiRowParts } from "../parts/kpi-row.ts";
import { orderRows, othersScope, repetition } from "../parts/repetition.ts";
import type { TileFigureKind } from "./figure-kinds.ts";
import { tileFigure, tileKpi, type TileKpi } from "./tile-figure.ts";
import { isPast, tileFigureName } from "./words.ts";
import {
  DEFAULT_TILE_FIGURES,
  type TilesChoice,
  type TilesDefinition,
  type TilesAnswer,
  type TileAnswer,
} from "./schema.ts";
import type { ShownMember } from "../parts/schema.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: TREND_MONTHS };

/** A tile, and the facts that sentences are made from. */
interface ComputedTile extends TileAnswer {
  readonly facts: MessageRow;
}

export function computeTiles(definition: TilesDefinition, choice: TilesChoice, question: PanelQuestion): TilesAnswer {
  const { company, asked } = question;
  const kinds = (definition.figures ?? DEFAULT_TILE_FIGURES).filter((kind) => !isLarge(kind, question));
  const tileOf = (key: string) => tileKpi(requireKpi(company, key), () => formulaNames(company));
  const layer = choice.kpi !== undefined && definition.kpis.includes(choice.kpi) ? choice.kpi : definition.kpis[0]!;
  const repeated = definition.repeatBy && repetition(question, definition.repeatBy, choice.below ?? null);
  const second = definition.second === undefined ? null : tileOf(definition.second);
  const compute = (tile: TileKpi, member: ShownMember | null, scope: Scope) =>
    computeTile(
      tile,
      second !== null && second.kpi.definition.key !== tile.kpi.definition.key ? second : null,
      member,
      { ...PARTS, marksOutside: definition.marksOutside },
      scope,
      repeated?.dimension.key,
      kinds,
      question,
    );
  const computed = repeated
    ? repeated.members.map((member) => compute(tileOf(layer), member, member.scope))
    : definition.kpis.map((key) => compute(tileOf(key), null, asked.scope));
  const facts = computed.map((tile) => tile.facts);
  const order = choice.order ?? definition.order;
  const isReversed = choice.reversed === undefined ? definition.isReversed : choice.reversed === "yes";
  const top = repeated ? (choice.top === "all" ? null : (choice.top ?? definition.top)) : null;
  const ordered = orderRows(computed, order, isReversed);
  const rest = top === null ? [] : ordered.slice(top);
  const others = [...rest.map((tile) => tile.member!), ...(repeated ? repeated.beyond : [])];
  return {
    kind: "tiles",
    frame: asked.answer,
    message: repeated
      ? memberMessage(`${requireKpi(company, layer).definition.name} by ${repeated.level}`, facts)
      : scorecardMessage(facts),
    figures: kinds.map((kind) => ({
      kind,
      name: tileFigureName(kind, company.calendar, asked.frame.asOf, asOfDay(company.coverage, asked.frame.asOf)),
      isPast: isPast(kind),
    })),
    layers: repeated ? definition.kpis.map((key) => ({ key, name: requireKpi(company, key).definition.name })) : [],
    repeatedBy: repeated && { dimension: repeated.dimension.key, level: repeated.level, path: repeated.path },
    order,
    isReversed,
    top,
    tiles: ordered.slice(0, ordered.length - rest.length).map(withoutFacts),
    others:
      repeated && others.length > 0
        ? {
            count: others.length,
            tile: withoutFacts(compute(tileOf(layer), null, othersScope(repeated, asked.scope, others))),
          }
        : null,
  };
}

/** Whether a small figure would repeat the large one, or what it is held against. */
function isLarge(kind: TileFigureKind, { asked: { frame } }: PanelQuestion): boolean {
  return kind === frame.span.kind || (kind === "prior-year" && frame.basis.kind === "prior-year");
}

function computeTile(
  tile: TileKpi,
  second: TileKpi | null,
  member: ShownMember | null,
  parts: KpiRowParts,
  scope: Scope,
  dimension: string | undefined,
  kinds: readonly TileFigureKind[],
  question: PanelQuestion,
): ComputedTile {
  const ground = measureContext(question);
  const context =
    member && dimension !== undefined ? inMember(ground, dimension, member.key, scope) : { ...ground, scope };
  const { row, facts } = kpiRow(tile.kpi, parts, context, question);
  return {
    member,
    row,
    second: second && secondOf(second, context, question),
    figures: kinds.map((kind) => {
      const { figure, variance, note } = tileFigure(kind, tile, question.asked.frame, context);
      return { figure, variance, note };
    }),
    facts: { name: member?.name ?? tile.kpi.definition.name, ...facts },
  };
}

function secondOf({ kpi: of }: TileKpi, context: MeasureContext, question: PanelQuestion): TileAnswer["second"] {
  const { kpi, actual, basisName, variance, words } = kpiRow(of, { ...PARTS, trendMonths: 0 }, context, question).row;
  return { kpi, actual, basisName, variance, words };
}

function withoutFacts({ facts: _, ...tile }: ComputedTile): TileAnswer {
  return tile;
}
