import { fiscalQuarterStart, monthsName } from "../calendar/fiscal-calendar.ts";
import { RATES_DIMENSION } from "../currency/rates-dataset.ts";
import { monthsBetween, type Month } from "../calendar/month.ts";
import { toMajor } from "../figures/amount.ts";
import { bringsRates, plannedView, type MappingView } from "../mapping/mapping-view.ts";
import { proposeNames } from "../reading/names.ts";
import { sameNumber, subtractTexts } from "../figures/exact-sum.ts";
import { listed } from "../formats/listed.ts";
import { formatNumber } from "../formats/number-words.ts";
import { alreadyPosted, overlapping } from "./already-posted.ts";
import { writeAmount } from "./write-amount.ts";
import type { CheckRule, Finding, FoundLine, FoundName, Severity } from "./finding.ts";
import type { FaultGroup, LoadResult, LoadRules } from "./load-run.ts";
import type { MonthAmount, CheckContext } from "./check-context.ts";

/** Months before the file in which an account must always have had postings to be missed. */
const USUAL_MONTHS = 3;
const LEAST_HISTORY = 8;

/** Everything the rules find, stops first. A file may be posted when no stop is without an answer. */
export function checkLoad(result: LoadResult, context: CheckContext): Finding[] {
  const planned = plannedView(context.view, context.rules.mapping);
  const findings = [
    ...result.faults.map((group) => faultFinding(group, planned, context)),
    ...nothing(result),
    ...keptElsewhere(result, planned, context),
    ...alreadyPosted(result, planned, context),
    bringsRates(context.rules.mapping) ? broughtRates(result, context) : controlTotal(result, context),
    ...converted(result, planned),
    ...repeatedLines(result),
    ...doubles(result, context),
    ...missingPeriods(result, context),
    ...silentAccounts(result, planned, context),
    ...outliers(result, planned, context),
    ...retired(result, planned),
    ...rounded(result),
    ...addedUp(result, planned),
    ...notFound(result, context.rules),
    ...additions(result, planned),
    ...notAdded(context.rules),
    ...broughtAccounts(result, context),
    ...guessedKinds(result, context),
    ...asked(context.rules),
    ...leftSums(context.rules),
  ];
  const rank = (finding: Finding) => (finding.answer === null ? ["stop", "warn", "note"].indexOf(finding.severity) : 3);
  return findings.sort((a, b) => rank(a) - rank(b));
}

/** Whether nothing stands against posting. */
export function mayPost(findings: readonly Finding[]): boolean {
  return findings.every((finding) => finding.severity !== "stop" || finding.answer !== null);
}

const FAULT_WORDS: Readonly<Record<FaultGroup["rule"], (lines: string, group: FaultGroup) => string>> = {
  "unknown-account": (lines, group) =>
    `${lines} name an account that is not in the chart of accounts: ${examplesOf(group)}.`,
  "parent-account": (lines, group) =>
    `${lines} name an account that is the sum of others: ${examplesOf(group)}. Map it to one of the accounts below it.`,
  "unknown-scenario": (lines, group) => `${lines} name a scenario that does not exist: ${examplesOf(group)}.`,
  "unknown-member": (lines, group) => `${lines} name a member that does not exist: ${examplesOf(group)}.`,
  "no-period": (lines) => `${lines} have no period.`,
  "unreadable-period": (lines, group) => `${lines} have a period that cannot be read: ${examplesOf(group)}.`,
  "no-amount": (lines) => `${lines} have no amount.`,
  "unreadable-amount": (lines, group) => `${lines} have an amount that is not a number: ${examplesOf(group)}.`,
  fraction: (lines, group) => `${lines} have a fraction where only whole units are kept: ${examplesOf(group)}.`,
  "too-large": (lines, group) =>
    `${lines} have an amount too large to be stored to the last digit: ${examplesOf(group)}.`,
  "foreign-currency": (lines, group) =>
    `${lines} are in another currency than the company's, and there is no rate for the month: ${examplesOf(group)}. Amounts in several currencies are not added up: load the currency's rates as a file of their own, or leave those lines out.`,
  "two-currencies": (lines, group) =>
    `${lines} have a currency sign that differs from their currency column: ${examplesOf(group)}. Ignore the currency column if the amounts are right, or remove the sign with a step.`,
  "foreign-movement": (lines, group) =>
    `${lines} give movements of a balance in another currency: ${examplesOf(group)}. A balance is converted at the rate of the month's end: load closing balances, or leave those lines out.`,
  "second-rate": (lines, group) =>
    `${lines} give a second rate for the same currency and month: ${examplesOf(group)}. A month has one average and one closing rate: leave the others out, or load a file of rates by month.`,
  "no-rate": (lines, group) => `${lines} have a rate that is not above 0: ${examplesOf(group)}.`,
  "movement-of-balance": (lines, group) =>
    `${lines} give movements of an account that keeps a balance, not its closing balance: ${examplesOf(group)}. If the file starts with the opening balance, or from zero, they can be added up from its first month; otherwise load closing balances, or leave those lines out.`,
  "rejected-name": (lines, group) => `${lines} name something that is left out: ${examplesOf(group)}.`,
  "rejected-line": (lines) => `${lines} you rejected.`,
};

