import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { frameSchema, scopeSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, shownMemberSchema } from "../parts/schema.ts";

/** How finely a cross-tab tells time. */
export const CROSS_GRAINS = ["month", "quarter", "year"] as const;

export type CrossGrain = (typeof CROSS_GRAINS)[number];

/** What is said of each place where a row and a column meet. */
export const CROSS_MEASURES = [
  "value",
  "basis",
  "delta",
  "delta-percent",
  "share-of-row",
  "share-of-column",
  "share-of-total",
  "rank",
] as const;

export type CrossMeasure = (typeof CROSS_MEASURES)[number];

/** What the cells' shade tells. */
export const CROSS_SHADES = ["none", "value", "judgement"] as const;

export type CrossShade = (typeof CROSS_SHADES)[number];

/** Sides are nested at most so deep. */
export const MOST_DEEP = 3;

/** A table has at most so many lines and so many columns, before those without figures are left out. */
export const MOST_LINES = 20_000;

export const MOST_COLUMNS = 120;

/** So many figures are measured at most. */
export const MOST_CELLS = 60_000;

export const MOST_CROSS_KPIS = 20;

export const MOST_CROSS_PERIODS = 120;

/** Whether what stands along an axis has a total. */
export function hasTotals(axis: CrossAxis): axis is Extract<CrossAxis, { readonly hasTotal: boolean }> {
  return axis.kind === "member" || axis.kind === "period";
}

/** A sorting as an address has it. */
export function writeSort({ column, measure, isRising }: CrossSort): string {
  return [column, measure, isRising ? "up" : "down"].join("~");
}

/** Reads what `writeSort` writes; `undefined` for anything else. */
export function readSort(text: string): CrossSort | undefined {
  const [column, measure, way, ...rest] = text.split("~");
  const known = CROSS_MEASURES.find((one) => one === measure);
  if (column === undefined || !known || rest.length > 0 || (way !== "up" && way !== "down")) return undefined;
  return { column, measure: known, isRising: way === "up" };
}

/** Whether anything of a cross-tab is compared. */
export function isComparing({ measures, shade }: Pick<CrossTabDefinition, "measures" | "shade">): boolean {
  return shade === "judgement" || measures.some((own) => own === "basis" || own === "delta" || own === "delta-percent");
}

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
              /** The months it is of, as an address writes them. */
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

export const crossTabSchema = panelSchemaOf({
  name: "a cross-tab",
  form: 1,
  size: { w: 24, h: 60 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    shade: shadeSchema.optional(),
    /** "set", or a column, a measure and "up" or "down", as `writeSort` joins them. */
    sort: z.string().max(800).optional(),
    /** A member of the outermost axis of members that the rows stand below. */
    below: z.string().max(200).optional(),
  }),
  answer: z.object({
    kind: z.literal("cross-tab"),
    frame: frameSchema,
    headline: z.string(),
    descriptor: z.string(),
    /** The KPIs that can be shown in turn; empty where all are shown. */
    layers: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    kpis: z.array(kpiHeadSchema).readonly(),
    basisName: z.string(),
    months: z.string().nullable(),
    /** What all rows together are of, where that is not the frame's scope. */
    scope: scopeSchema.nullable(),
    /** The members the reader went down through, from the top. */
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
          /** By how many whole tolerances Δ is off, row by row; `null` where nothing is compared. */
          tolerances: z.array(z.number().nullable()).readonly(),
        }),
      )
      .readonly(),
    /** Why values are absent, each reason once. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => ({
    fitness: 0.58,
    panel: {
      key: ATTEMPT_KEY,
      kind: "cross-tab",
      kpis,
      rows: split ? [{ kind: "member", ...split, hasTotal: true }] : [{ kind: "kpi" }],
      columns: split && kpis.length > 1 ? [{ kind: "kpi" }] : [{ kind: "period", grain: "month", hasTotal: true }],
      measures: ["value"],
      shade: "none",
    },
  }),
  migrations: [],
});

/** The figures, exactly: any of dimensions, KPIs, scenarios and periods down the side and along the top. */
export type CrossTabDefinition = z.infer<(typeof crossTabSchema)["definition"]>;

/** What a reader can choose of a cross-tab, as an address has it. */
export type CrossTabChoice = z.infer<(typeof crossTabSchema)["choice"]>;

/** What one depth of a side is by; members and periods have a total, scenarios and KPIs do not add up. */
export type CrossAxis = CrossTabDefinition["rows"][number];

/** The order of the rows by one column: which, by its places joined as `columnKey` does, which measure of it, which way. */
export type CrossSort = NonNullable<CrossTabDefinition["sort"]>;

/** Any figures, exactly: rows by columns. Columns are kept whole, so that many rows stay small. */
export type CrossTabAnswer = z.infer<(typeof crossTabSchema)["answer"]>;

/** A side of a cross-tab: its axes from the outermost, and its lines by the places of their entries; `null` is a total. */
export type CrossSide = CrossTabAnswer["rows"];

/** A column's figures, measure by measure. */
export type CrossColumn = CrossTabAnswer["cells"][number];

/** One place along an axis; what it is not of is `null`. */
export type CrossEntry = CrossTabAnswer["rows"]["axes"][number]["entries"][number];
