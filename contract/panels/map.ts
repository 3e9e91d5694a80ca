import { z } from "zod";
import { MAP_COLOURS } from "#core/panels/map/definition.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "./parts.ts";

const definition = z.object({
  ...panelBase,
  kind: z.literal("map"),
  kpi: z.string().max(60),
  by: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  /** What a circle's colour tells. */
  colour: z.enum(MAP_COLOURS),
});

export const map = panelContract({
  form: 1,
  size: { w: 12, h: 50 },
  definition,
  choice: z.object({
    ...panelChoice,
    kpi: z.string().max(100).optional(),
    colour: z.enum(MAP_COLOURS).optional(),
    table: z.literal("open").optional(),
  }),
  shown: ["table"],
  answer: z.object({
    kind: z.literal("map"),
    frame: frameSchema,
    kpi: kpiHeadSchema,
    headline: z.string(),
    descriptor: z.string(),
    noun: z.string(),
    dimension: z.string(),
    colour: z.enum(MAP_COLOURS),
    places: z
      .array(
        z.object({
          member: shownMemberSchema,
          name: z.string(),
          /** ISO 3166-1 numeric. */
          country: z.string().nullable(),
          row: kpiRowSchema,
        }),
      )
      .readonly(),
    absent: z.array(z.object({ name: z.string(), reason: z.string() })).readonly(),
    notes: coverageNotesSchema,
  }),
  refersTo: ({ kpi, by }) => ({ kpis: [kpi], dimensions: [{ key: by.dimension, level: by.level }] }),
  splitsBy: ({ by }) => [by.dimension],
  migrations: [],
});
