import { z } from "zod";
import { MOST_SOURCES } from "#core/panels/outlook/definition.ts";
import { figureSchema, varianceSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema } from "./parts.ts";

const definition = z.object({
  ...panelBase,
  kind: z.literal("outlook"),
  kpi: z.string().max(60),
  /** The sources, by their keys; the usual ones where nothing is said. */
  sources: z.array(z.string().max(80)).min(1).max(MOST_SOURCES).readonly().optional(),
});

export const outlook = panelContract({
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
    closed: z.object({ name: z.string(), months: z.string() }).nullable(),
    monthsLeft: z.number(),
    basis: figureSchema,
    basisName: z.string(),
    gap: z
      .object({
        needed: figureSchema,
        bySeason: z.array(z.object({ month: z.string(), name: z.string(), needed: figureSchema })).readonly(),
        soFar: figureSchema,
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
          rest: figureSchema,
          variance: varianceSchema,
          note: z.string(),
          isTaken: z.boolean(),
        }),
      )
      .readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi }) => ({ kpis: [kpi], dimensions: [] }),
  splitsBy: () => [],
  migrations: [],
});
