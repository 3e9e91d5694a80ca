import { isPresent } from "../figures/figure.ts";
import { isOrAre } from "../formats/verb.ts";
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

/**
 * The message of one KPI by members, drafted from their figures: who is furthest behind (or, when
 * no one is, ahead) and how the others stand.
 */
export function memberMessage(title: string, rows: readonly MessageRow[]): string {
  if (rows.length === 0) return `${title}: nothing to show.`;
  const judged = rows.filter((row) => row.judgement !== null);
  if (judged.length === 0) return `${title} cannot be compared with ${rows[0]!.basisName}.`;
  const count = (judgement: MessageRow["judgement"]) => judged.filter((row) => row.judgement === judgement).length;
  const worst = largest(rows, "unfavourable");
  const shown = worst ?? largest(rows, "favourable");
  if (!shown) {
    const [off] = judged.filter(({ judgement }) => judgement !== "on plan").toSorted(bySize);
    if (off) return `${title}: ${off.name} is ${varianceWords(off)}.`;
    const who = judged.length === 1 ? `${judged[0]!.name} is` : `${allOf(judged.length)} are`;
    return `${title}: ${who} on plan against ${rows[0]!.basisName}.`;
  }
  const lead = `${title}: ${shown.name} is ${varianceWords(shown)}`;
  if (!worst) return `${lead}; none of ${judged.length} is unfavourable.`;
  const [ahead, behind] = [count("favourable"), count("unfavourable")];
  if (judged.length === 1) return `${lead}.`;
  if (behind === judged.length) return `${lead}, as ${allOf(behind)} are.`;
  return `${lead}; ${ahead} of ${judged.length} ${ahead === 1 ? "is" : "are"} favourable, ${behind} unfavourable.`;
}

/** All of so many, as it is said: two are both. */
function allOf(count: number): string {
  return count === 2 ? "both" : `all ${count}`;
}

function largest(rows: readonly MessageRow[], judgement: "favourable" | "unfavourable"): MessageRow | undefined {
  return rows.filter((row) => row.judgement === judgement && varianceAmount(row) !== null).sort(bySize)[0];
}

/** The largest variances first. */
function bySize(a: MessageRow, b: MessageRow): number {
  const size = ({ delta }: MessageRow) => (isPresent(delta) ? Math.abs(delta.value) : 0);
  return size(b) - size(a);
}
