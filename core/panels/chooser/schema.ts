import type { Fit } from "../attempt.ts";
import { z } from "zod";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf, panelKeySchema } from "../panel-schema.ts";

/** The parts of a frame, and of a panel's choices, that a reader can be given to choose. */
export const CHOOSER_FRAME_PARTS = ["asOf", "span", "basis", "scope"] as const;

export const CHOOSER_PANEL_PARTS = ["kpi", "grain", "marks", "year"] as const;

export const CHOOSER_PARTS = [...CHOOSER_PANEL_PARTS, ...CHOOSER_FRAME_PARTS] as const;

export type ChooserPart = (typeof CHOOSER_PARTS)[number];

/** A chooser holds at most this many options. */
export const MOST_OPTIONS = 60;

const part = z.enum(CHOOSER_PARTS);
const key = z.string().max(400);

const definition = z.object({
  ...panelBase,
  kind: z.literal("chooser"),
  sets: part,
  /** What can be chosen, as an address writes it. */
  options: z.array(key).min(1).max(MOST_OPTIONS).readonly(),
  /** The panels that follow; all of the page that can, where `null`. */
  panels: z.array(panelKeySchema).max(60).readonly().nullable(),
});

export const chooserSchema = panelSchemaOf({
  name: "a chooser",
  form: 1,
  size: { w: 24, h: 6 },
  definition,
  choice: z.object({ ...panelChoice, chosen: key.optional() }),
  answer: z.object({
    kind: z.literal("chooser"),
    frame: frameSchema,
    message: z.string(),
    sets: part,
    /** What is chosen of it: "KPI", "Span" … */
    label: z.string(),
    chosen: z.string().nullable(),
    options: z
      .array(
        z.object({
          key: z.string(),
          name: z.string(),
          note: z.string() /** Why it cannot be chosen here; `null` where it can. */,
          problem: z.string().nullable(),
        }),
      )
      .readonly(),
  }),
  refersTo: ({ sets, options }) => ({ kpis: sets === "kpi" ? options : [] }),
  fit: (): Fit<z.infer<typeof definition>> => ({
    unfit: "A chooser changes other panels, so it is only available on pages.",
  }),
  migrations: [],
});

/** A control by which the reader changes one part of named panels together. */
export type ChooserDefinition = z.infer<(typeof chooserSchema)["definition"]>;

/** What the reader chose; nothing leaves the panels as they are arranged. */
export type ChooserChoice = z.infer<(typeof chooserSchema)["choice"]>;

/** What a reader can choose, named. */
export type ChooserAnswer = z.infer<(typeof chooserSchema)["answer"]>;

/** Something to choose: by its key, its name, and what it stands for. */
export type ChooserOption = ChooserAnswer["options"][number];
