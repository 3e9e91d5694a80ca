import type { ColumnProfile } from "../reading/column-profile.ts";
import type { LedgerSide } from "./mapping.ts";
import { wholeWords } from "./whole-words.ts";

const DEBIT = wholeWords("debit|debits|soll|débit|dr");
const CREDIT = wholeWords("credit|credits|haben|crédit|cr");
const CLOSING = wholeWords("closing|closing balance|balance|saldo|endsaldo|solde");

/** The columns of a trial balance, where both sides are there; none else. */
export function ledgerSides(numbers: readonly ColumnProfile[]): ReadonlyMap<string, LedgerSide> {
  const one = (pattern: RegExp) => numbers.filter(({ name }) => pattern.test(name));
  const [debit, credit] = [one(DEBIT), one(CREDIT)];
  if (debit.length !== 1 || credit.length !== 1 || debit[0] === credit[0]) return new Map();
  const closing = one(CLOSING).filter((own) => own !== debit[0] && own !== credit[0]);
  return new Map<string, LedgerSide>([
    [debit[0]!.name, "debit"],
    [credit[0]!.name, "credit"],
    ...(closing.length === 1 ? [[closing[0]!.name, "closing"] as const] : []),
  ]);
}
