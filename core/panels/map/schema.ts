import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";
import { coverageNotesSchema, kpiHeadSchema, kpiRowSchema, shownMemberSchema } from "../parts/schema.ts";

/** What a circle's colour tells. */
export const MAP_COLOURS = ["judgement", "value"] as const;

export type MapColour = (typeof MAP_COLOURS)[number];

const definition = z.object({
  ...panelBase,
  kind: z.literal("map"),
  kpi: z.string().max(60),
  by: z.object({ dimension: z.string().max(100), level: z.string().max(100).nullable() }),
  /** What a circle's colour tells. */
  colour: z.enum(MAP_COLOURS),
});

export const mapSchema = panelSchemaOf({
  name: "a map",
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
    /** The largest first, those without a country among them. */
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
  fit: ({ kpis, split }): Fit<z.infer<typeof definition>> => {
    if (!split) return { unfit: "A map needs members with a country: choose a dimension to split by." };
    if (kpis.length > 1) return { unfit: "A map shows one KPI: choose one of them." };
    return {
      fitness: 0.45,
      panel: { key: ATTEMPT_KEY, kind: "map", kpi: kpis[0]!, by: split, colour: "judgement" },
    };
  },
  migrations: [],
});

/** Where a KPI is: the members of a dimension that carry a country's code, as circles on a map. */
export type MapDefinition = z.infer<(typeof mapSchema)["definition"]>;

/** What a reader can choose of a map, as an address has it. */
export type MapChoice = z.infer<(typeof mapSchema)["choice"]>;

/** A KPI by country. */
export type MapAnswer = z.infer<(typeof mapSchema)["answer"]>;

/** A member with its country. */
export type MapPlace = MapAnswer["places"][number];