function faultFinding(group: FaultGroup, planned: MappingView, context: CheckContext): Finding {
  const { rule, count } = group;
  const chosen = rule === "rejected-name" || rule === "rejected-line";
  const isRejected = chosen || context.rules.rejectedRules.includes(rule);
  const message = agreeing(FAULT_WORDS[rule](countLines(count), group), count);
  return {
    rule,
    severity: chosen ? "note" : "stop",
    message,
    count,
    lines: group.lines,
    names: isRejected ? [] : unknownNames(group, planned, context),
    answer: isRejected ? `${countLines(count)} left out` : null,
  };
}

function unknownNames(group: FaultGroup, planned: MappingView, context: CheckContext): FoundName[] {
  return [...group.texts].flatMap(([column, texts]) =>
    [...texts].flatMap(([text, lines]): FoundName[] => {
      if (group.rule === "unknown-account" || group.rule === "parent-account") {
        const parents = new Set(planned.accounts.map((a) => a.parent));
        const leaves = planned.accounts.filter((a) => !parents.has(a.key) && !a.isRetired);
        return [{ thing: "account", text, lines, proposals: proposeNames(text, leaves) }];
      }
      if (group.rule === "unknown-scenario")
        return [{ thing: "scenario", text, lines, proposals: proposeNames(text, planned.scenarios) }];
      const meaning = context.rules.mapping.columns[column];
      if (group.rule !== "unknown-member" || meaning?.as !== "dimension") return [];
      const members = planned.dimensions.find((d) => d.key === meaning.dimension)?.members ?? [];
      return [
        {
          thing: { dimension: meaning.dimension },
          text,
          lines,
          proposals: proposeNames(
            text,
            members.filter((m) => !m.isRetired),
          ),
        },
      ];
    }),
  );
}

/** Accounts that the file brings, by what they were taken for: what is good, and the sign, follow from it. */
function broughtAccounts(result: LoadResult, { view, rules }: CheckContext): Finding[] {
  const known = new Set(view.accounts.map((account) => account.key));
  const used = new Set(result.accounts.map(({ account }) => account));
  const brought = rules.mapping.creates.accounts.filter(({ key }) => !known.has(key) && used.has(key));
  // One account for the whole file, or one for each column, is told where it stands.
  if (Object.keys(rules.mapping.accounts).length === 0 || brought.length === 0) return [];
  const kinds = [...new Set(brought.map(({ kind }) => kind))].map((kind) => {
    const names = brought.filter((account) => account.kind === kind).map(({ name }) => name);
    return `${kind === "statistic" ? "counts" : kind}: ${names.length > 6 ? `${names.slice(0, 5).join(", ")} and ${names.length - 5} more` : names.join(", ")}`;
  });
  return [
    finding(
      "new-account",
      "warn",
      `Accounts that come with this file, by their names: ${kinds.join("; ")}. Look them over under “New accounts”: which way is good follows from it.`,
      { count: brought.length },
    ),
  ];
}

/** Accounts of which nothing says whether they are earned or spent: which way is good is not guessed. */
function guessedKinds(result: LoadResult, { view, rules }: CheckContext): Finding[] {
  const known = new Set(view.accounts.map((account) => account.key));
  const used = new Set(result.accounts.map(({ account }) => account));
  const guessed = rules.mapping.creates.accounts.filter(
    ({ key, isGuess }) => isGuess && !known.has(key) && used.has(key),
  );
  if (guessed.length === 0) return [];
  const names = list(guessed.map(({ name }) => `“${name}”`));
  return [
    finding(
      "kind-unknown",
      "stop",
      `Neither the file's name nor its columns say whether ${names} ${guessed.length === 1 ? "is" : "are"} income or costs. Which way is good, and what they come to together, follows from it.`,
      { count: guessed.length },
    ),
  ];
}

