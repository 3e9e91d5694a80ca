import { isPresent } from "../figures/figure.ts";
import { isOrAre } from "./verb.ts";
import { varianceAmount, varianceWords, type VarianceFacts } from "./variance-words.ts";

/** A scorecard row as the message sees it. */
export interface MessageRow extends VarianceFacts {
  readonly name: string;
}

/**
 * The message of a scorecard, drafted from its own figures: how the first KPI
 * that can be compared stands, and the largest favourable and unfavourable variances in money below it.
 */
export function scorecardMessage(rows: readonly MessageRow[]): string {
  const [first] = rows;
  if (!first) return "There are no KPIs on this page.";
  const lead = rows.find((row) => isPresent(row.delta));
  if (!lead)
    return `Nothing on this page can be compared with ${first.basisName}. ${isPresent(first.delta) ? "" : first.delta.detail}`;
  const money = rows.filter((row) => row.unit.kind === "money" && row.name !== lead.name && isPresent(row.delta));
  const worst = largest(money, "unfavourable");
  const best = worst ? undefined : largest(money, "favourable");
  const tail = worst
    ? `${lead.judgement === "unfavourable" ? "and" : "but"} ${worst.name.toLowerCase()} ${isOrAre(worst.name)} ${varianceWords(worst)}`
    : best && `and ${best.name.toLowerCase()} ${isOrAre(best.name)} ${varianceWords(best)}`;
  return `${lead.name} ${isOrAre(lead.name)} ${varianceWords(lead)}${tail ? `, ${tail}` : ""}.`;
}

function largest(rows: readonly MessageRow[], judgement: "favourable" | "unfavourable"): MessageRow | undefined {
  const size = (row: MessageRow) => (isPresent(row.delta) ? Math.abs(row.delta.value) : 0);
  return rows
    .filter((row) => row.judgement === judgement && varianceAmount(row) !== null)
    .sort((a, b) => size(b) - size(a))[0];
}
