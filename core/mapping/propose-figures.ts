import { getOrCreate } from "../collections/keyed.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { indexNames } from "../reading/names.ts";
import { readNumber, type DecimalMark } from "../reading/read-number.ts";
import { AMOUNT_NAME, EXPENSE_NAME, INCOME_NAME, QUANTITY_NAME, REFERENCE_NAME } from "./column-names.ts";
import { measureOf } from "./file-title.ts";
import { isBalanceNature } from "./made-account.ts";
import { natureOfName, type MeasureNature } from "./measure-nature.ts";
import type { FigureEvidence, Proposal } from "./proposal.ts";
import type { Sample } from "./sample.ts";
import { scenarioOfHead, scenarioOfLabel } from "./said-scenario.ts";
import { isAmountWord, type ColumnHint } from "./understand-table.ts";

/** Columns that steps made of others. */
const MADE_AMOUNT = /^Amount( \d+)?$/;

/** The columns of figures: what the structure of the table says they are, and what steps computed. */
export function figureColumns({ profiles, hints, understood, columns, valuesOf }: Proposal): ColumnProfile[] {
  // What steps computed has no heading of its own in the file.
  const isMade = ({ name, type }: ColumnProfile) =>
    type === "number" && hints[name] === undefined && !understood?.columns.includes(name);
  return profiles.filter((profile, place) =>
    understood
      ? hints[profile.name]?.as === "amount" || isMade(profile)
      : !columns[profile.name] && (profile.type === "number" || isAmountByName(profile, valuesOf(place))),
  );
}

/** A column that calls itself an amount is one, also when many of its cells are not what they should be. */
function isAmountByName(profile: ColumnProfile, values: readonly string[]): boolean {
  if (profile.type !== "text" || !AMOUNT_NAME.test(profile.name)) return false;
  return values.filter((v) => readNumber(v, profile.mark)).length * 3 >= values.length;
}

type Amount = Pick<Extract<ColumnHint, { as: "amount" }>, "measure" | "scenario">;

/** What figures mean where the table was understood: of which account and scenario each column is, or why it is left out. */
export function proposeUnderstood(proposal: Proposal, evidence: FigureEvidence): void {
  const { profiles, sample, understood, columns, has } = proposal;
  const { numbers, apart, balances, ledger, accountFor } = evidence;
  const amountOf = ({ name }: ColumnProfile): Amount => {
    const own = proposal.hints[name];
    return own?.as === "amount" ? own : { measure: name, scenario: null };
  };
  const natures = new Set(numbers.map((column) => natureOfName(amountOf(column).measure ?? column.name)));
  const made = new Map<string, string>();
  const hasAccount = has("account");
  for (const column of numbers) {
    const side = ledger.get(column.name);
    if (side !== undefined) {
      columns[column.name] = { as: "amount", account: null, scenario: null, side };
      continue;
    }
    const known = apart.get(column.name);
    if (known && known.nature !== "code") continue;
    const { measure, scenario: label } = amountOf(column);
    const said = measure ?? understood?.title.measure ?? null;
    const nature = said === null ? undefined : natureOfName(said);
    const scenario = label === null ? null : scenarioOfLabel(label, proposal.view);
    const why =
      whyApart(nature, natures) ??
      (scenario === undefined
        ? `is of “${label!.scenarioText}”, and there is no such version: add it under Structure, or choose another`
        : undefined);
    if (why !== undefined || scenario === undefined) {
      apart.set(column.name, { nature: "derived", why: why! });
      continue;
    }
    const isCounted = nature === "count" || nature === "count-balance" || isShareOfCount(column.name, evidence);
    const name = said ?? nameOfBare(column.name, label !== null, evidence);
    const account = hasAccount
      ? null
      : getOrCreate(made, name, () =>
          accountFor(name, {
            isQuantity: isCounted,
            isBalance: balances.has(column.name) || isBalanceNature(nature),
            decimals: decimalsOf(profiles.indexOf(column), sample, column.mark),
          }),
        );
    columns[column.name] = { as: isCounted ? "quantity" : "amount", account, scenario };
  }
}

