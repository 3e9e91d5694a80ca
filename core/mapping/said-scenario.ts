import type { Scenario } from "../cube/coverage.ts";
import { indexNames, plainName } from "../reading/names.ts";
import { readLabel, type Label } from "../reading/table/label.ts";
import type { NameDecision } from "./mapping.ts";
import type { Proposal } from "./proposal.ts";
import type { MappingView } from "./mapping-view.ts";
import { SCENARIO_CODES } from "./understand-rows.ts";

/** What scenarios are called at the head of a column, by their kind. */
const SCENARIO_WORDS: Readonly<Record<Scenario["kind"], RegExp>> = {
  actual: /^(actuals?|ist|real|effective|effektiv|réel|reported)$/,
  budget: /^(budget(ed)?|plan(ned)?|soll|bud)$/,
  forecast: /^(forecast|fc|fcst|outlook|estimate|hochrechnung|prognose|erwartung)$/,
  target: /^(targets?|goals?|ziel|objective)$/,
};

/** The scenario that a column's head names: by its own name, or by what scenarios of its kind are called. */
export function scenarioOfHead(
  name: string,
  view: MappingView,
  names: ReadonlyMap<string, string>,
): string | undefined {
  const plain = plainName(name.replace(/[[(].*$/, "").replace(/\b(fy)?(19|20)?\d\d\b/gi, ""));
  const own = names.get(plainName(name)) ?? names.get(plain);
  if (own !== undefined) return own;
  const kind = (Object.keys(SCENARIO_WORDS) as Scenario["kind"][]).find((key) => SCENARIO_WORDS[key].test(plain));
  const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
  return ofKind.length === 1 ? ofKind[0]!.key : undefined;
}

/** The scenario that a label names: by its own name, or by its kind where only one is of that kind. */
export function scenarioOfLabel({ scenario: kind, scenarioText, text }: Label, view: MappingView): string | undefined {
  const names = indexNames(view.scenarios);
  const own = names.get(plainName(text)) ?? names.get(plainName(scenarioText));
  if (own !== undefined) return own;
  const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
  return ofKind.length === 1 ? ofKind[0]!.key : undefined;
}

/** What the texts of a column of scenarios stand for, where they are not called so here: "Ist", "FC", "B". */
export function decideScenarios({ profiles, columns, valuesOf, view }: Proposal): Record<string, NameDecision> {
  const place = profiles.findIndex((p) => columns[p.name]?.as === "scenario");
  const names = indexNames(view.scenarios);
  const texts = place < 0 ? [] : valuesOf(place).filter((text) => !names.has(plainName(text)));
  const kindOf = (text: string) => readLabel(text).scenario ?? SCENARIO_CODES[text.toUpperCase()];
  return Object.fromEntries(
    texts.flatMap((text): [string, NameDecision][] => {
      const kind = kindOf(text);
      if (kind === "prior-year") return [[text, { reject: true }]];
      const ofKind = view.scenarios.filter((scenario) => scenario.kind === kind);
      // Two texts of one kind are two versions: a person says which is which.
      const isOnly = texts.filter((other) => kindOf(other) === kind).length === 1;
      return ofKind.length === 1 && isOnly ? [[text, { to: ofKind[0]!.key }]] : [];
    }),
  );
}

/** The scenario that a file's name says; the actual where it says none. */
export function scenarioOfFile(fileName: string, view: MappingView): string {
  const plain = ` ${plainName(fileName.replace(/[._-]+/g, " "))} `;
  const named = view.scenarios.find((s) => s.kind !== "actual" && plain.includes(` ${plainName(s.name)} `));
  return named?.key ?? view.scenarios.find((s) => s.kind === "actual")?.key ?? "actual";
}
