import { indexNames, plainName } from "../reading/names.ts";
import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import type { Doubt, Mapping, SignRule } from "./mapping.ts";
import type { MappingView } from "./mapping-view.ts";
import type { Sample } from "./sample.ts";

/** How the file signs its amounts, by what most of them are; a question where they are too few, or as many of either sign. */
export function signRuleOf(
  mapping: Mapping,
  sample: Sample,
  view: MappingView,
  mark: DecimalMark,
): { sign: SignRule; doubt: Doubt | null } {
  const accountPlace = sample.columns.findIndex((name) => mapping.columns[name]?.as === "account");
  const places = sample.columns.flatMap((name, i) => (mapping.columns[name]?.as === "amount" ? [i] : []));
  const names = indexNames(view.accounts);
  const kinds = new Map(view.accounts.map((a) => [a.key, a.kind]));
  const signs = { income: { negative: 0, all: 0 }, expense: { negative: 0, all: 0 } };
  for (const row of sample.rows) {
    const kind = kinds.get(names.get(plainName(row[accountPlace] ?? "")) ?? "");
    if (kind !== "income" && kind !== "expense") continue;
    for (const place of places) {
      const value = readNumber(row[place] ?? "", mark);
      if (!value || value.units === 0) continue;
      signs[kind].all += 1;
      if (value.units < 0) signs[kind].negative += 1;
    }
  }
  // A credit note or a refund now and then says nothing of the rule; what most amounts are does.
  const areNegative = ({ negative, all }: Signs) => negative * 2 > all;
  const sign = areNegative(signs.expense)
    ? areNegative(signs.income)
      ? "own"
      : "result"
    : areNegative(signs.income)
      ? "debit"
      : "own";
  const isOpen = ({ negative, all }: Signs) =>
    negative > 0 && (all < FEW_SIGNS || (negative > all * 0.3 && negative < all * 0.7));
  const [kind, own] = isOpen(signs.income)
    ? (["income", signs.income] as const)
    : (["expense", signs.expense] as const);
  if (!isOpen(own)) return { sign, doubt: null };
  const other: SignRule = kind === "income" ? "debit" : "result";
  return {
    sign,
    doubt: {
      key: "sign",
      text: `${own.negative} of ${own.all} ${kind === "income" ? "income" : "cost"} amounts in the first rows ${own.negative === 1 ? "is" : "are"} negative. Do they reduce ${kind === "income" ? "income" : "costs"}, or does the file write ${kind === "income" ? "income" : "costs"} with a minus?`,
      ways: [
        { name: `They reduce ${kind === "income" ? "income" : "costs"}`, sign: "own" },
        { name: `${kind === "income" ? "Income" : "Costs"} have a minus`, sign: other },
      ],
      settled: null,
    },
  };
}

interface Signs {
  readonly negative: number;
  readonly all: number;
}

/** So few amounts do not tell how a file signs them. */
const FEW_SIGNS = 4;
