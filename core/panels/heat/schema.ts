import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema, varianceSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a cell's shade tells. */
export const HEAT_SHADES = ["value", "delta-percent", "judgement"] as const;

export type HeatShade = (typeof HEAT_SHADES)[number];

/** At most so many members stand along a side. */
export const MOST_ALONG = 60;

export const MOST_YEARS = 12;

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
  /** What a place along it is called: "vessel", "month". */
  noun: z.string(),
  dimension: z.string().nullable(),
});

export const heatSchema = panelSchemaOf({
  name: "a heat grid",
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
    /** Row by row. */
    cells: z
      .array(
        z
          .array(
            z.object({
              actual: figureSchema,
              variance:
                varianceSchema /** The months it is of, as an address writes them; `null` where it is of single days. */,
              months: z.string().nullable(),
            }),
          )
          .readonly(),
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (!split) return { unfit: "A heat grid needs members on one side: choose a dimension to split by." };
    if (kpis.length > 1) return { unfit: "A heat grid shows one KPI: choose one of them." };
    return {
      fitness: 0.72,
      panel: {
        key: ATTEMPT_KEY,
        kind: "heat",
        kpi: kpis[0]!,
        rows: { kind: "member", ...split },
        columns: { kind: "month" },
        shade: "value",
        years: 1,
      },
    };
  },
  migrations: [],
});

/** A KPI by two of member, month, weekday and year, as shaded cells. */
export type HeatDefinition = z.infer<(typeof heatSchema)["definition"]>;

/** What a reader can choose of a heat grid, as an address has it. */
export type HeatChoice = z.infer<(typeof heatSchema)["choice"]>;

/** What stands along one side of a heat grid. */
export type HeatAxis = HeatDefinition["rows"];

/** A KPI by two of member, month, weekday and year. */
export type HeatAnswer = z.infer<(typeof heatSchema)["answer"]>;

/** A cell: the KPI where a row and a column meet. */
export type HeatCell = HeatAnswer["cells"][number][number];

/** A side of a grid. */
export type HeatSide = HeatAnswer["rows"];
