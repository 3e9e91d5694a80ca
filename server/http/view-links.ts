import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { askedFirst, type View } from "#contract/views.ts";

/** What the build of the client wrote down: the pieces of code that it begins with and that each view needs; its fonts. */
const piecesSchema = z.object({
  pieces: z.record(z.string(), z.array(z.string())),
  fonts: z.array(z.string()),
});
type Pieces = z.infer<typeof piecesSchema>;

/** The cuts of the fonts that figures and texts are written in, Δ among them; a browser fetches others where a text needs them. */
const COMMON_FONT = /\/(source-sans-3-(latin|greek)|source-serif-4-latin)-wght-normal-[^/]*\.woff2$/;

/** Proxies take so many characters of all headers together, and no more: links beyond half of them are left out. */
const MOST_CHARACTERS = 2000;

/** What the build of the client in a folder wrote down; nothing where it wrote nothing. */
export function readPieces(folder: string): Pieces {
  const path = join(folder, "pieces.json");
  return existsSync(path) ? piecesSchema.parse(JSON.parse(readFileSync(path, "utf8"))) : { pieces: {}, fonts: [] };
}

/**
 * The `Link` header (RFC 8288) of the document that opens a view: a browser fetches the view's code, fonts and first
 * answers with it at once, rather than one after the other as each leads to the next. What a long address would make too
 * long is left for the client to ask.
 */
export function viewLinks(
  { pieces, fonts }: Pieces,
  view: View,
  params: Readonly<Record<string, string>>,
  search: URLSearchParams,
): string {
  const answers = askedFirst(view, params, search).map(
    // As the client asks: with the reader's own session, which a preload without "crossorigin" would not match.
    (address) => `<${address}>; rel=preload; as=fetch; crossorigin`,
  );
  const code = new Set([...(pieces["entry"] ?? []), ...(pieces[view.code] ?? [])]);
  const all = [
    ...answers,
    ...[...code].map((file) => `</${file}>; rel=modulepreload`),
    ...fonts
      .filter((font) => COMMON_FONT.test(font))
      .map((font) => `</${font}>; rel=preload; as=font; type="font/woff2"; crossorigin`),
  ];
  let text = "";
  for (const link of all) if (text.length + link.length <= MOST_CHARACTERS) text += text === "" ? link : `, ${link}`;
  return text;
}
