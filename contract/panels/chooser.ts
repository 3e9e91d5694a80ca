import { z } from "zod";
import { CHOOSER_PARTS, MOST_OPTIONS } from "#core/panels/chooser/definition.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract, panelKeySchema } from "./panel-contract.ts";

const part = z.enum(CHOOSER_PARTS);
const key = z.string().max(400);

const definition = z.object({
  ...panelBase,
  kind: z.literal("chooser"),
  sets: part,
  options: z.array(key).min(1).max(MOST_OPTIONS).readonly(),
  panels: z.array(panelKeySchema).max(60).readonly().nullable(),
});

export const chooser = panelContract({
  form: 1,
  size: { w: 24, h: 6 },
  definition,
  choice: z.object({ ...panelChoice, chosen: key.optional() }),
  answer: z.object({
    kind: z.literal("chooser"),
    frame: frameSchema,
    message: z.string(),
    sets: part,
    label: z.string(),
    chosen: z.string().nullable(),
    options: z
      .array(z.object({ key: z.string(), name: z.string(), note: z.string(), problem: z.string().nullable() }))
      .readonly(),
  }),
  refersTo: ({ sets, options }) => ({ kpis: sets === "kpi" ? options : [] }),
  migrations: [],
});
