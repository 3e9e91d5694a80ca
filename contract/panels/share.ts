import { z } from "zod";
import { SHARE_OF, SHARE_SHAPES } from "#core/panels/share/definition.ts";
import { figureSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "./parts.ts";

const definition = z.object({
  ...panelBase,
  kind: z.literal("share"),
  kpi: z.string().max(60),
  by: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  of: z.enum(SHARE_OF),
  shape: z.enum(SHARE_SHAPES),
});

export const share = panelContract({
  form: 1,
  size: { w: 10, h: 40 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    of: z.enum(SHARE_OF).optional(),
    below: z.string().max(200).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("share"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    of: z.enum(SHARE_OF),
    shape: z.enum(SHARE_SHAPES),
    noun: z.string(),
    dimension: z.string(),
    path: z.array(z.object({ key: z.string(), name: z.string() })).readonly(),
    parts: z
      .array(
        z.object({
          member: shownMemberSchema.nullable(),
          name: z.string(),
          row: kpiRowSchema,
          share: figureSchema,
          left: z.string(),
          at: z.number().nullable(),
        }),
      )
      .readonly(),
    whole: kpiRowSchema,
    refusal: z.string().nullable(),
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, by }) => ({ kpis: [kpi], dimensions: [{ key: by.dimension, level: by.level }] }),
  splitsBy: ({ by }) => [by.dimension],
  migrations: [],
});
