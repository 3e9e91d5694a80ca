import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readBlocks } from "./blocks.ts";
import { textPieces } from "./pieces.ts";

const read = (text: string) => readBlocks(text, () => ({ is: "figure" as const, text: "" }));

describe("a text in pieces", () => {
  it("is one piece as people write it", () => {
    const text =
      "# October\n\nRevenue *rose*; see [costs](/packs/review).\n\n1. Fuel\n2. Crew (14 **more**)\n\n".repeat(8);
    expect(textPieces(text)).toEqual([{ text, isPlain: false }]);
  });
  it("is cut between paragraphs first, then between lines, and loses nothing", () => {
    const list = "- *a*\n".repeat(150);
    const pieces = textPieces(`First.\n\n${list}\nLast, **strong**.`);
    expect(pieces.map(({ text }) => text).join("")).toBe(`First.\n\n${list}\nLast, **strong**.`);
    expect(pieces.length).toBeGreaterThan(1);
    expect(pieces.every(({ isPlain }) => !isPlain)).toBe(true);
    expect(read(`${list}\nLast, **strong**.`).at(-1)).toMatchObject({ is: "paragraph" });
  });
  it("stands as it is written where a line has too many marks", () => {
    const blocks = read("*a_ ".repeat(2400));
    const text = blocks.flatMap((block) => (block.is === "list" ? block.items.flat() : block.line));
    expect(blocks).toHaveLength(2);
    expect(
      text
        .map((part) => part.text)
        .join("")
        .replaceAll(/[*_ ]/g, ""),
    ).toBe("a".repeat(2400));
    expect(text.at(-1)!.text).toContain("*a_ *a_ *a_");
  });
  it("of any marks is read, joined from its pieces, none of which has more marks than one is read with", () => {
    const part = fc.constantFrom(
      "*a_ ",
      "1. ",
      "> ",
      "[",
      "](",
      "![a](<b",
      "`",
      "**",
      "=\n",
      "- a\n",
      " ",
      "a",
      "\n\n",
      "<!--",
    );
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 6 }), fc.integer({ min: 1, max: 1500 }), (parts, times) => {
        const text = parts.join("").repeat(times).slice(0, 6000);
        const pieces = textPieces(text);
        expect(pieces.map((piece) => piece.text).join("")).toBe(text);
        for (const piece of pieces.filter(({ isPlain }) => !isPlain))
          expect(piece.text.match(/[*_[\](){}!<>`#&\\=~+\-\n]|\d[.)]/g)?.length ?? 0).toBeLessThanOrEqual(300);
        expect(() => read(text)).not.toThrow();
      }),
      { numRuns: 60 },
    );
  });
});
