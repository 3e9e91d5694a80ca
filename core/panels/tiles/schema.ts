import { ATTEMPT_KEY, ARRANGED, type Fit } from "../attempt.ts";
import { z } from "zod";
import { MOST_MEMBERS, REPEAT_ORDERS } from "../parts/repetition.ts";
import { TILE_FIGURES } from "./figure-kinds.ts";
import { figureSchema, varianceSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { kpiRowSchema, shownMemberSchema } from "../parts/schema.ts";
import type { TileFigureKind } from "./figure-kinds.ts";

/** What tiles show small where nothing else is said. */
export const DEFAULT_TILE_FIGURES: readonly TileFigureKind[] = ["month", "year-to-date", "prior-year", "run-rate-year"];

/** More tiles than this in a row are too narrow for their figures. */
export const MOST_IN_ROW = 8;

const named = z.object({ key: z.string(), name: z.string() });
const orderSchema = z.enum(REPEAT_ORDERS);

const tileSchema = z.object({
  /** `null` where the tile is of the whole scope. */
  member: shownMemberSchema.nullable(),
  row: kpiRowSchema,
  /** The KPI that stands beside it; `null` where there is none, or it is the same. */
  second: kpiRowSchema.pick({ kpi: true, actual: true, basisName: true, variance: true, words: true }).nullable(),
  /** In the order of the answer's `figures`. */
  figures: z.array(z.object({ figure: figureSchema, variance: varianceSchema, note: z.string() })).readonly(),
});

const definition = z.object({
  ...panelBase,
  kind: z.literal("tiles"),
  kpis: z.array(z.string().max(60)).min(1).max(MOST_MEMBERS).readonly(),
  figures: z.array(z.enum(TILE_FIGURES)).max(TILE_FIGURES.length).readonly().optional(),
  /** A KPI that each tile has besides its own, over the same span and scope. */
  second: z.string().max(60).optional(),
  /** How many tiles stand in a row where there is room; as many as fit where nothing is said. */
  perRow: z.number().int().min(1).max(MOST_IN_ROW).optional(),
  /** Whether months outside of what was expected are marked. */
  marksOutside: z.boolean().optional(),
  repeatBy: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }).nullable(),
  order: orderSchema,
  /** Whether the order is turned round: the lowest, the worst, the last first. */
  isReversed: z.boolean(),
  /** How many members stand apart; the others are gathered in one tile. `null`: all. */
  top: z.number().int().min(1).max(MOST_MEMBERS).nullable(),
});

/** So many tiles stand beside each other on a page's width. */
const USUAL_PER_ROW = 4;

export const tilesSchema = panelSchemaOf({
  name: "tiles",
  form: 1,
  size: { w: 24, h: 32 },
  // Members are counted by the answer only.
  sizeOf: ({ kpis, repeatBy, perRow = USUAL_PER_ROW }) =>
    repeatBy === null ? { w: 24, h: 4 + 18 * Math.ceil(kpis.length / perRow) } : { w: 24, h: 32 },
  definition,
  choice: z.object({
    ...panelChoice,
    /** The layer that is shown. */
    kpi: z.string().max(100).optional(),
    order: orderSchema.optional(),
    reversed: z.enum(["yes", "no"]).optional(),
    top: z.union([z.literal("all"), z.coerce.number().int().min(1).max(MOST_MEMBERS)]).optional(),
    /** The member below which the reader looks. */
    below: z.string().max(200).optional(),
  }),
  answer: z.object({
    kind: z.literal("tiles"),
    frame: frameSchema,
    message: z.string(),
    /** What the small figures are of, and whether each is the past that the actual is held against. */
    figures: z.array(z.object({ kind: z.enum(TILE_FIGURES), name: z.string(), isPast: z.boolean() })).readonly(),
    /** What can be shown of each member; empty where tiles are not repeated. */
    layers: z.array(named).readonly(),
    repeatedBy: z.object({ dimension: z.string(), level: z.string(), path: z.array(named).readonly() }).nullable(),
    order: orderSchema,
    isReversed: z.boolean(),
    top: z.number().nullable(),
    tiles: z.array(tileSchema).readonly(),
    /** The members that do not stand apart, in one. */
    others: z.object({ count: z.number(), tile: tileSchema }).nullable(),
  }),
  refersTo: ({ kpis, second, repeatBy }) => ({
    kpis: second === undefined || kpis.includes(second) ? kpis : [...kpis, second],
    ...(repeatBy ? { dimensions: [{ key: repeatBy.dimension, level: repeatBy.level }] } : {}),
  }),
  splitsBy: ({ repeatBy }) => (repeatBy ? [repeatBy.dimension] : []),
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => ({
    fitness: split ? 0.7 : 0.5,
    panel: { key: ATTEMPT_KEY, kind: "tiles", kpis, repeatBy: split, ...ARRANGED, order: split ? "value" : "set" },
  }),
  migrations: [],
});

/**
 * KPIs as tiles: one large figure each, with small ones. Repeated by a dimension there is a
 * tile for each member, and the KPIs are layers of which one is shown at a time.
 */
export type TilesDefinition = z.infer<(typeof tilesSchema)["definition"]>;

/** What a reader can choose of tiles, as an address has it. */
export type TilesChoice = z.infer<(typeof tilesSchema)["choice"]>;

/** Tiles' figures in a frame: one for each KPI, or one KPI (the layer) by the members of a dimension. */
export type TilesAnswer = z.infer<(typeof tilesSchema)["answer"]>;

export type TileAnswer = TilesAnswer["tiles"][number];
