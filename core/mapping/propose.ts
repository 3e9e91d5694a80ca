import { formatMonth } from "../calendar/month.ts";
import { currencyInHead, currencyInTitle } from "../currency/currency-code.ts";
import { listed } from "../formats/listed.ts";
import type { ColumnProfile } from "../reading/column-profile.ts";
import { indexNames, newKey, plainName } from "../reading/names.ts";
import { monthOfParts, saysMonth } from "../reading/table/period-parts.ts";
import { weighColumns, type ColumnEvidence } from "./column-evidence.ts";
import { titleOf } from "./file-title.ts";
import { ledgerSides } from "./ledger-sides.ts";
import { newAccount } from "./made-account.ts";
import type { Doubt, Mapping, Meaning, NewAccount } from "./mapping.ts";
import { plannedView, type MappingView } from "./mapping-view.ts";
import { startProposal, type FigureEvidence, type Proposal } from "./proposal.ts";
import { proposeAccounts } from "./propose-accounts.ts";
import { fittingDataset, grainOf, proposeDimensions } from "./propose-dataset.ts";
import { figureColumns, proposeByName, proposeUnderstood } from "./propose-figures.ts";
import { proposeLabels } from "./propose-labels.ts";
import { proposeRates } from "./propose-rates.ts";
import { signRuleOf } from "./propose-sign.ts";
import { decideScenarios, scenarioOfFile, scenarioOfLabel } from "./said-scenario.ts";
import type { Sample } from "./sample.ts";
import { markOf } from "./table-mark.ts";
import type { Understanding } from "./understand-table.ts";

/** What a proposal is made from besides the rows. */
export interface ProposalSource {
  readonly view: MappingView;
  readonly fileName: string;
  /** What stands above the table. */
  readonly heading?: string;
  /** The rows as they stand in the file: headings without amounts do not outlive the steps. */
  readonly raw?: Sample;
  /** The structure of the table, where it was understood. */
  readonly understood?: Understanding | undefined;
}

/**
 * Proposes what each column means, by the structure of the table, by its values and by its name, and the dataset that
 * fits; a new one when the rows speak of nothing that is there.
 */
export function proposeMapping(profiles: readonly ColumnProfile[], sample: Sample, source: ProposalSource): Mapping {
  const { view, fileName, heading = "", raw = sample } = source;
  const ofRates = proposeRates(profiles, sample, { view, title: `${heading} ${fileName.replace(/[_.]+/g, " ")}` });
  if (ofRates) return ofRates;
  const proposal = startProposal(profiles, sample, { view, understood: source.understood });
  const { columns, understood, has } = proposal;
  proposeLabels(proposal);
  const made = { accounts: [] as NewAccount[], keys: new Set(view.accounts.map(({ key }) => key)) };
  const evidence = gatherEvidence(proposal, { title: titleOf(fileName), heading, made });
  const dataset = fittingDataset(proposal);
  const fixed = understood
    ? (proposeUnderstood(proposal, evidence), { account: null, byScenario: false })
    : proposeByName(proposal, evidence);
  const brought =
    !dataset && has("account") ? proposeAccounts(profiles, { sample, raw }, columns, made.keys) : undefined;
  for (const name of [brought?.nameColumn, ...(brought?.classColumns ?? [])])
    if (typeof name === "string") columns[name] = { as: "ignore" };
  const dimensions = dataset ? [] : proposeDimensions(proposal, evidence);
  // What the dataset is not kept by stays out until someone says otherwise.
  if (dataset)
    for (const [name, meaning] of Object.entries(columns))
      if (meaning.as === "dimension" && !dataset.dimensions.includes(meaning.dimension))
        columns[name] = { as: "ignore" };
  const grain = grainOf(proposal);
  for (const { name } of profiles) columns[name] ??= { as: "ignore" };
  const currency = has("currency")
    ? undefined
    : (currencyInTitle(heading, view.currency) ?? currencyInTitle(fileName, view.currency));
  nameCurrencies(columns, currency, view);
  const mapping: Mapping = {
    dataset: dataset?.key ?? newKey(evidence.title, new Set(view.datasets.map(({ key }) => key)), "-"),
    columns,
    dateFormat: profiles.find(({ name }) => columns[name]?.as === "period")?.dateFormat ?? "iso",
    fixed: {
      scenario: has("scenario") || fixed.byScenario ? null : scenarioOfAll(proposal, fileName),
      account: fixed.account,
      month: monthOfTitle(proposal),
      // A title, or a column's head, that speaks of one currency says what its amounts are in.
      ...(currency === undefined || currency === view.currency ? {} : { currency }),
    },
    sign: "own",
    fractions: "stop",
    apart: Object.fromEntries(
      [...evidence.apart].map(([name, { why, ratio }]) => [name, { why, ...(ratio ? { ratio } : {}) }]),
    ),
    ...(brought && brought.sums.length > 0 ? { sums: brought.sums } : {}),
    accounts: brought?.decisions ?? {},
    scenarios: decideScenarios(proposal),
    members: {},
    creates: {
      dataset: dataset ? null : { name: evidence.title, grain },
      dimensions,
      accounts: [...made.accounts, ...(brought?.accounts ?? [])],
    },
  };
  if (evidence.ledger.size > 0) return { ...mapping, sign: "debit" };
  const alike = alikeDoubts(understood?.alike ?? []);
  if (!dataset && !brought) return withDoubts(mapping, alike);
  const { sign, doubt } = signRuleOf(mapping, sample, plannedView(view, mapping), markOf(profiles));
  return withDoubts({ ...mapping, sign }, doubt ? [...alike, doubt] : alike);
}

