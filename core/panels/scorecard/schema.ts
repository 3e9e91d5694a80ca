import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { kpiRowSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a scorecard can show of each KPI, in the order in which columns begin. */
export const SCORECARD_COLUMNS = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "growth",
  "to-date",
  "to-date-delta",
  "outlook",
  "outlook-delta",
  "trend",
  "words",
] as const;

export type ScorecardColumn = (typeof SCORECARD_COLUMNS)[number];

/** What is shown where nothing else is said: fit for most scorecards as it is. */
export const DEFAULT_COLUMNS: readonly ScorecardColumn[] = [
  "actual",
  "basis",
  "delta",
  "delta-percent",
  "status",
  "prior-year",
  "trend",
];

const columnsSchema = z.array(z.enum(SCORECARD_COLUMNS)).min(1).max(SCORECARD_COLUMNS.length).readonly();

const definition = z.object({
  ...panelBase,
  kind: z.literal("scorecard"),
  groups: z
    .array(z.object({ title: z.string().max(120), kpis: z.array(z.string().max(60)).max(200).readonly() }))
    .max(60)
    .readonly(),
  columns: columnsSchema.optional(),
  /** Whether months outside of what was expected are marked. */
  marksOutside: z.boolean().optional(),
  /** The dimension whose members a row opens into; the company's first where nothing is said. */
  expandBy: z.string().max(100).optional(),
});

/** How many rows of a page its head, a group's name and a KPI take. */
const HEAD_ROWS = 16;
const GROUP_ROWS = 2;
const KPI_ROWS = 4;

export const scorecardSchema = panelSchemaOf({
  name: "a scorecard",
  form: 1,
  size: { w: 24, h: 60 },
  sizeOf: ({ groups }) => {
    const rows = groups.reduce((sum, { kpis }) => sum + kpis.length, 0);
    return { w: 24, h: Math.min(120, HEAD_ROWS + groups.length * GROUP_ROWS + rows * KPI_ROWS) };
  },
  definition,
  choice: z.object({ ...panelChoice }),
  answer: z.object({
    kind: z.literal("scorecard"),
    frame: frameSchema,
    message: z.string(),
    columns: columnsSchema,
    /** What a row opens into; `null` where there is no dimension. */
    expandBy: z.object({ key: z.string(), name: z.string(), plural: z.string() }).nullable(),
    groups: z.array(z.object({ title: z.string(), rows: z.array(kpiRowSchema).readonly() })).readonly(),
  }),
  refersTo: ({ groups, expandBy }) => ({
    kpis: groups.flatMap((group) => group.kpis),
    ...(expandBy === undefined ? {} : { dimensions: [{ key: expandBy, level: null }] }),
  }),
  hasOpenRows: true,
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => ({
    fitness: kpis.length > 1 ? 0.85 : 0.3,
    panel: {
      key: ATTEMPT_KEY,
      kind: "scorecard",
      groups: [{ title: "KPIs", kpis }],
      ...(split ? { expandBy: split.dimension } : {}),
    },
  }),
  migrations: [],
  /** One KPI's row by the members of a dimension: the top ones, or those below one. */
  detail: {
    query: z.object({ kpi: z.string().max(100), parent: z.string().max(100).optional() }),
    answer: z.object({
      frame: frameSchema,
      rows: z.array(z.object({ member: shownMemberSchema, row: kpiRowSchema })).readonly(),
    }),
  },
});

/** A scorecard: KPIs by row, in groups; columns in an order. */
export type ScorecardDefinition = z.infer<(typeof scorecardSchema)["definition"]>;

/** A scorecard's figures in a frame. */
export type ScorecardAnswer = z.infer<(typeof scorecardSchema)["answer"]>;
