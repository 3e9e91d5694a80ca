/** English nouns that dimensions are called by; others may be of any language, and no ending is guessed for them. */
const NOUNS = new Set(
  "account agent area article asset brand branch budget business campaign carrier category centre center channel city class client company contract country course currency customer department destination device division employee entity event factory fleet function fund group hotel industry item job language line location machine manager market material member office operator origin outlet owner partner person plant platform position product profile programme program project property region resource role room route sector segment server service ship shop site source stage state station store studio supplier system team territory title town type unit user vehicle vendor vessel warehouse website zone".split(
    " ",
  ),
);
const IRREGULAR: Readonly<Record<string, string>> = { person: "people" };

/** What several members of a dimension are called: "customers", "cost centres"; "values of Kunde" where no ending is known. */
export function pluralName(name: string): string {
  const [, before = "", last = ""] = /^(.*?)([A-Za-z]+)$/.exec(name.trim()) ?? [];
  const noun = last.toLowerCase();
  const known = [...NOUNS].find((word) => noun === word || noun === pluralOf(word));
  if (known === undefined) return `values of ${name.trim()}`;
  return `${before.toLowerCase()}${pluralOf(known)}`;
}

function pluralOf(noun: string): string {
  if (IRREGULAR[noun] !== undefined) return IRREGULAR[noun];
  if (/[^aeiou]y$/.test(noun)) return `${noun.slice(0, -1)}ies`;
  return /(?:s|x|ch|sh)$/.test(noun) ? `${noun}es` : `${noun}s`;
}
