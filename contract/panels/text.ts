import { z } from "zod";
import { FIGURE_PARTS, kpisOfText } from "#core/panels/text/definition.ts";
import { figureSchema, judgementSchema } from "../figure.ts";
import { frameSchema } from "../frame.ts";
import { panelBase, panelChoice, panelContract } from "./panel-contract.ts";

const definition = z.object({
  ...panelBase,
  kind: z.literal("text"),
  /** Markdown, with figures in braces: `{total_revenue}`, `{fuel words}`. */
  text: z.string().max(20_000),
});

const inlineSchema = z.discriminatedUnion("is", [
  z.object({ is: z.literal("text"), text: z.string(), isStrong: z.boolean(), isEmphasized: z.boolean() }),
  z.object({ is: z.literal("link"), text: z.string(), href: z.string() }),
  z.object({
    is: z.literal("figure"),
    kpi: z.string(),
    name: z.string(),
    part: z.enum(FIGURE_PARTS),
    text: z.string(),
    figure: figureSchema,
    judgement: judgementSchema.nullable(),
  }),
  z.object({ is: z.literal("problem"), text: z.string() }),
  z.object({ is: z.literal("word"), text: z.string() }),
]);
const lineSchema = z.array(inlineSchema).readonly();

export const text = panelContract({
  form: 1,
  size: { w: 24, h: 12 },
  definition,
  choice: z.object({ ...panelChoice }),
  answer: z.object({
    kind: z.literal("text"),
    frame: frameSchema,
    blocks: z
      .array(
        z.discriminatedUnion("is", [
          z.object({
            is: z.literal("heading"),
            level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
            line: lineSchema,
          }),
          z.object({ is: z.literal("paragraph"), line: lineSchema }),
          z.object({ is: z.literal("list"), isOrdered: z.boolean(), items: z.array(lineSchema).readonly() }),
        ]),
      )
      .readonly(),
  }),
  refersTo: ({ text: written }) => ({ kpis: kpisOfText(written) }),
  migrations: [],
});
