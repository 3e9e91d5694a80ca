import type { PanelBase } from "../panel-base.ts";

/** Words with figures set in live: `Revenue {total_revenue}` follows the frame. Written as Markdown: headings, lists, links, emphasis. */
export interface TextDefinition extends PanelBase {
  readonly kind: "text";
  readonly text: string;
}

export type TextChoice = Readonly<Record<never, never>>;

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
      why: `"${text}" is no figure: write a KPI and, behind it, one of ${FIGURE_PARTS.join(", ")}.`,
    };
  if ((FRAME_TOKENS as readonly string[]).includes(name) && text.trim() === name)
    return { is: "frame", token: name as FrameToken };
  if (!/^[a-z][a-z0-9_]*$/.test(name)) return { is: "unknown", why: `"${name}" is no KPI's key.` };
  if (!(FIGURE_PARTS as readonly string[]).includes(part))
    return { is: "unknown", why: `"${part}" is nothing to say of a KPI. There are ${FIGURE_PARTS.join(", ")}.` };
  return { is: "figure", kpi: name, part: part as FigurePart };
}

/** The KPIs that a text names. */
export function kpisOfText(text: string): string[] {
  const named = splitTokens(text).flatMap((part) =>
    typeof part !== "string" && part.is === "figure" ? [part.kpi] : [],
  );
  return [...new Set(named)];
}
