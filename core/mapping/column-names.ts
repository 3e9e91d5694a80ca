import { wholeWords } from "./whole-words.ts";

/** What columns are called, by what they hold; in the languages that files come in. */
export const REFERENCE_NAME = /\b(doc(ument)?|ref(erence)?|invoice|journal|voucher|order|receipt|id|no|nr|number)\b/i;
export const QUANTITY_NAME = wholeWords(
  "units?|qty|quantity|quantité|count|counts|pieces|pcs|volume|heads?|headcount|fte|menge|stück|stk|anzahl|orders|visits|visitors|sessions|calls|clicks|customers|passengers|hours|stunden|besucher|bestellungen|anrufe",
);
export const AMOUNT_NAME = wholeWords(
  "amount|value|balance|net|gross|eur|usd|gbp|chf|revenue|sales|costs?|total|betrag|netto|brutto|umsatz|kosten|summe|wert|montant|chiffre",
);
export const ACCOUNT_NAME = /\b(account|gl|measure|line item|position|indicator|metric)\b/i;
export const ACCOUNT_NUMBER = wholeWords(
  "account|accounts|account (?:no|nr|number|code)|gl(?: account)?|konto|kontonummer|konto nr|compte",
);
export const EXPENSE_NAME = wholeWords(
  "costs?|cogs|spend|spending|expenses?|payroll|salary|salaries|wages|kosten|aufwand|aufwendungen|löhne|gehälter|miete|rent|refunds|charges|dépenses",
);
export const INCOME_NAME = wholeWords("sales|revenue|income|turnover|umsatz|erlöse|ertrag|einnahmen");
/** Whom something is sold to, and whom it is bought from or spent by. */
export const SOLD_TO = wholeWords(
  "customers?|clients?|buyers?|kunden?|kundin|acheteurs?|shops?|stores?|outlets?|products?|articles?|artikel|produits?|produkte?",
);
export const SPENT_BY = wholeWords(
  "suppliers?|vendors?|payees?|lieferanten?|fournisseurs?|employees?|mitarbeiter|cost cent(?:er|re)s?|kostenstellen?|departments?|abteilung(?:en)?|projects?|projekte?",
);
export const SLOTS_LEFT_OUT = /^(comment|note|description|text|memo)s?$/i;
