import type { Scenario } from "../../cube/coverage.ts";
import { isTimeless, readPeriodParts, type PeriodParts } from "./period-parts.ts";

/** Scenarios as headings name them; the prior year's is the actual of the year before. */
export type SaidScenario = Scenario["kind"] | "prior-year";

/** Everything that a heading says at once: "Act Jan 2025 (k€)" is of a scenario, a month and a unit. */
export interface Label {
  readonly text: string;
  readonly period: PeriodParts;
  readonly scenario: SaidScenario | null;
  /** As it stands, such as "FC2". */
  readonly scenarioText: string;
  readonly isTotal: boolean;
  readonly isVariance: boolean;
  readonly isPercent: boolean;
  /** What is left when all of that is taken away: what is measured, or a member. */
  readonly rest: string;
}

const bounded = (source: string) => new RegExp(`(?<![\\p{L}\\d])(?:${source})(?![\\p{L}\\d])`, "giu");

const SCENARIOS: readonly (readonly [SaidScenario, RegExp])[] = [
  ["prior-year", bounded("prior year|previous year|last year|PY|LY|Vorjahr|VJ|année précédente|N-1|année N-1")],
  ["actual", bounded("actuals?|act|ist|istwerte?|effective|effektiv|réels?|réalisé|reel|reported")],
  ["budget", bounded("budget(?:ed)?|bud|plan(?:ned)?|soll|planwerte?|prévu")],
  [
    "forecast",
    bounded("forecast|fcst|fc|fc\\d|outlook|latest estimate|hochrechnung|prognose|erwartung|prévisions?|estimate"),
  ],
  ["target", bounded("targets?|goals?|ziele?|zielwerte?|objectifs?")],
];
const TOTAL = bounded(
  "total général|grand total|sub-?total|totals?|sum|gesamtsumme|gesamtergebnis|zwischensumme|summe|gesamt|somme|full year|ytd|year to date|kumuliert|kum|cumul|jahr|year",
);
const VARIANCE =
  /Δ|(?<![\p{L}])(?:variances?|var|difference|diff|delta|abweichung|abw|deviation|écart|ecart)(?![\p{L}])/iu;
const PERCENT = /%|(?<![\p{L}])(?:percent|prozent|pct)(?![\p{L}])/iu;

const known = new Map<string, Label>();
const MOST_KNOWN = 20_000;

/** Reads a heading. */
export function readLabel(text: string): Label {
  const found = known.get(text);
  if (found) return found;
  const label = read(text);
  if (known.size < MOST_KNOWN) known.set(text, label);
  return label;
}

function read(text: string): Label {
  const { parts, rest: untimed } = readPeriodParts(text.trim());
  let rest = untimed;
  let scenario: SaidScenario | null = null;
  let scenarioText = "";
  for (const [kind, pattern] of SCENARIOS) {
    const [first] = rest.match(pattern) ?? [];
    if (first === undefined) continue;
    scenario = kind;
    scenarioText = first;
    rest = rest.replace(pattern, " ");
    break;
  }
  const isVariance = VARIANCE.test(rest);
  const isPercent = PERCENT.test(rest);
  const isTotal = !isVariance && rest.search(TOTAL) >= 0;
  if (isTotal) rest = rest.replace(TOTAL, " ");
  return {
    text,
    period: parts,
    scenario,
    scenarioText,
    isTotal,
    isVariance,
    isPercent,
    rest: bare(rest),
  };
}

/** Without units in brackets, and without signs at its ends that joined it to what was taken away. */
function bare(text: string): string {
  return text
    .replace(/[([][^)\]]{0,20}[)\]]/g, " ")
    .replace(/\s+/g, " ")
    .replace(/^[\s,;:/|.'’–—-]+|[\s,;:/|.'’–—-]+$/g, "")
    .trim();
}

/** Whether a heading says nothing but a time. */
export function isPeriodOnly(label: Label): boolean {
  return !isTimeless(label.period) && label.scenario === null && label.rest === "" && !label.isVariance;
}