/** What the file leaves open, one question each. */
function asked({ mapping }: LoadRules): Finding[] {
  return (mapping.doubts ?? []).map(({ key, text, settled }) => ({
    ...finding("doubt", "stop", text, { answer: settled }),
    doubt: key,
  }));
}

/** Balances that lines of movements were added up to. */
function addedUp({ runningBalances }: LoadResult, planned: MappingView): Finding[] {
  if (runningBalances.length === 0) return [];
  const names = runningBalances.map((key) => planned.accounts.find((account) => account.key === key)?.name ?? key);
  return [
    finding(
      "running-balance",
      "warn",
      `Balances added up from what moved them, from the first month of this file on: ${list(names)}. What there was before has to be in the file.`,
      { count: names.length },
    ),
  ];
}

/** What steps looked up and did not find. */
function notFound({ effects }: LoadResult, { steps }: LoadRules): Finding[] {
  return effects.flatMap(({ missed }, i) => {
    const step = steps[i];
    if (!missed || missed.lines === 0 || step?.kind !== "look-up") return [];
    const more = missed.texts.length > 5 ? ` and others` : "";
    return [
      finding(
        "not-found",
        "warn",
        `${agreeing(`${countLines(missed.lines)} have`, missed.lines)} a text in ${step.column} that ${step.named} does not know: ${missed.texts
          .slice(0, 5)
          .map((text) => `“${text}”`)
          .join(
            ", ",
          )}${more}. ${listed(step.take.map(({ into }) => into))} ${step.take.length === 1 ? "stays" : "stay"} empty there.`,
        { count: missed.lines },
      ),
    ];
  });
}

/** Rows that sum up others, of an account column. */
function leftSums({ mapping: { sums = [], accounts } }: LoadRules): Finding[] {
  const left = sums.filter((text) => {
    const decision = accounts[text];
    return decision !== undefined && "reject" in decision;
  });
  if (left.length === 0) return [];
  return [
    finding("left-out", "note", `Left out, as they follow from other rows: ${left.join(", ")}.`, {
      count: left.length,
    }),
  ];
}

/** Columns that are known not to add up: said where they are left out, warned of where they are to be added up. */
function notAdded({ mapping }: LoadRules): Finding[] {
  const known = Object.entries(mapping.apart ?? {});
  const isAdded = (name: string) => ["amount", "quantity"].includes(mapping.columns[name]?.as ?? "");
  const added = known.filter(([name]) => isAdded(name)).map(([name, { why }]) => `${name} ${why}`);
  const left = known
    .filter(([name]) => mapping.columns[name]?.as === "ignore")
    .map(([name, { why }]) => `${name} ${why}`);
  return [
    ...(added.length === 0
      ? []
      : [finding("adds-up", "warn", `${added.join("; ")}. It does not add up over rows or months. Leave it out.`)]),
    ...(left.length === 0 ? [] : [finding("left-out", "note", `Left out of what is posted: ${left.join("; ")}.`)]),
  ];
}

function nothing(result: LoadResult): Finding[] {
  if (result.facts > 0) return [];
  const why =
    result.before.rows === 0 ? "The file has no rows below its header." : "No row of the file becomes a fact.";
  return [
    finding("nothing-to-post", "stop", `${why} Check the header line, the tidy steps and the columns' meanings.`),
  ];
}

/** A scenario keeps an account in one dataset: facts of it in two would be added up. */
function keptElsewhere(result: LoadResult, planned: MappingView, { rules }: CheckContext): Finding[] {
  const others = planned.datasets.filter((d) => d.key !== rules.mapping.dataset);
  const own = planned.datasets.find((d) => d.key === rules.mapping.dataset);
  const found = others.flatMap((dataset) =>
    result.accounts
      .filter(({ scenario, account }) => dataset.keeps.get(scenario)?.has(account))
      .map(({ account }) => ({
        dataset: dataset.name,
        account: planned.accounts.find((a) => a.key === account)?.name ?? account,
      })),
  );
  const first = found[0];
  if (!first) return [];
  const names = [...new Set(found.map((f) => f.account))];
  const shown = names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(" and ");
  return [
    finding(
      "kept-elsewhere",
      "stop",
      `${first.dataset} keeps ${shown} already, and posted to ${own?.name ?? "another dataset"} as well they would count twice. Post to ${first.dataset}, or map them to accounts of their own.`,
    ),
  ];
}