/** What is known of the columns of figures: how they go together, and which of them are sides of a ledger. */
function gatherEvidence(
  proposal: Proposal,
  {
    title,
    heading,
    made,
  }: { title: string; heading: string; made: { readonly accounts: NewAccount[]; readonly keys: Set<string> } },
): FigureEvidence {
  const { profiles, sample, view, hints, has } = proposal;
  const numbers = figureColumns(proposal);
  const weighed = weighColumns(profiles, sample);
  const apart = new Map<string, ColumnEvidence>(weighed.apart);
  for (const { name } of profiles) {
    const hint = hints[name];
    if (hint?.as === "apart" && !apart.has(name)) apart.set(name, { nature: "derived", why: hint.why });
  }
  const known = indexNames(view.accounts);
  const beside = profiles.map(({ name }) => name).join(" ");
  return {
    numbers,
    apart,
    balances: weighed.balances,
    // "Soll" is a debit beside "Haben", and a budget elsewhere.
    ledger: has("account") ? ledgerSides(numbers) : new Map(),
    title,
    heading,
    accountFor: (name, { isQuantity = false, isBalance = false, decimals = 0 }) => {
      const own = view.accounts.find(({ key }) => key === known.get(plainName(name)));
      // An account of the books is not fed from another file unless someone says so.
      if (own && !view.datasets.some(({ accounts }) => accounts.has(own.key))) return own.key;
      const said = `${name} ${title} ${heading}`;
      const account = newAccount(name, { isQuantity, isBalance, decimals }, { said, beside }, made.keys);
      made.keys.add(account.key);
      made.accounts.push(account);
      return account.key;
    },
  };
}

/** The scenario that the title says, or the file's name. */
function scenarioOfAll({ understood, view }: Proposal, fileName: string): string {
  const said = understood?.title.scenario;
  return (said ? scenarioOfLabel(said, view) : undefined) ?? scenarioOfFile(fileName, view);
}

/** The month that the title says, where no column says any. */
function monthOfTitle({ understood, view, has }: Proposal): string | null {
  if (!understood || has("period") || !saysMonth(understood.title.period)) return null;
  const month = monthOfParts(understood.title.period, view.calendar);
  return month === undefined ? null : formatMonth(month);
}

/** Columns whose heads speak of another currency than the file are of that. */
function nameCurrencies(columns: Record<string, Meaning>, ofFile: string | undefined, view: MappingView): void {
  for (const [name, meaning] of Object.entries(columns)) {
    if (meaning.as !== "amount") continue;
    const own = currencyInHead(name, view.currency);
    if (own !== undefined && own !== (ofFile ?? view.currency)) columns[name] = { ...meaning, currency: own };
  }
}

function withDoubts(mapping: Mapping, doubts: readonly Doubt[]): Mapping {
  return doubts.length > 0 ? { ...mapping, doubts } : mapping;
}

/** Columns that only their place tells apart are asked about. */
function alikeDoubts(names: readonly string[]): Doubt[] {
  if (names.length === 0) return [];
  const shown = names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : listed(names);
  return [
    {
      key: "alike",
      text: `Several columns say the same of what they hold: ${shown}. Posting adds them up. If one is a total or another version, choose what each means first.`,
      ways: [{ name: "Add them up" }],
      settled: null,
    },
  ];
}
