import { attainmentOf, attainmentRank } from "#core/compare/attainment.ts";
import type { MeasureContext, MeasureFrame } from "#core/compare/measure.ts";
import type { Ask } from "#core/compare/plan-reads.ts";
import type { RowParts } from "#core/compare/scorecard.ts";
import type { TileFigureKind } from "#core/compare/tile-figures.ts";
import { tileAsks, tileFigure, tileKpi, type TileKpi } from "#core/compare/tile.ts";
import { asOfDay } from "#core/cube/coverage.ts";
import { memberDepth, type Dimension } from "#core/dimensions/dimension.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { isPresent } from "#core/figures/figure.ts";
import type { FormulaNames } from "#core/formula/compile.ts";
import { memberMessage, scorecardMessage, type MessageRow } from "#core/words/message.ts";
import { isPast, tileFigureName } from "#core/words/tile-words.ts";
import type { PanelQuery } from "#contract/operations.ts";
import { DEFAULT_TILE_FIGURES, MAX_TILES, type TileOrder, type TilesPanelDefinition } from "#contract/pack.ts";
import type { TileAnswer, TilesAnswer } from "#contract/panels.ts";
import { ProblemError } from "#server/http/problem-error.ts";
import { namesOf } from "#server/kpis/library.ts";
import { requireKpi } from "./kpi-answers.ts";
import { memberScopes, wireMember, type ShownMember } from "./member-scopes.ts";
import { measureFrame, readContext } from "./read-context.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import { rowAnswer, rowAsks, TREND_MONTHS } from "./row-answer.ts";
import type { Workspace } from "./workspace.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: TREND_MONTHS };

/** What one tile is of: a KPI, in a member's scope or in the frame's. */
interface Subject {
  readonly tile: TileKpi;
  readonly member: ShownMember | null;
  readonly scope: Scope;
}

/** A tile, and the facts that sentences are made from. */
interface AnsweredTile {
  readonly answer: TileAnswer;
  readonly facts: MessageRow;
}

/** All that tiles are computed with. */
interface Setting {
  readonly workspace: Workspace;
  readonly resolved: ResolvedFrame;
  readonly own: MeasureFrame;
  readonly kinds: readonly TileFigureKind[];
}

/** Tiles' figures in a frame: one for each KPI, or one KPI (the layer) by the members of a dimension. */
export async function computeTiles(
  workspace: Workspace,
  resolved: ResolvedFrame,
  panel: TilesPanelDefinition,
  asked: Pick<PanelQuery, "kpi" | "order" | "reversed" | "top" | "below">,
): Promise<TilesAnswer> {
  const { structure } = workspace;
  const setting: Setting = {
    workspace,
    resolved,
    own: measureFrame(workspace, resolved),
    kinds: (panel.figures ?? DEFAULT_TILE_FIGURES).filter((kind) => !isLarge(kind, resolved)),
  };
  const formulas = new Map([...structure.kpis].map(([key, kpi]) => [key, kpi.definition.formula]));
  const names: FormulaNames = { ...namesOf(structure), kpis: formulas };
  const tileOf = (key: string) => tileKpi(requireKpi(workspace, key), names);
  const repeated = panel.repeatBy && repetition(setting, panel.repeatBy, asked.below ?? null);
  const order = asked.order ?? panel.order;
  const isReversed = asked.reversed === undefined ? panel.isReversed : asked.reversed === "yes";
  const top = repeated ? (asked.top === "all" ? null : (asked.top ?? panel.top)) : null;
  const layer = asked.kpi !== undefined && panel.kpis.includes(asked.kpi) ? asked.kpi : panel.kpis[0]!;
  const subjects: Subject[] = repeated
    ? repeated.members.map((member) => ({ tile: tileOf(layer), member, scope: member.scope }))
    : panel.kpis.map((key) => ({ tile: tileOf(key), member: null, scope: setting.own.scope }));
  const answered = await answerTiles(subjects, setting);
  const facts = answered.map((entry) => entry.facts);
  const tiles = ordered(
    answered.map((entry) => entry.answer),
    order,
    isReversed,
  );
  const apart = top === null ? tiles : tiles.slice(0, top);
  const rest = tiles.slice(apart.length);
  return {
    kind: "tiles",
    frame: resolved.wire,
    message: repeated
      ? memberMessage(`${requireKpi(workspace, layer).definition.name} by ${repeated.level}`, facts)
      : scorecardMessage(facts),
    figures: setting.kinds.map((kind) => ({
      kind,
      name: tileFigureName(
        kind,
        structure.calendar,
        resolved.frame.asOf,
        asOfDay(structure.coverage, resolved.frame.asOf),
      ),
      isPast: isPast(kind),
    })),
    layers: repeated ? panel.kpis.map((key) => ({ key, name: requireKpi(workspace, key).definition.name })) : [],
    repeatedBy: repeated && { dimension: repeated.dimension.key, level: repeated.level, path: repeated.path },
    order,
    isReversed,
    top,
    tiles: apart,
    others:
      repeated && rest.length > 0
        ? { count: rest.length, tile: await othersTile(rest, repeated, tileOf(layer), setting) }
        : null,
  };
}