/** What rates come with the file: a sum of them would say nothing. */
function broughtRates(result: LoadResult, { view, rules }: CheckContext): Finding {
  const currencies = [...(result.usedMembers.get(RATES_DIMENSION) ?? [])].sort();
  const months = monthsName(view.calendar, [...new Set(result.months.map(({ month }) => month))]);
  const way =
    rules.mapping.priced === "own"
      ? `what one ${view.currency} costs in each`
      : `what one of each costs in ${view.currency}`;
  return finding(
    "rates",
    "note",
    `Rates of ${listed(currencies)} for ${months}, as ${way}. Where there are rates already, these count from now on, and what was converted with the former ones is converted anew.`,
    { count: result.facts },
  );
}

/** What was converted to the company's currency. */
function converted({ foreign }: LoadResult, { currency: own }: MappingView): Finding[] {
  const done = foreign.filter((amount) => !sameNumber(amount.converted, "0"));
  if (done.length === 0) return [];
  const words = done.map(({ currency, converted: amount }) => `${currency} became ${own} ${writeAmount(amount)}`);
  return [
    finding(
      "converted",
      "note",
      `Converted at the month's average rate, balances at its closing rate: ${list(words)}. Each amount keeps what it was.`,
      { count: done.length },
    ),
  ];
}

/** The file's amounts by currency, where it has several; empty where they can be added up. */
function mixedAmounts({ foreign, amountInFile }: LoadResult, own: string): string[] {
  const ownAmount = foreign.reduce((left, { inFile }) => subtractTexts(left, inFile), amountInFile);
  const all = [...(sameNumber(ownAmount, "0") ? [] : [{ currency: own, inFile: ownAmount }]), ...foreign];
  return all.length > 1 ? all.map(({ currency, inFile }) => `${currency} ${writeAmount(inFile)}`) : [];
}

function controlTotal(result: LoadResult, { control, answers, view }: CheckContext): Finding {
  const inFile = result.amountInFile;
  const mixed = mixedAmounts(result, view.currency);
  if (mixed.length > 0)
    return finding(
      "control-total",
      control === null ? "note" : "warn",
      `The file's amounts are in several currencies, which are not added up: ${list(mixed)}.${
        control === null
          ? ""
          : ` The control figure, ${writeAmount(control)}, can be of one of them only and is not compared.`
      }`,
    );
  const left = subtractTexts(inFile, result.amountInFacts);
  const split = sameNumber(left, "0")
    ? "All of it is posted"
    : `${writeAmount(result.amountInFacts)} of it is posted, ${writeAmount(left)} stays out`;
  if (control === null)
    return finding(
      "control-total",
      "note",
      `The file's amounts add up to ${writeAmount(inFile)}. No control figure is given to compare with. ${split}.`,
    );
  if (sameNumber(inFile, control))
    return finding(
      "control-total",
      "note",
      `The file's amounts add up to ${writeAmount(inFile)}, which is the control figure to the last digit. ${split}.`,
    );
  return finding(
    "control-total",
    "stop",
    `The file's amounts add up to ${writeAmount(inFile)}; the control figure is ${writeAmount(control)}: a difference of ${writeAmount(subtractTexts(inFile, control))}. ${split}.`,
    { answer: answers.acceptsDifference ? "The difference was accepted" : null },
  );
}

function repeatedLines({ repeated, areRowsCompared }: LoadResult): Finding[] {
  if (repeated.count === 0) return [];
  return [
    finding(
      "repeated-line",
      "warn",
      `${agreeing(`${countLines(repeated.count)} are`, repeated.count)} in the file twice, ${areRowsCompared ? "identical in every column" : "with the same reference, account, members and amount"}: ${exampleLines(repeated.lines)}.`,
      { count: repeated.count, lines: repeated.lines },
    ),
  ];
}

