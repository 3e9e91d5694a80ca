import { z } from "zod";
import { MOST_MEMBERS, REPEAT_ORDERS } from "#core/panels/parts/repetition.ts";
import { MOST_IN_ROW } from "#core/panels/tiles/definition.ts";
import { TILE_FIGURES } from "#core/panels/tiles/figure-kinds.ts";
import { figureSchema, varianceSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { kpiRowSchema, shownMemberSchema } from "./parts.ts";

const named = z.object({ key: z.string(), name: z.string() });
const orderSchema = z.enum(REPEAT_ORDERS);

const tileSchema = z.object({
  /** `null` where the tile is of the whole scope. */
  member: shownMemberSchema.nullable(),
  row: kpiRowSchema,
  second: kpiRowSchema.pick({ kpi: true, actual: true, basisName: true, variance: true, words: true }).nullable(),
  figures: z.array(z.object({ figure: figureSchema, variance: varianceSchema, note: z.string() })).readonly(),
});

const definition = z.object({
  ...panelBase,
  kind: z.literal("tiles"),
  kpis: z.array(z.string().max(60)).min(1).max(MOST_MEMBERS).readonly(),
  figures: z.array(z.enum(TILE_FIGURES)).max(TILE_FIGURES.length).readonly().optional(),
  second: z.string().max(60).optional(),
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

export const tiles = panelContract({
  form: 1,
  size: { w: 24, h: 32 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    order: orderSchema.optional(),
    reversed: z.enum(["yes", "no"]).optional(),
    top: z.union([z.literal("all"), z.coerce.number().int().min(1).max(MOST_MEMBERS)]).optional(),
    below: z.string().max(200).optional(),
  }),
  answer: z.object({
    kind: z.literal("tiles"),
    frame: frameSchema,
    message: z.string(),
    figures: z.array(z.object({ kind: z.enum(TILE_FIGURES), name: z.string(), isPast: z.boolean() })).readonly(),
    layers: z.array(named).readonly(),
    repeatedBy: z.object({ dimension: z.string(), level: z.string(), path: z.array(named).readonly() }).nullable(),
    order: orderSchema,
    isReversed: z.boolean(),
    top: z.number().nullable(),
    tiles: z.array(tileSchema).readonly(),
    others: z.object({ count: z.number(), tile: tileSchema }).nullable(),
  }),
  refersTo: ({ kpis, second, repeatBy }) => ({
    kpis: second === undefined || kpis.includes(second) ? kpis : [...kpis, second],
    ...(repeatBy ? { dimensions: [{ key: repeatBy.dimension, level: repeatBy.level }] } : {}),
  }),
  splitsBy: ({ repeatBy }) => (repeatBy ? [repeatBy.dimension] : []),
  migrations: [],
});
