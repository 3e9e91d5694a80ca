import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema, varianceSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema } from "../parts/schema.ts";

/** The sources that are compared where nothing is said, beside the latest forecast. */
export const USUAL_SOURCES = ["latest", "model", "budget", "run-rate", "prior-year"] as const;

export const MOST_SOURCES = 10;

const definition = z.object({
  ...panelBase,
  kind: z.literal("outlook"),
  kpi: z.string().max(60),
  /** The sources, by their keys; the usual ones where nothing is said. */
  sources: z.array(z.string().max(80)).min(1).max(MOST_SOURCES).readonly().optional(),
});

export const outlookSchema = panelSchemaOf({
  name: "outlook",
  form: 1,
  size: { w: 14, h: 42 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("outlook"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    toDate: figureSchema,
    /** The months closed: "April–October FY27", with their key "2026-04..2026-10"; `null` before the first. */
    closed: z.object({ name: z.string(), months: z.string() }).nullable(),
    monthsLeft: z.number(),
    basis: figureSchema,
    basisName: z.string(),
    /** What is missing to the basis in each month that is left, and what such a month brought so far and a year before. */
    gap: z
      .object({
        /** In each of them, spread evenly. */
        needed: figureSchema,
        /** In each, as prior years spread over the same months; none where no prior year tells. */
        bySeason: z.array(z.object({ month: z.string(), name: z.string(), needed: figureSchema })).readonly(),
        /** The mean of the months that are closed. */
        soFar: figureSchema,
        /** The mean of the same months a year before. */
        yearBefore: figureSchema,
        words: z.string(),
      })
      .nullable(),
    rows: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          figure: figureSchema,
          /** What the remaining months bring; absent where the KPI does not add up over months. */
          rest: figureSchema,
          variance: varianceSchema,
          note: z.string(),
          /** Whether the page's own outlook is of this source. */
          isTaken: z.boolean(),
        }),
      )
      .readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi], dimensions: [] }),
  splitsBy: () => [],
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length > 1 || split)
      return { unfit: "An outlook shows one KPI without a split: remove the other KPIs or the split." };
    return { fitness: 0.45, panel: { key: ATTEMPT_KEY, kind: "outlook", kpi: kpis[0]! } };
  },
  migrations: [],
});

/** Where a KPI ends the year, by every source that can tell, side by side. */
export type OutlookDefinition = z.infer<(typeof outlookSchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type OutlookChoice = z.infer<(typeof outlookSchema)["choice"]>;

/** Where a KPI ends the year, by every source, and what is missing to the basis. */
export type OutlookAnswer = z.infer<(typeof outlookSchema)["answer"]>;

/** The year's end by one source. */
export type OutlookRow = OutlookAnswer["rows"][number];

/** What the months that are left have to bring, or may take, for the year to end at its basis. */
export type OutlookGap = NonNullable<OutlookAnswer["gap"]>;
