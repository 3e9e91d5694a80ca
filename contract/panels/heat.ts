import { z } from "zod";
import { HEAT_SHADES, MOST_YEARS } from "#core/panels/heat/definition.ts";
import { figureSchema, varianceSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { chartBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const axisSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("member"), dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  z.object({ kind: z.literal("month") }),
  z.object({ kind: z.literal("weekday") }),
  z.object({ kind: z.literal("year") }),
]);

const shadeSchema = z.enum(HEAT_SHADES);

const definition = z.object({
  ...chartBase,
  kind: z.literal("heat"),
  kpi: z.string().max(60),
  rows: axisSchema,
  columns: axisSchema,
  /** What a cell's shade tells. */
  shade: shadeSchema,
  /** How many fiscal years it reaches back, the as-of month's included. */
  years: z.number().int().min(1).max(MOST_YEARS),
  hasLabels: z.boolean().optional(),
});

const sideSchema = z.object({
  entries: z.array(z.object({ key: z.string(), name: z.string(), member: shownMemberSchema.nullable() })).readonly(),
  noun: z.string(),
  dimension: z.string().nullable(),
});

export const heat = panelContract({
  form: 1,
  size: { w: 12, h: 44 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    shade: shadeSchema.optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("heat"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    basisName: z.string(),
    shade: shadeSchema,
    rows: sideSchema,
    columns: sideSchema,
    cells: z
      .array(
        z.array(z.object({ actual: figureSchema, variance: varianceSchema, months: z.string().nullable() })).readonly(),
      )
      .readonly(),
    refusal: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, rows, columns }) => ({
    kpis: [kpi],
    dimensions: [rows, columns].flatMap((axis) =>
      axis.kind === "member" ? [{ key: axis.dimension, level: axis.level }] : [],
    ),
  }),
  splitsBy: ({ rows, columns }) => [rows, columns].flatMap((axis) => (axis.kind === "member" ? [axis.dimension] : [])),
  migrations: [],
});
