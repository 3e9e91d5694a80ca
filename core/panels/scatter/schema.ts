import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { chartBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";
import { fittedLineSchema } from "../../statistics/schema.ts";

/** Where lines part the plot in four. */
export const QUADRANTS = ["none", "average", "basis"] as const;

export type Quadrants = (typeof QUADRANTS)[number];

export const SCATTER_GRAINS = ["month", "quarter", "year"] as const;

export const MOST_POINTS = 200;

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

export const scatterSchema = panelSchemaOf({
  name: "a scatter",
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
    /** What a point is called: "route", "month". */
    noun: z.string(),
    dimension: z.string().nullable(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    /** Those that have both. */
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
    /** Where the plot is parted, and at what. */
    quadrants: z.object({ x: z.number(), y: z.number(), at: z.string() }).nullable(),
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ x, y, size, by }) => ({
    kpis: [x, y, ...(size === null ? [] : [size])],
    dimensions: by.kind === "member" ? [{ key: by.dimension, level: by.level }] : [],
  }),
  splitsBy: ({ by }) => (by.kind === "member" ? [by.dimension] : []),
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length < 2 || kpis.length > 3)
      return { unfit: "A scatter sets two KPIs against each other, and may size by a third: choose two or three." };
    return {
      fitness: split ? 0.9 : 0.8,
      panel: {
        key: ATTEMPT_KEY,
        kind: "scatter",
        x: kpis[0]!,
        y: kpis[1]!,
        size: kpis[2] ?? null,
        by: split ? { kind: "member", ...split } : { kind: "period", grain: "month", last: 24 },
        quadrants: "average",
        hasLine: true,
      },
    };
  },
  migrations: [],
});

/** Whether two KPIs go together, by member or by period. */
export type ScatterDefinition = z.infer<(typeof scatterSchema)["definition"]>;

/** What a reader can choose of a scatter, as an address has it. */
export type ScatterChoice = z.infer<(typeof scatterSchema)["choice"]>;

/** What each point is: a member, or a period. */
export type ScatterBy = ScatterDefinition["by"];

/** Two KPIs against each other. */
export type ScatterAnswer = z.infer<(typeof scatterSchema)["answer"]>;

/** A member or a period by its two KPIs. */
export type ScatterPoint = ScatterAnswer["points"][number];
