import type { RequestHandler } from "express";
import { ProblemError } from "#server/problems/problem-error.ts";

/** U+0000, which PostgreSQL keeps in no text, and halves of a surrogate pair, which are no character. */
const UNKEEPABLE = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/**
 * Refuses a request whose address, headers or body hold a character that no text can keep. The one place where this is
 * looked at: behind it every text can go to the database. Throws "invalid-request" naming the place.
 */
export const refuseUnkeepableText: RequestHandler = (req, _res, next) => {
  const address = decoded(req.url);
  if (UNKEEPABLE.test(address)) throw unkeepable("the address", address);
  for (const name of ["cookie", "authorization"]) {
    const value = decoded(req.get(name) ?? "");
    if (UNKEEPABLE.test(value)) throw unkeepable(`the header "${name}"`);
  }
  const found = unkeepableIn(req.body, []);
  if (found) throw unkeepable(found.place, found.text);
  next();
};

/** An address as its reader will see it; one that cannot be decoded is refused where it is read. */
function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text.replaceAll(/%00/g, "\0");
  }
}

function unkeepableIn(value: unknown, path: readonly string[]): { place: string; text: string } | undefined {
  if (typeof value === "string")
    return UNKEEPABLE.test(value) ? { place: `"${path.join(".")}"`, text: value } : undefined;
  if (typeof value !== "object" || value === null || Buffer.isBuffer(value)) return undefined;
  for (const [key, part] of Object.entries(value)) {
    if (UNKEEPABLE.test(key))
      return { place: path.length > 0 ? `a name in "${path.join(".")}"` : "a name in the request", text: key };
    const found = unkeepableIn(part, [...path, key]);
    if (found) return found;
  }
  return undefined;
}

function unkeepable(place: string, text = ""): ProblemError {
  const at = UNKEEPABLE.exec(text);
  const code = at
    ? ` (U+${at[0].charCodeAt(0).toString(16).toUpperCase().padStart(4, "0")}, character ${at.index + 1})`
    : "";
  return new ProblemError(
    "invalid-request",
    `In ${place} stands a character that cannot be kept in a text${code}. Take it out and send the request again.`,
  );
}
