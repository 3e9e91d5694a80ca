import codes from "i18n-iso-countries/codes.json" with { type: "json" };
import type { Dimension } from "./dimension.ts";

/** By alpha-2 and alpha-3 code, in capitals: the numeric code of ISO 3166-1, which maps go by. */
const NUMERIC = new Map(
  (codes as unknown as readonly (readonly [string, string, string])[]).flatMap(([two, three, numeric]) => [
    [two, numeric] as const,
    [three, numeric] as const,
  ]),
);

/** Attributes that may hold a member's country, as files name them. */
const ATTRIBUTES = /^(iso|iso[ -_]?code|country|country[ -_]?code)$/i;

/**
 * The ISO 3166-1 numeric code of a member's country: by an attribute that holds its two- or three-letter code, else by
 * the member's own key. `null` where it has none.
 */
export function countryCode(dimension: Dimension, key: string): string | null {
  const member = dimension.members.find((own) => own.key === key);
  const attribute = Object.entries(member?.attributes ?? {}).find(([name]) => ATTRIBUTES.test(name))?.[1];
  return codeOf(attribute) ?? codeOf(member?.key) ?? null;
}

function codeOf(text: string | undefined): string | undefined {
  return text === undefined ? undefined : NUMERIC.get(text.trim().toUpperCase());
}