/** Why figures of a nature are not posted beside others; `undefined` where they are. */
function whyApart(
  nature: MeasureNature | undefined,
  beside: ReadonlySet<MeasureNature | undefined>,
): string | undefined {
  if (nature === "rate") return "is a rate by its name: rates do not add up";
  if (nature === "price") return "is a price by its name: prices do not add up";
  const follows = nature === "result" && beside.has("income") && beside.has("expense");
  return follows ? "is a result: it follows from what is earned and spent beside it" : undefined;
}

/** What a share of a count gives is a count too, whatever it is called: sales of calls. */
function isShareOfCount(name: string, { apart }: FigureEvidence): boolean {
  return [...apart.values()].some(
    ({ ratio }) =>
      ratio?.isPercent &&
      ratio.amount === name &&
      (natureOfName(ratio.count) === "count" || QUANTITY_NAME.test(ratio.count)),
  );
}

/** What figures are called whose heading says nothing of them: as what stands above says, or the file is called. */
function nameOfBare(name: string, isScenario: boolean, { heading, title }: FigureEvidence): string {
  const isBare = isScenario || isAmountWord(name) || MADE_AMOUNT.test(name);
  return isBare ? (measureOf(heading) ?? title) : name;
}

/** Digits behind the mark that a column's numbers are written with, at most four. */
function decimalsOf(place: number, sample: Sample, mark: DecimalMark): number {
  const most = sample.rows.reduce((all, row) => Math.max(all, readNumber(row[place] ?? "", mark)?.decimals ?? 0), 0);
  return Math.min(4, most);
}

/**
 * What figures mean by the names of their columns, where there is no header to understand. Returns the account of all rows,
 * where columns are of scenarios and no column names accounts.
 */
export function proposeByName(
  proposal: Proposal,
  evidence: FigureEvidence,
): { account: string | null; byScenario: boolean } {
  const { view, columns, has } = proposal;
  const { numbers, ledger, title, accountFor } = evidence;
  const names = indexNames(view.scenarios);
  const ofScenarios = numbers.flatMap((column) => {
    const scenario = ledger.has(column.name) ? undefined : scenarioOfHead(column.name, view, names);
    return scenario === undefined ? [] : [{ column, scenario }];
  });
  if (ofScenarios.length > 0 && !has("scenario")) {
    for (const { column, scenario } of ofScenarios) columns[column.name] = { as: "amount", account: null, scenario };
    return { account: has("account") ? null : accountFor(title, {}), byScenario: true };
  }
  const ownMeasures = !has("account");
  for (const column of numbers) figureByName(column, ownMeasures, proposal, evidence);
  return { account: null, byScenario: false };
}

function figureByName(
  { name }: ColumnProfile,
  ownMeasures: boolean,
  { columns, has }: Proposal,
  evidence: FigureEvidence,
): void {
  const { apart, balances, ledger, heading, accountFor } = evidence;
  const isQuantity =
    isShareOfCount(name, evidence) || (QUANTITY_NAME.test(name) && !EXPENSE_NAME.test(name) && !INCOME_NAME.test(name));
  const known = apart.get(name);
  if (known && known.nature !== "code") return;
  const side = ledger.get(name);
  if (side !== undefined) {
    columns[name] = { as: "amount", account: null, scenario: null, side };
    return;
  }
  if (REFERENCE_NAME.test(name) && !AMOUNT_NAME.test(name) && !isQuantity) {
    if (!has("reference")) columns[name] = { as: "reference" };
    return;
  }
  if (known) return;
  // Months that were laid out as columns have no head of their own: what they are of is said above them.
  const said = MADE_AMOUNT.test(name) ? (measureOf(heading) ?? name) : name;
  columns[name] = {
    as: isQuantity ? "quantity" : "amount",
    account: ownMeasures ? accountFor(said, { isQuantity, isBalance: balances.has(name) }) : null,
    scenario: null,
  };
}
