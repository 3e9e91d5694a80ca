import { fromMarkdown } from "mdast-util-from-markdown";
import { textPieces } from "./pieces.ts";
import { splitTokens, type TextToken } from "./schema.ts";

/** A piece of a line. */
export type Inline<F> =
  | { readonly is: "text"; readonly text: string; readonly isStrong: boolean; readonly isEmphasized: boolean }
  | { readonly is: "link"; readonly text: string; readonly href: string }
  | F;

/** A block of a text. */
export type Block<F> =
  | { readonly is: "heading"; readonly level: 1 | 2 | 3; readonly line: readonly Inline<F>[] }
  | { readonly is: "paragraph"; readonly line: readonly Inline<F>[] }
  | { readonly is: "list"; readonly isOrdered: boolean; readonly items: readonly (readonly Inline<F>[])[] };

interface Node {
  readonly type: string;
  readonly value?: string;
  readonly url?: string;
  readonly depth?: number;
  readonly ordered?: boolean | null;
  readonly children?: readonly Node[];
}

/**
 * Reads Markdown into headings, paragraphs, lists, links and emphasis, and nothing else: what else it may hold stands
 * as it is written. `figureOf` makes something of each token in braces.
 */
export function readBlocks<F>(text: string, figureOf: (token: TextToken) => F): Block<F>[] {
  const blocks: Block<F>[] = [];
  const line = (nodes: readonly Node[]) => lineOf(nodes, figureOf, { isStrong: false, isEmphasized: false });
  const add = (node: Node): void => {
    switch (node.type) {
      case "heading":
        blocks.push({
          is: "heading",
          level: Math.min(3, node.depth ?? 1) as 1 | 2 | 3,
          line: line(node.children ?? []),
        });
        return;
      case "list":
        blocks.push({
          is: "list",
          isOrdered: node.ordered === true,
          items: (node.children ?? []).map((item) =>
            line((item.children ?? []).flatMap((own) => own.children ?? [own])),
          ),
        });
        return;
      case "paragraph":
        blocks.push({ is: "paragraph", line: line(node.children ?? []) });
        return;
      case "blockquote":
        (node.children ?? []).forEach(add);
        return;
      case "thematicBreak":
      case "definition":
        return;
      default:
        blocks.push({ is: "paragraph", line: line([{ type: "text", value: node.value ?? plainOf(node) }]) });
    }
  };
  for (const piece of textPieces(text)) {
    if (piece.isPlain) blocks.push({ is: "paragraph", line: line([{ type: "text", value: piece.text.trim() }]) });
    else (fromMarkdown(piece.text) as Node).children?.forEach(add);
  }
  return blocks;
}

interface Manner {
  readonly isStrong: boolean;
  readonly isEmphasized: boolean;
}

function lineOf<F>(nodes: readonly Node[], figureOf: (token: TextToken) => F, manner: Manner): Inline<F>[] {
  return nodes.flatMap((node): Inline<F>[] => {
    switch (node.type) {
      case "text":
        return splitTokens(node.value ?? "").map((part) =>
          typeof part === "string" ? { is: "text", text: part, ...manner } : figureOf(part),
        );
      case "strong":
        return lineOf(node.children ?? [], figureOf, { ...manner, isStrong: true });
      case "emphasis":
        return lineOf(node.children ?? [], figureOf, { ...manner, isEmphasized: true });
      case "link":
        return isSafe(node.url ?? "")
          ? [{ is: "link", text: plainOf(node), href: node.url! }]
          : lineOf(node.children ?? [], figureOf, manner);
      case "break":
        return [{ is: "text", text: "\n", ...manner }];
      case "paragraph":
        return lineOf(node.children ?? [], figureOf, manner);
      default:
        return [{ is: "text", text: node.value ?? plainOf(node), ...manner }];
    }
  });
}

/** Links lead to the web, to a mailbox, or to another page of Hackle; to nothing that runs. */
function isSafe(url: string): boolean {
  return /^(https?:\/\/|mailto:)/i.test(url) || /^\/(?![/\\])/.test(url);
}

function plainOf({ value, children = [] }: Node): string {
  return value ?? children.map(plainOf).join("");
}
