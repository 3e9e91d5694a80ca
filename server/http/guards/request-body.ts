import express from "express";
import { ProblemError } from "#server/problems/problem-error.ts";

/** As deep as any body of the contract may be, with room to spare; formulas are texts and count as one. */
const DEEPEST = 64;
const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/** Reads JSON bodies. What is nested deeper than any body of the contract is refused before it is parsed. */
export const jsonBody = express.json({
  limit: "4mb",
  verify: (_req, _res, bytes, encoding) => {
    if (encoding !== "utf-8")
      throw new ProblemError(
        "invalid-request",
        `The body is in "${encoding}"; JSON is read in UTF-8. Send it in UTF-8.`,
      );
    if (nestingOf(bytes) > DEEPEST)
      throw new ProblemError(
        "invalid-request",
        `The body is nested more than ${DEEPEST} deep, which nothing Hackle takes is. Send it as /api/openapi.json describes.`,
      );
  },
});

/** Reads tables that come as text rather than as a file to keep. */
export const csvBody = express.text({ type: "text/csv", limit: "20mb" });

/** How deep the brackets of a JSON text go, without parsing it; brackets in texts do not count. */
export function nestingOf(bytes: Uint8Array): number {
  let depth = 0;
  let deepest = 0;
  let isText = false;
  for (let i = 0; i < bytes.length; i += 1) {
    const byte = bytes[i]!;
    if (isText) {
      if (byte === BACKSLASH) i += 1;
      else if (byte === QUOTE) isText = false;
    } else if (byte === QUOTE) isText = true;
    else if (byte === 0x5b || byte === 0x7b) deepest = Math.max(deepest, (depth += 1));
    else if (byte === 0x5d || byte === 0x7d) depth -= 1;
  }
  return deepest;
}
