import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a part is measured by: the whole that all make together, or what it is to reach itself. */
export const SHARE_OF = ["whole", "basis"] as const;

export type ShareOf = (typeof SHARE_OF)[number];

/** A ring, or a straight ruler; of attainment, rings or bars one by one. */
export const SHARE_SHAPES = ["ring", "ruler"] as const;

export type ShareShape = (typeof SHARE_SHAPES)[number];

/** Parts beyond this many are gathered: nobody tells more of them apart. */
export const MOST_SHARES = 7;

const definition = z.object({
  ...panelBase,
  kind: z.literal("share"),
  kpi: z.string().max(60),
  by: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  of: z.enum(SHARE_OF),
  shape: z.enum(SHARE_SHAPES),
});

export const shareSchema = panelSchemaOf({
  name: "shares",
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
          /** `null` where it is of several members together. */
          member: shownMemberSchema.nullable(),
          name: z.string(),
          row: kpiRowSchema,
          /** Of the whole, as a fraction. */
          share: figureSchema,
          /** What is left to the basis, in words: "€ 120k left to Budget". */
          left: z.string(),
          /** Its place among all of its level, so that it keeps its colour from panel to panel; `null` for what is gathered. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (!split) return { unfit: "Shares need members: choose a dimension to split by." };
    if (kpis.length > 1) return { unfit: "Shares show one KPI: choose one of them." };
    return {
      fitness: 0.65,
      panel: { key: ATTEMPT_KEY, kind: "share", kpi: kpis[0]!, by: split, of: "whole", shape: "ring" },
    };
  },
  migrations: [],
});

/** How a KPI is made up, or how far its members are to what they are to reach. */
export type ShareDefinition = z.infer<(typeof shareSchema)["definition"]>;

/** What a reader can choose of it, as an address has it. */
export type ShareChoice = z.infer<(typeof shareSchema)["choice"]>;

/** How a KPI is made up, or how far its members are. */
export type ShareAnswer = z.infer<(typeof shareSchema)["answer"]>;

/** A member with its part of the whole and with how much of its basis it reaches. */
export type SharePart = ShareAnswer["parts"][number];
