import { z } from "zod";
import {
  CROSS_GRAINS,
  CROSS_MEASURES,
  CROSS_SHADES,
  MOST_CROSS_KPIS,
  MOST_CROSS_PERIODS,
  MOST_DEEP,
} from "#core/panels/cross-tab/definition.ts";
import { frameSchema, scopeSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "./parts.ts";

const axisSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("member"),
    dimension: z.string().max(100),
    level: z.string().max(100).nullable(),
    /** Whether the total over its members is shown. */
    hasTotal: z.boolean(),
  }),
  z.object({ kind: z.literal("period"), grain: z.enum(CROSS_GRAINS), hasTotal: z.boolean() }),
  z.object({ kind: z.literal("scenario") }),
  z.object({ kind: z.literal("kpi") }),
]);

const measureSchema = z.enum(CROSS_MEASURES);
const shadeSchema = z.enum(CROSS_SHADES);
const sortSchema = z.object({ column: z.string().max(700), measure: measureSchema, isRising: z.boolean() });

const definition = z.object({
  ...panelBase,
  kind: z.literal("cross-tab"),
  /** All of them are shown where a side is by KPI; else the first, until the reader chooses another. */
  kpis: z.array(z.string().max(60)).min(1).max(MOST_CROSS_KPIS).readonly(),
  rows: z.array(axisSchema).min(1).max(MOST_DEEP).readonly(),
  columns: z.array(axisSchema).max(MOST_DEEP).readonly(),
  measures: z.array(measureSchema).max(CROSS_MEASURES.length).readonly(),
  shade: shadeSchema,
  /** How many periods a side by period shows; those of the frame's span where nothing is said. */
  last: z.number().int().min(1).max(MOST_CROSS_PERIODS).optional(),
  sort: sortSchema.optional(),
});

const sideSchema = z.object({
  axes: z
    .array(
      z.object({
        kind: z.enum(["member", "period", "scenario", "kpi"]),
        noun: z.string(),
        dimension: z.string().nullable(),
        totalName: z.string().nullable(),
        hasTotal: z.boolean(),
        entries: z
          .array(
            z.object({
              key: z.string(),
              name: z.string(),
              member: shownMemberSchema.nullable(),
              kpi: z.string().nullable(),
              scenario: z.string().nullable(),
              months: z.string().nullable(),
            }),
          )
          .readonly(),
      }),
    )
    .readonly(),
  /** Each line by the places of its entries on the axes; `null` is a total. */
  lines: z.array(z.array(z.number().nullable()).readonly()).readonly(),
});

const figuresSchema = z.object({
  values: z.array(z.number().nullable()).readonly(),
  why: z.array(z.number()).readonly().nullable(),
});

export const crossTab = panelContract({
  form: 1,
  size: { w: 24, h: 60 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    shade: shadeSchema.optional(),
    sort: z.string().max(800).optional(),
    below: z.string().max(200).optional(),
  }),
  answer: z.object({
    kind: z.literal("cross-tab"),
    frame: frameSchema,
    headline: z.string(),
    descriptor: z.string(),
    layers: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    kpis: z.array(kpiHeadSchema).readonly(),
    basisName: z.string(),
    months: z.string().nullable(),
    scope: scopeSchema.nullable(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    measures: z.array(measureSchema).readonly(),
    shade: shadeSchema,
    sort: sortSchema.nullable(),
    rows: sideSchema,
    columns: sideSchema,
    /** Column by column, each measure down all rows. */
    cells: z
      .array(
        z.object({
          figures: z.partialRecord(measureSchema, figuresSchema),
          tolerances: z.array(z.number().nullable()).readonly(),
        }),
      )
      .readonly(),
    reasons: z.array(z.string()).readonly(),
    refusal: z.string().nullable(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpis, rows, columns }) => ({
    kpis,
    dimensions: [...rows, ...columns].flatMap((axis) =>
      axis.kind === "member" ? [{ key: axis.dimension, level: axis.level }] : [],
    ),
  }),
  splitsBy: ({ rows, columns }) =>
    [...rows, ...columns].flatMap((axis) => (axis.kind === "member" ? [axis.dimension] : [])),
  migrations: [],
});
