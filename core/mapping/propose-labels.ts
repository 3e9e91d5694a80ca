import { areCurrencies } from "../currency/currency-code.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { indexNames, plainName } from "../reading/names.ts";
import { ACCOUNT_NAME, ACCOUNT_NUMBER, REFERENCE_NAME } from "./column-names.ts";
import type { Meaning } from "./mapping.ts";
import type { Proposal } from "./proposal.ts";

/** So much of a column's texts, and of its name, must be known. */
const LEAST_FIT = 0.45;
const NAME_COUNTS = 0.3;

/** Finds what the columns beside the figures say: by the structure of the table, then by their texts and their names. */
export function proposeLabels(proposal: Proposal): void {
  const { profiles, hints, columns, has } = proposal;
  profiles.forEach((profile, place) => {
    const { name } = profile;
    const hint = hints[name];
    if (hint?.as === "period" || hint?.as === "scenario" || hint?.as === "account") {
      if (!has(hint.as)) columns[name] = { as: hint.as };
    } else if (hint?.as !== "amount" && hint?.as !== "apart") {
      const meaning = meaningOf(profile, place, proposal);
      if (meaning) columns[name] = meaning;
    }
  });
}

function meaningOf(profile: ColumnProfile, place: number, { view, valuesOf, has }: Proposal): Meaning | undefined {
  const { name, type } = profile;
  if (type === "date" && !has("period")) return { as: "period" };
  // Numbers of accounts are their keys, and no amounts.
  if (type === "number" && ACCOUNT_NUMBER.test(name) && !has("account")) return { as: "account" };
  if (type !== "text") return undefined;
  const values = valuesOf(place);
  if (areCurrencies(values) && !has("currency")) return { as: "currency" };
  const share = (index: ReadonlyMap<string, string>) =>
    values.length === 0 ? 0 : values.filter((text) => index.has(plainName(text))).length / values.length;
  const ofAccounts = share(indexNames(view.accounts));
  const fits: { fit: number; meaning: Meaning }[] = [
    { fit: ofAccounts + (ACCOUNT_NAME.test(name) ? NAME_COUNTS : 0), meaning: { as: "account" } },
    {
      fit: share(indexNames(view.scenarios)) + (/\b(scenario|version)\b/i.test(name) ? NAME_COUNTS : 0),
      meaning: { as: "scenario" },
    },
    ...view.dimensions.map((dimension) => ({
      fit:
        share(indexNames(dimension.members)) +
        ([dimension.name, ...dimension.levels].some((own) => plainName(own) === plainName(name)) ? NAME_COUNTS : 0),
      meaning: { as: "dimension", dimension: dimension.key } as const,
    })),
  ];
  const best = fits.sort((a, b) => b.fit - a.fit)[0]!;
  const isLikely = best.fit >= LEAST_FIT;
  // Called an account, and naming none that there is: the file brings accounts of its own.
  if (ACCOUNT_NAME.test(name) && ofAccounts === 0 && !has("account") && !isLikely) return { as: "account" };
  if (isLikely && (best.meaning.as === "dimension" || !has(best.meaning.as))) return best.meaning;
  const isReference = REFERENCE_NAME.test(name) && profile.distinct > profile.filled * 0.5;
  return isReference && !has("reference") ? { as: "reference" } : undefined;
}
