import { ATTEMPT_KEY, type Fit } from "../attempt.ts";
import { z } from "zod";
import { figureSchema, judgementSchema } from "../../figures/schema.ts";
import { frameSchema } from "../../frame/schema.ts";
import { panelBase, panelChoice, panelSchemaOf } from "../panel-schema.ts";

/** What can be said of a KPI within a text. */
export const FIGURE_PARTS = ["actual", "basis", "variance", "percent", "words", "attainment", "prior-year"] as const;

export type FigurePart = (typeof FIGURE_PARTS)[number];

/** Words of the frame that can be set into a text. */
export const FRAME_TOKENS = ["as-of", "span", "scope", "basis"] as const;

export type FrameToken = (typeof FRAME_TOKENS)[number];

/** A token of a text: a figure, a word of the frame, or something that is neither. */
export type TextToken =
  | { readonly is: "figure"; readonly kpi: string; readonly part: FigurePart }
  | { readonly is: "frame"; readonly token: FrameToken }
  | { readonly is: "unknown"; readonly why: string };

const TOKEN = /\{([^{}\n]{1,120})\}/g;

/** Takes a text apart into what is written and the tokens in it. */
export function splitTokens(text: string): (string | TextToken)[] {
  const parts: (string | TextToken)[] = [];
  let at = 0;
  for (const match of text.matchAll(TOKEN)) {
    if (match.index > at) parts.push(text.slice(at, match.index));
    parts.push(readToken(match[1]!));
    at = match.index + match[0].length;
  }
  if (at < text.length) parts.push(text.slice(at));
  return parts;
}

/** Reads what stands between braces: "fuel", "fuel variance", "span". */
export function readToken(text: string): TextToken {
  const [name = "", part = "actual", ...rest] = text.trim().split(/\s+/);
  if (rest.length > 0)
    return {
      is: "unknown",
      why: `"${text}" is not a figure: write a KPI and, after it, one of ${FIGURE_PARTS.join(", ")}.`,
    };
  if ((FRAME_TOKENS as readonly string[]).includes(name) && text.trim() === name)
    return { is: "frame", token: name as FrameToken };
  if (!/^[a-z][a-z0-9_]*$/.test(name)) return { is: "unknown", why: `"${name}" is no KPI's key.` };
  if (!(FIGURE_PARTS as readonly string[]).includes(part))
    return { is: "unknown", why: `"${part}" is not a part of a KPI's figure. Use one of ${FIGURE_PARTS.join(", ")}.` };
  return { is: "figure", kpi: name, part: part as FigurePart };
}

/** The KPIs that a text names. */
export function kpisOfText(text: string): string[] {
  const named = splitTokens(text).flatMap((part) =>
    typeof part !== "string" && part.is === "figure" ? [part.kpi] : [],
  );
  return [...new Set(named)];
}

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

export const textSchema = panelSchemaOf({
  name: "a text",
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
  fit: ({ kpis }): Fit<z.infer<typeof definition>> => ({
    fitness: 0.1,
    panel: { key: ATTEMPT_KEY, kind: "text", text: kpis.map((kpi) => `{${kpi}}: {${kpi} words}.`).join("\n\n") },
  }),
  migrations: [],
});

/** Words with figures set in live: `Revenue {total_revenue}` follows the frame. Written as Markdown: headings, lists, links, emphasis. */
export type TextDefinition = z.infer<(typeof textSchema)["definition"]>;

export type TextChoice = z.infer<(typeof textSchema)["choice"]>;

/** A text with its figures in a frame. */
export type TextAnswer = z.infer<(typeof textSchema)["answer"]>;
