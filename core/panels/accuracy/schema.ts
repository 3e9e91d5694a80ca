import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema } from "../parts/schema.ts";

/** As many months ahead are told apart. */
export const MOST_AHEAD = 12;

const definition = z.object({ ...panelBase, kind: z.literal("accuracy"), kpi: z.string().max(60) });

export const accuracySchema = panelSchemaOf({
  name: "accuracy of versions",
  form: 1,
  size: { w: 14, h: 34 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    /** Only months that every version can be judged by; where nothing is said, if there are such. */
    alike: z.enum(["on", "off"]).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("accuracy"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    /** Whether all are judged by the months that they have in common. */
    isAlike: z.boolean(),
    rows: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          note: z.string(),
          isForecast: z.boolean(),
          over: z.object({ name: z.string(), months: z.string() }).nullable(),
          months: z.number(),
          bias: z.number().nullable(),
          mae: z.number().nullable(),
          share: z.number().nullable(),
          byAhead: z
            .array(z.object({ ahead: z.number(), months: z.number(), share: z.number().nullable(), bias: z.number() }))
            .readonly(),
        }),
      )
      .readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi], dimensions: [] }),
  splitsBy: () => [],
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (kpis.length > 1 || split)
      return { unfit: "Accuracy shows one KPI without a split: remove the other KPIs or the split." };
    return { fitness: 0.3, panel: { key: ATTEMPT_KEY, kind: "accuracy", kpi: kpis[0]! } };
  },
  migrations: [],
});

/** How right the versions of a forecast were, beside the budget and the prior year. */
export type AccuracyDefinition = z.infer<(typeof accuracySchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type AccuracyChoice = z.infer<(typeof accuracySchema)["choice"]>;

/** How right the versions of a KPI's forecast were. */
export type AccuracyAnswer = z.infer<(typeof accuracySchema)["answer"]>;

/** A version with how right it was. */
export type AccuracyRow = AccuracyAnswer["rows"][number];
