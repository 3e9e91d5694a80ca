import { z } from "zod";
import { MOST_POINTS, QUADRANTS, SCATTER_GRAINS } from "#core/panels/scatter/definition.ts";
import { figureSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, fittedLineSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const kpi = z.string().max(60);

const definition = z.object({
  ...chartBase,
  kind: z.literal("scatter"),
  x: kpi,
  y: kpi,
  /** The KPI that decides how large a point is. */
  size: kpi.nullable(),
  by: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("member"), dimension: z.string().max(100), level: z.string().max(100).nullable() }),
    z.object({
      kind: z.literal("period"),
      grain: z.enum(SCATTER_GRAINS),
      last: z.number().int().min(3).max(MOST_POINTS),
    }),
  ]),
  /** Where lines part the plot in four. */
  quadrants: z.enum(QUADRANTS),
  hasLine: z.boolean(),
});

export const scatter = panelContract({
  form: 1,
  size: { w: 12, h: 52 },
  definition,
  choice: z.object({
    ...panelChoice,
    below: z.string().max(200).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("scatter"),
    frame: frameSchema,
    x: kpiHeadSchema,
    y: kpiHeadSchema,
    size: kpiHeadSchema.nullable(),
    headline: z.string(),
    descriptor: z.string(),
    noun: z.string(),
    dimension: z.string().nullable(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    points: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          member: shownMemberSchema.nullable(),
          months: z.string().nullable(),
          x: figureSchema,
          y: figureSchema,
          size: figureSchema.nullable(),
        }),
      )
      .readonly(),
    line: fittedLineSchema.nullable(),
    quadrants: z.object({ x: z.number(), y: z.number(), at: z.string() }).nullable(),
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ x, y, size, by }) => ({
    kpis: [x, y, ...(size === null ? [] : [size])],
    dimensions: by.kind === "member" ? [{ key: by.dimension, level: by.level }] : [],
  }),
  splitsBy: ({ by }) => (by.kind === "member" ? [by.dimension] : []),
  migrations: [],
});