function doubles(result: LoadResult, { view }: CheckContext): Finding[] {
  const lines = result.doubles;
  if (lines.length === 0) return [];
  const months = monthsName(view.calendar, [...new Set(lines.map((d) => d.month))]);
  return [
    finding(
      "posted-double",
      "warn",
      `${agreeing(`${countLines(lines.length)} look`, lines.length)} like something posted for ${months}, with the same reference, account and amount: ${exampleLines(lines)}.`,
      { count: lines.length, lines },
    ),
  ];
}

function missingPeriods(result: LoadResult, { posted, view, rules }: CheckContext): Finding[] {
  const isQuarterly =
    plannedView(view, rules.mapping).datasets.find(({ key }) => key === rules.mapping.dataset)?.grain === "quarter";
  return [...new Set(result.months.map((m) => m.scenario))].flatMap((scenario) => {
    const own = result.months.filter((m) => m.scenario === scenario).map((m) => m.month);
    const before = posted.filter((p) => p.scenario === scenario && !own.includes(p.month)).map((p) => p.month);
    const known = new Set([...own, ...before]);
    const first = Math.min(...own);
    const start = Math.max(-Infinity, ...before.filter((m) => m < first));
    // A quarter's figures stand in its first month: the other two are no gap.
    const isDue = (month: Month) => !isQuarterly || fiscalQuarterStart(view.calendar, month) === month;
    const gap = monthsBetween(Number.isFinite(start) ? start : first, Math.max(...own)).filter(
      (m) => !known.has(m) && isDue(m),
    );
    if (gap.length === 0) return [];
    const name = view.scenarios.find((s) => s.key === scenario)?.name ?? scenario;
    return [
      finding(
        "missing-period",
        "warn",
        `${name}: nothing is posted for ${monthsName(view.calendar, gap)}, between what is there and this file.`,
      ),
    ];
  });
}

function silentAccounts(
  result: LoadResult,
  planned: MappingView,
  { history, answers, posted }: CheckContext,
): Finding[] {
  const months = result.months.filter((m) => m.scenario === "actual").map((m) => m.month);
  if (months.length === 0 || answers.posting === "beside") return [];
  const first = Math.min(...months);
  const byAccount = groupByAccount(history);
  const here = new Set(result.accounts.filter((a) => a.scenario === "actual").map((a) => a.account));
  // Accounts another file already brought for the same month are not missed in this one.
  const elsewhere = overlapping(result, posted);
  const brought = new Set(
    posted.filter((p) => months.includes(p.month) && !elsewhere.includes(p)).flatMap((p) => [...p.accounts]),
  );
  const silent = [...byAccount]
    .filter(
      ([account, amounts]) =>
        !here.has(account) &&
        !brought.has(account) &&
        monthsBetween(first - USUAL_MONTHS, first - 1).every((m) => amounts.has(m)),
    )
    .map(([account]) => planned.accounts.find((a) => a.key === account)?.name ?? account);
  if (silent.length === 0) return [];
  const names =
    silent.length > 4 ? `${silent.slice(0, 3).join(", ")} and ${silent.length - 3} more` : silent.join(", ");
  return [
    finding(
      "silent-account",
      "warn",
      `${names}: no line in this file, though there were postings in each of the ${USUAL_MONTHS} months before. They will count as 0.`,
    ),
  ];
}

function outliers(result: LoadResult, planned: MappingView, { history }: CheckContext): Finding[] {
  const byAccount = groupByAccount(history);
  const found = result.accounts.flatMap(({ scenario, account, month, amount }) => {
    const known = [...(byAccount.get(account) ?? [])].filter(([m]) => m < month && m >= month - 24).map(([, a]) => a);
    if (scenario !== "actual" || known.length < LEAST_HISTORY) return [];
    const [low, high] = [Math.min(...known), Math.max(...known)];
    const value = Number(amount);
    // As far outside the range of two years as that range is wide.
    if (high === low || (value <= high + (high - low) && value >= low - (high - low))) return [];
    const own = planned.accounts.find((a) => a.key === account);
    if (!own) return [];
    const write = (minor: number) =>
      formatNumber(toMajor(minor, own.decimals), own.unit.kind === "money" ? 0 : own.decimals);
    return [
      `${own.name} ${write(value)}, where the ${known.length} months before lie between ${write(low)} and ${write(high)}`,
    ];
  });
  if (found.length === 0) return [];
  const shown = found.slice(0, 3).join("; ");
  return [
    finding(
      "outlier",
      "warn",
      `Far from what is usual: ${shown}${found.length > 3 ? `; and ${found.length - 3} more` : ""}.`,
      {
        count: found.length,
      },
    ),
  ];
}