/** Whether a small figure would repeat the large one, or what it is held against. */
function isLarge(kind: TileFigureKind, { frame: { span, basis } }: ResolvedFrame): boolean {
  return kind === span.kind || (kind === "prior-year" && basis.kind === "prior-year");
}

async function answerTiles(subjects: readonly Subject[], setting: Setting): Promise<AnsweredTile[]> {
  const { workspace, resolved, own, kinds } = setting;
  // Subjects of one scope ask together.
  const byScope = new Map<Scope, TileKpi[]>();
  for (const { scope, tile } of subjects) byScope.set(scope, [...(byScope.get(scope) ?? []), tile]);
  const asks = [...byScope].flatMap(([scope, tiles]) => {
    const within = { ...own, scope };
    const kpis = tiles.map(({ kpi }) => kpi);
    return [
      ...rowAsks(workspace, resolved, kpis, within, PARTS),
      ...tileAsks(tiles, kinds, resolved.frame, within),
    ].map((ask): Ask => ({ ...ask, scope }));
  });
  const context = await readContext(workspace.source, own, asks);
  return subjects.map((subject) => answerTile(subject, { ...context, scope: subject.scope }, setting));
}

function answerTile(
  { tile, member }: Subject,
  context: MeasureContext,
  { workspace, resolved, kinds }: Setting,
): AnsweredTile {
  const { answer: row, facts } = rowAnswer(tile.kpi, PARTS, context, workspace, resolved);
  const tileAnswer: TileAnswer = {
    member: member && wireMember(member),
    row,
    attainment: attainmentOf(row.actual, row.basis),
    figures: kinds.map((kind) => {
      const { figure, variance, note } = tileFigure(kind, tile, resolved.frame, context);
      return { figure, variance, note };
    }),
  };
  return { answer: tileAnswer, facts: { name: member?.name ?? tile.kpi.definition.name, ...facts } };
}

/** Those that do not stand apart, measured together: a rate of them all, not a mean of their rates. */
async function othersTile(
  rest: readonly TileAnswer[],
  { dimension: { key }, members }: Repetition,
  tile: TileKpi,
  setting: Setting,
): Promise<TileAnswer> {
  const keys = new Set(rest.map(({ member }) => member!.key));
  const inside = members.flatMap((member) => (keys.has(member.key) ? member.scope[key]! : []));
  const scope = { ...setting.own.scope, [key]: inside };
  return (await answerTiles([{ tile, member: null, scope }], setting))[0]!.answer;
}

/** The members that tiles are repeated by, and where they stand in their dimension. */
interface Repetition {
  readonly dimension: Dimension;
  readonly members: readonly ShownMember[];
  readonly level: string;
  readonly path: { key: string; name: string }[];
}

function repetition(
  { workspace, resolved, own }: Setting,
  by: NonNullable<TilesPanelDefinition["repeatBy"]>,
  below: string | null,
): Repetition {
  const dimension = resolved.dimensions.find((d) => d.key === by.dimension);
  if (!dimension)
    throw new ProblemError(
      "unknown-scope",
      `These tiles are repeated by "${by.dimension}", which this review does not have. Arrange them anew.`,
    );
  const level = by.level === null ? -1 : dimension.levels.indexOf(by.level);
  const members = memberScopes(workspace, own, dimension, {
    parent: below,
    level: level < 0 ? undefined : level + 1,
  }).slice(0, MAX_TILES);
  const depth = members[0] ? memberDepth(dimension, members[0].key) : below === null ? 1 : 2;
  return {
    dimension,
    members,
    level: (dimension.levels[depth - 1] ?? dimension.name).toLowerCase(),
    path: pathTo(dimension, below),
  };
}

function pathTo(dimension: Dimension, key: string | null): { key: string; name: string }[] {
  const member = dimension.members.find((m) => m.key === key);
  return member ? [...pathTo(dimension, member.parent), { key: member.key, name: member.name }] : [];
}

/** Tiles in an order, the highest or the best first; those without a figure to go by stay behind, in the order they are set in. */
function ordered(tiles: readonly TileAnswer[], order: TileOrder, isReversed: boolean): TileAnswer[] {
  if (order === "set") return isReversed ? tiles.toReversed() : [...tiles];
  const key = ({ row, attainment }: TileAnswer): number | null => {
    if (order === "attainment") return attainmentRank(attainment, row.kpi.direction);
    const figure = order === "value" ? row.actual : row.variance.delta;
    if (!isPresent(figure)) return null;
    return order === "variance" && row.kpi.direction === "lower" ? -figure.value : figure.value;
  };
  const keyed = tiles.map((tile) => ({ tile, at: key(tile) }));
  const sign = isReversed ? 1 : -1;
  return [
    ...keyed
      .filter((entry): entry is { tile: TileAnswer; at: number } => entry.at !== null)
      .sort((a, b) => sign * (a.at - b.at)),
    ...keyed.filter((entry) => entry.at === null),
  ].map(({ tile }) => tile);
}
