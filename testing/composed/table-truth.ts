import { monthOf, type Month } from "#core/calendar/month.ts";
import type { Random } from "./random.ts";

/** What a figure is, by which it may be added up. */
export type MeasureNature = "income" | "expense" | "count" | "money-balance" | "count-balance";

/** Something that is measured, with its name as a file writes it. */
export interface Measure {
  readonly name: string;
  readonly nature: MeasureNature;
  /** Digits behind the mark that its figures have; `null`: as many as the file writes money with. */
  readonly decimals: number | null;
}

export type ScenarioKind = "actual" | "budget" | "forecast" | "target";

/** One figure of the table before it is written down. */
export interface TrueFact {
  readonly measure: number;
  readonly scenario: ScenarioKind;
  readonly month: Month;
  /** By dimension, the member's place. */
  readonly members: readonly number[];
  /** In hundredths. */
  readonly amount: number;
}

/** A dimension of the table. */
export interface TrueDimension {
  readonly name: string;
  readonly members: readonly string[];
}

/** A table before it is written down: what a reader has to find again. */
export interface TableTruth {
  readonly measures: readonly Measure[];
  readonly scenarios: readonly ScenarioKind[];
  /** Or the first months of quarters. */
  readonly months: readonly Month[];
  readonly isByQuarter: boolean;
  readonly dimensions: readonly TrueDimension[];
  readonly amountOf: (measure: number, scenario: ScenarioKind, month: Month, members: readonly number[]) => number;
}

const MEASURES: Readonly<Record<"en" | "de" | "fr", readonly Measure[]>> = {
  en: [
    { name: "Sales", nature: "income", decimals: null },
    { name: "Service revenue", nature: "income", decimals: null },
    { name: "Subscription income", nature: "income", decimals: null },
    { name: "Cost of sales", nature: "expense", decimals: null },
    { name: "Salaries", nature: "expense", decimals: null },
    { name: "Rent", nature: "expense", decimals: null },
    { name: "Marketing costs", nature: "expense", decimals: null },
    { name: "Units sold", nature: "count", decimals: 0 },
    { name: "Orders", nature: "count", decimals: 0 },
    { name: "Closing stock", nature: "money-balance", decimals: null },
    { name: "Cash balance", nature: "money-balance", decimals: null },
    { name: "Headcount", nature: "count-balance", decimals: 0 },
    { name: "FTE", nature: "count-balance", decimals: 1 },
  ],
  de: [
    { name: "Umsatz", nature: "income", decimals: null },
    { name: "Umsatzerlöse Handel", nature: "income", decimals: null },
    { name: "Wareneinsatz", nature: "expense", decimals: null },
    { name: "Personalaufwand", nature: "expense", decimals: null },
    { name: "Mietaufwand", nature: "expense", decimals: null },
    { name: "Absatzmenge", nature: "count", decimals: 0 },
    { name: "Lagerbestand", nature: "money-balance", decimals: null },
    { name: "Mitarbeiter", nature: "count-balance", decimals: 0 },
  ],
  fr: [
    { name: "Chiffre d'affaires", nature: "income", decimals: null },
    { name: "Coût des ventes", nature: "expense", decimals: null },
    { name: "Charges de personnel", nature: "expense", decimals: null },
    { name: "Loyers", nature: "expense", decimals: null },
    { name: "Quantité vendue", nature: "count", decimals: 0 },
    { name: "Effectif", nature: "count-balance", decimals: 0 },
  ],
};

const DIMENSIONS: Readonly<Record<"en" | "de" | "fr", readonly TrueDimension[]>> = {
  en: [
    { name: "Region", members: ["North", "South", "West", "Overseas"] },
    { name: "Product line", members: ["Chairs", "Tables", "Lamps", "Shelves", "Rugs"] },
    { name: "Cost centre", members: ["4711", "4712", "4800", "4850"] },
    { name: "Channel", members: ["Web shop", "Retail", "Partners"] },
    { name: "Customer", members: ["Alder & Co", "Birch Ltd", "Cedar Inc", "Dogwood plc"] },
  ],
  de: [
    { name: "Region", members: ["Nord", "Süd", "Österreich"] },
    { name: "Kostenstelle", members: ["100 Verwaltung", "200 Fertigung", "300 Vertrieb"] },
    { name: "Sparte", members: ["Möbel", "Licht", "Textil"] },
  ],
  fr: [
    { name: "Agence", members: ["Lille", "Nîmes", "Orléans"] },
    { name: "Produit", members: ["Chaises", "Tables", "Éclairage"] },
  ],
};

export type Language = "en" | "de" | "fr";

/** Draws a table of figures. */
export function drawTruth(random: Random, language: Language): TableTruth {
  const dimensions = random.some(DIMENSIONS[language], random.pick([0, 1, 1, 1, 2, 2])).map((one) => ({
    name: one.name,
    members: one.members.slice(0, random.whole(2, one.members.length)),
  }));
  const measures = random.some(MEASURES[language], random.pick([1, 1, 2, 3, 4]));
  const scenarios: readonly ScenarioKind[] = random.pick([
    ["actual"],
    ["actual"],
    ["actual", "budget"],
    ["actual", "budget"],
    ["budget"],
    ["forecast"],
    ["actual", "budget", "forecast"],
    ["actual", "target"],
  ]);
  const isByQuarter = random.chance(0.08);
  const start = monthOf(
    random.whole(2023, 2025),
    isByQuarter ? random.pick([1, 4, 7, 10]) : random.pick([1, 1, 1, 4, 7, 10, random.whole(1, 12)]),
  );
  const count = isByQuarter ? random.pick([2, 4, 8]) : random.pick([1, 3, 6, 12, 12, 12, 14, 24]);
  const cells = new Map<string, number>();
  const amountOf: TableTruth["amountOf"] = (measure, scenario, month, members) => {
    const key = [measure, scenario, month, ...members].join("|");
    const known = cells.get(key);
    if (known !== undefined) return known;
    const { nature } = measures[measure]!;
    const size = nature === "count" ? 900 : nature === "count-balance" ? 60 : 90_000;
    const isNegative = (nature === "income" || nature === "expense") && random.chance(0.04);
    const amount = Math.round(random.number() * size * 100 + 100) * (isNegative ? -1 : 1);
    cells.set(key, amount);
    return amount;
  };
  return {
    measures,
    scenarios,
    months: Array.from({ length: count }, (_, i) => start + i * (isByQuarter ? 3 : 1)),
    isByQuarter,
    dimensions,
    amountOf,
  };
}
