import { CURRENCY_CODES } from "#core/currency/currency-code.ts";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import { writing } from "#core/formats/writing.ts";
import { ChoiceWord } from "../ui/choice-word.tsx";
import type { ClauseProps } from "./reading-clause.ts";

/** Which currency the amounts are in where no column says it; of rates, what they are the price of. */
export function CurrencyClause({ draft, map }: ClauseProps) {
  const { mapping } = draft.definition.rules;
  const own = writing().currency;
  const meanings = Object.values(mapping.columns);
  if (bringsRates(mapping)) {
    const ways = [
      { key: "foreign", name: `what one unit of each costs in ${own}` },
      { key: "own", name: `what one ${own} costs in each` },
    ];
    return (
      <>
        {" "}
        as{" "}
        <ChoiceWord
          label="Rates"
          words={ways.find(({ key }) => key === mapping.priced)?.name ?? "which way round?"}
          choices={ways}
          chosen={mapping.priced ?? ""}
          onChoose={(priced) => map({ priced: priced as "own" })}
        />
      </>
    );
  }
  const chosen = mapping.fixed.currency ?? own;
  if (!meanings.some(({ as }) => as === "amount") || meanings.some(({ as }) => as === "currency")) return null;
  return (
    <>
      , amounts in{" "}
      <ChoiceWord
        label="Currency"
        words={chosen}
        choices={[own, ...CURRENCY_CODES.filter((code) => code !== own)].map((code) => ({
          key: code,
          name: code,
          ...(code === own ? { note: "the company's" } : {}),
        }))}
        chosen={chosen}
        onChoose={(code) => map({ fixed: { ...mapping.fixed, currency: code === own ? null : code } })}
      />
    </>
  );
}
