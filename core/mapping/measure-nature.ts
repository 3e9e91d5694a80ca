/** What a name says is measured, by which it may be added up and which way is good. */
export type MeasureNature =
  | "income"
  | "expense"
  | "result"
  | "count"
  | "count-balance"
  | "asset"
  | "liability"
  | "equity"
  | "rate"
  | "price";

const any = (source: string) => new RegExp(`(?<![\\p{L}])(?:${source})(?![\\p{L}])`, "iu");
/** Stems that German and its kin join to other words: "Personalaufwand", "Mietkosten". */
const joined = (source: string) => new RegExp(`(?:${source})(?![\\p{L}])`, "iu");

/**
 * Names by what they measure, the more telling ones first: "cost of sales" is a cost though it speaks of sales, "sales per
 * head" a price, "number of customers" a count.
 */
const RULES: readonly (readonly [MeasureNature, RegExp])[] = [
  ["rate", /%|‰/],
  [
    "rate",
    any(
      "rate|ratio|percent(?:age)?|prozent|share|quote|anteil|margin(?: in)?|marge|taux|conversion|yield|utili[sz]ation|auslastung|churn|discount",
    ),
  ],
  ["rate", joined("quote|anteil|marge")],
  [
    "price",
    any(
      "price|prices|prix(?: moyen)?|preis|tarif|average|avg|mean|durchschnitt|moyenne?|unit cost|unit price|(?:revenue|sales|cost|costs|spend) per|umsatz (?:pro|je)|kosten (?:pro|je)",
    ),
  ],
  ["price", joined("preis|stundensatz")],
  [
    "count",
    any(
      "(?:units?|pieces|tickets|items|seats|passengers|orders?|licen[cs]es) (?:sold|shipped|produced|booked|carried)|(?:number|no|count|nombre|anzahl) (?:of|de|der|von)|quantité(?:s)?(?: vendues?)?|nombre",
    ),
  ],
  [
    "count-balance",
    any(
      "headcount|heads|ftes?|full[- ]time equivalents?|employees|staff count|mitarbeiter(?:zahl)?|beschäftigte|effectifs?|etp|vzä|subscribers|active (?:users|customers|accounts)|members|open (?:positions|orders|tickets)",
    ),
  ],
  ["expense", any("cost of (?:sales|goods(?: sold)?|revenue)|cogs|coût des ventes|coûts? d'achat|coût de revient")],
  [
    "asset",
    any(
      "(?:closing|ending|opening|average)? ?(?:stock|inventory|inventories)(?: value)?|stocks?|inventories|cash(?: (?:balance|at bank|and equivalents|position))?|bank(?: balance)?|receivables?|debtors|prepayments?|prepaid|assets?|fixed assets|equipment|property|buildings?|machinery|intangibles?|goodwill|kasse|bankguthaben|forderungen|vorräte|anlagen|guthaben|trésorerie|créances|closing balance|endsaldo|solde(?: de clôture)?",
    ),
  ],
  ["asset", joined("bestand|bestände|forderungen|guthaben|vermögen|anlagen")],
  [
    "liability",
    any(
      "payables?|creditors|loans?|borrowings?|debts?|liabilit(?:y|ies)|provisions?|accruals?|deferred (?:income|revenue)|verbindlichkeiten|darlehen|rückstellungen|dettes?|emprunts?",
    ),
  ],
  ["liability", joined("verbindlichkeiten|darlehen|rückstellungen")],
  ["equity", any("equity|share capital|capital|retained earnings|reserves|eigenkapital|rücklagen|capitaux propres")],
  [
    "result",
    any(
      "gross profit|gross result|operating (?:profit|result|income)|net (?:profit|income|result)|profit(?: before tax| after tax)?|ebitda?|ebit|contribution|result|ergebnis|rohertrag|deckungsbeitrag|gewinn|bénéfice|résultat|marge brute",
    ),
  ],
  ["result", joined("ergebnis|gewinn|rohertrag|überschuss")],
  [
    "count",
    any(
      "units|qty|quantit(?:y|ies)|pieces|pcs|volumes?|tonnes|visits|visitors|sessions|calls|clicks|orders|hours|passengers|tickets|bookings|transactions|shipments|deliveries|menge|stück|stk|anzahl|besucher|besuche|bestellungen|anrufe|aufträge|stunden|commandes|visites|heures|unités",
    ),
  ],
  ["count", joined("menge|mengen|stückzahl|anzahl|stunden|zahl")],
  [
    "expense",
    any(
      "costs?|cogs|spend(?:ing)?|expen[sc]es?|expenditures?|payroll|salar(?:y|ies)|wages|pay|rent|rents|leases?|utilities|insurance|depreciation|amorti[sz]ation|travel|marketing|advertising|fuel|energy|materials?|purchases|subcontractors?|consulting|maintenance|repairs?|freight (?:costs?|out)|bad debts?|interest (?:paid|expense)|tax(?:es)?|bonus(?:es)?|social (?:security|charges)|pensions?|training|software|licen[cs]es|it|office|legal|audit|charges?|loyers?|salaires?|achats?|dépenses?|impôts?|frais|honoraires|amortissements?|kosten|aufwand|aufwendungen|löhne|gehälter|miete|mieten|steuern|zinsen|abschreibung(?:en)?|einkauf|refunds?|commissions? paid|outlay",
    ),
  ],
  [
    "expense",
    joined(
      "kosten|aufwand|aufwände|aufwendungen|löhne|gehälter|miete|einsatz|abgaben|steuern|gebühren|spesen|ausgaben|abschreibungen|zinsaufwand",
    ),
  ],
  [
    "income",
    any(
      "sales|revenues?|income|turnover|fees|subscriptions?|grants?|donations?|royalties|interest (?:received|income)|umsatz|umsätze|umsatzerlöse|erlöse?|erträge|ertrag|einnahmen|provisionserlöse|chiffre d[’' ]affaires|ca ht|ventes|recettes|produits? (?:d'exploitation|des ventes)|subventions?|billings|takings|receipts",
    ),
  ],
  ["income", joined("umsatz|umsätze|erlöse|erlös|erträge|ertrag|einnahmen")],
  ["income", /(?<![\p{L}])(?:umsatz|erlös)/iu],
  ["income", any("services")],
];

/** What a name says is measured; `undefined` where it says nothing that is known. */
export function natureOfName(name: string): MeasureNature | undefined {
  const plain = name.replace(/[_]+/g, " ");
  return RULES.find(([, pattern]) => pattern.test(plain))?.[0];
}
