import { z } from "zod";
import { frameQuerySchema } from "#core/frame/schema.ts";
import { panelAnswerSchema, panelSchema } from "#core/panels/schemas.ts";
import { problemSchema } from "./problem.ts";

/** So many panels are tried at once. */
export const MOST_TRIED = 60;

/** A page's question: its frame, which of its panels (all where nothing is said), and choices behind the panels' keys. */
export const pageQuerySchema = frameQuerySchema.extend({ panels: z.string().max(10_000).optional() }).loose();

/** Panels that stand on no page, or not yet: each as it is given, with what is chosen of it. */
export const tryPanelsSchema = z.object({
  frame: frameQuerySchema,
  panels: z
    .array(z.object({ panel: panelSchema, choice: z.record(z.string(), z.string().max(200)).optional() }))
    .min(1)
    .max(MOST_TRIED),
});

/** One line of a page's answer: a panel with its figures, or with why it has none. */
export const pageLineSchema = z.union([
  // Partial where a forecast or a range in it is still being worked out: another line of the panel follows.
  z.object({ panel: z.string(), answer: panelAnswerSchema, isPartial: z.literal(true).optional() }),
  z.object({ panel: z.string(), problem: problemSchema }),
]);

export type PageLine = z.infer<typeof pageLineSchema>;

/** Where a choice of a panel stands in an address. */
export function choiceName(panel: string, part: string): string {
  return `${panel}.${part}`;
}

/** What an address says of a panel, part by part. */
export function choicesOf(panel: string, query: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const start = choiceName(panel, "");
  return Object.fromEntries(
    Object.entries(query).flatMap(([name, value]) =>
      name.startsWith(start) ? [[name.slice(start.length), value]] : [],
    ),
  );
}
