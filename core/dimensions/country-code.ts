import codes from "i18n-iso-countries/codes.json" with { type: "json" };
import da from "i18n-iso-countries/langs/da.json" with { type: "json" };
import de from "i18n-iso-countries/langs/de.json" with { type: "json" };
import en from "i18n-iso-countries/langs/en.json" with { type: "json" };
import es from "i18n-iso-countries/langs/es.json" with { type: "json" };
import fi from "i18n-iso-countries/langs/fi.json" with { type: "json" };
import fr from "i18n-iso-countries/langs/fr.json" with { type: "json" };
import it from "i18n-iso-countries/langs/it.json" with { type: "json" };
import nl from "i18n-iso-countries/langs/nl.json" with { type: "json" };
import no from "i18n-iso-countries/langs/no.json" with { type: "json" };
import pl from "i18n-iso-countries/langs/pl.json" with { type: "json" };
import pt from "i18n-iso-countries/langs/pt.json" with { type: "json" };
import sv from "i18n-iso-countries/langs/sv.json" with { type: "json" };
import type { Dimension } from "./dimension.ts";

/** By alpha-2 and alpha-3 code, in capitals: the numeric code of ISO 3166-1, which maps go by. */
const NUMERIC = new Map(
  (codes as unknown as readonly (readonly [string, string, string])[]).flatMap(([two, three, numeric]) => [
    [two, numeric] as const,
    [three, numeric] as const,
  ]),
);

/** The names of countries in the languages that files of European companies come in. */
const LANGUAGES: readonly { readonly countries: Readonly<Record<string, string | readonly string[]>> }[] = [
  da,
  de,
  en,
  es,
  fi,
  fr,
  it,
  nl,
  no,
  pl,
  pt,
  sv,
];

/** By name in one of the languages, without marks and capitals: the numeric code. Made when a name is first looked for. */
let named: ReadonlyMap<string, string> | undefined;

function byName(): ReadonlyMap<string, string> {
  return (named ??= new Map(
    LANGUAGES.flatMap(({ countries }) =>
      Object.entries(countries).flatMap(([code, names]) =>
        [names].flat().flatMap((name) => {
          const numeric = NUMERIC.get(code);
          return numeric === undefined ? [] : [[plain(name), numeric] as const];
        }),
      ),
    ),
  ));
}

/** "Côte d'Ivoire" and "COTE D’IVOIRE" are the same name. */
function plain(name: string): string {
  return name
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^\p{L}]+/gu, " ")
    .replace(/^the /, "")
    .trim();
}

/** Attributes that may hold a member's country, as files name them. */
const ATTRIBUTES = /^(iso|iso[ -_]?code|country|country[ -_]?code)$/i;

/**
 * The ISO 3166-1 numeric code of a member's country: by an attribute that holds its two- or three-letter code or its
 * name, else by the member's own name or key. `null` where it has none.
 */
export function countryCode(dimension: Dimension, key: string): string | null {
  const member = dimension.members.find((own) => own.key === key);
  const attribute = Object.entries(member?.attributes ?? {}).find(([name]) => ATTRIBUTES.test(name))?.[1];
  // Two letters of a name are more often a department than a country.
  const name = member && plain(member.name).length > 2 ? member.name : undefined;
  return codeOf(attribute) ?? codeOf(name) ?? codeOf(member?.key) ?? null;
}

function codeOf(text: string | undefined): string | undefined {
  return text === undefined ? undefined : (NUMERIC.get(text.trim().toUpperCase()) ?? byName().get(plain(text)));
}