function retired(result: LoadResult, planned: MappingView): Finding[] {
  const used = new Set(result.accounts.map((a) => a.account));
  const names = [
    ...planned.accounts.filter((a) => a.isRetired && used.has(a.key)).map((a) => a.name),
    ...planned.dimensions.flatMap((d) =>
      d.members.filter((m) => m.isRetired && result.usedMembers.get(d.key)?.has(m.key)).map((m) => m.name),
    ),
  ];
  if (names.length === 0) return [];
  return [
    finding(
      "retired",
      "warn",
      `Retired, and still posted to: ${names.slice(0, 5).join(", ")}${names.length > 5 ? ` and ${names.length - 5} more` : ""}.`,
    ),
  ];
}

function rounded(result: LoadResult): Finding[] {
  if (result.roundedLines === 0) return [];
  return [
    finding(
      "rounded",
      "note",
      `${agreeing(`${countLines(result.roundedLines)} are`, result.roundedLines)} rounded to what their account keeps.`,
      {
        count: result.roundedLines,
      },
    ),
  ];
}

function additions(result: LoadResult, planned: MappingView): Finding[] {
  const byDimension = new Map<string, string[]>();
  for (const { dimension, name } of result.newMembers)
    byDimension.set(dimension, [...(byDimension.get(dimension) ?? []), name]);
  return [
    ...[...byDimension].map(([key, names]) => {
      const dimension = planned.dimensions.find((d) => d.key === key);
      return finding("new-member", "note", `New in ${dimension?.name ?? key}: ${list(names)}.`, {
        count: names.length,
      });
    }),
    ...(result.newAccounts.length > 0
      ? [
          finding(
            "new-account",
            "note",
            `New in the chart of accounts: ${list(result.newAccounts.map((a) => a.name))}.`,
            {
              count: result.newAccounts.length,
            },
          ),
        ]
      : []),
  ];
}

function groupByAccount(history: readonly MonthAmount[]): Map<string, Map<Month, number>> {
  const grouped = new Map<string, Map<Month, number>>();
  for (const { account, month, amount } of history) {
    const own = grouped.get(account) ?? new Map<Month, number>();
    grouped.set(account, own.set(month, (own.get(month) ?? 0) + amount));
  }
  return grouped;
}

function finding(
  rule: CheckRule,
  severity: Severity,
  message: string,
  more: { count?: number; lines?: readonly FoundLine[]; answer?: string | null } = {},
): Finding {
  return {
    rule,
    severity,
    message,
    count: more.count ?? 0,
    lines: more.lines ?? [],
    names: [],
    answer: more.answer ?? null,
  };
}

/** "1 line" or "1,204 lines". */
function countLines(count: number): string {
  return `${formatNumber(count, 0)} ${count === 1 ? "line" : "lines"}`;
}

/** Names for a sentence, the first few of many. */
const list = (names: readonly string[]) =>
  names.length > 5 ? `${names.slice(0, 4).join(", ")} and ${names.length - 4} more` : names.join(", ");

/** Sentences are written for several lines; of one, the verb takes its s. */
function agreeing(sentence: string, count: number): string {
  if (count !== 1) return sentence;
  return sentence.replace(/^(\S+ line) (name|have|stand|look|are|say|give)\b/, (_, head: string, verb: string) => {
    const single = {
      name: "names",
      have: "has",
      stand: "stands",
      look: "looks",
      are: "is",
      say: "says",
      give: "gives",
    }[verb]!;
    return `${head} ${single}`;
  });
}

function examplesOf(group: FaultGroup): string {
  const texts = [...group.texts.values()].flatMap((t) => [...t.keys()]);
  const shown = texts
    .slice(0, 3)
    .map((text) => (text === "" ? "an empty cell" : `“${text.length > 60 ? `${text.slice(0, 57)}…` : text}”`));
  return texts.length > 3 ? `${shown.join(", ")} and ${texts.length - 3} more` : shown.join(", ");
}

function exampleLines(lines: readonly FoundLine[]): string {
  const shown = lines.slice(0, 3).map((l) => `line ${l.line} (${l.value})`);
  return lines.length > 3 ? `${shown.join(", ")} and ${lines.length - 3} more` : shown.join(", ");
}
