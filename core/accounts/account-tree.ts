import type { Account } from "./account.ts";

/** The chart of accounts, ready for look-ups. Parents hold no facts: they are the sum of their leaves. */
export interface AccountTree {
  readonly accounts: ReadonlyMap<string, Account>;
  readonly leaves: ReadonlyMap<string, readonly string[]>;
}

/** What is wrong with a chart of accounts, in a sentence per finding. */
export function accountProblems(accounts: readonly Account[]): string[] {
  const byKey = new Map(accounts.map((a) => [a.key, a]));
  const problems: string[] = [];
  if (byKey.size !== accounts.length) problems.push("An account key is used twice: keys must be unique.");
  for (const account of accounts) {
    if (account.parent === null) continue;
    const parent = byKey.get(account.parent);
    if (!parent) {
      problems.push(`Account "${account.key}" names the parent "${account.parent}", which is not in the chart.`);
      continue;
    }
    const alike =
      parent.behaviour === account.behaviour &&
      parent.decimals === account.decimals &&
      parent.unit.kind === account.unit.kind;
    if (!alike) {
      problems.push(
        `Account "${account.key}" and its parent "${parent.key}" gather differently: a parent sums its children, so time behaviour, unit and decimals must agree.`,
      );
    }
    if (reaches(byKey, account.parent, account.key)) {
      problems.push(`Account "${account.key}" is its own ancestor: give it another parent.`);
    }
  }
  return problems;
}

/** Builds the tree. Throws a `RangeError` with the first problem when the chart is not sound. */
export function buildAccountTree(accounts: readonly Account[]): AccountTree {
  const problem = accountProblems(accounts)[0];
  if (problem) throw new RangeError(problem);
  const byKey = new Map(accounts.map((a) => [a.key, a]));
  const parents = new Set(accounts.map((a) => a.parent));
  const leaves = new Map<string, string[]>(accounts.map((a) => [a.key, []]));
  for (const leaf of accounts.filter((a) => !parents.has(a.key))) {
    for (let at: Account | undefined = leaf; at; at = at.parent === null ? undefined : byKey.get(at.parent)) {
      leaves.get(at.key)!.push(leaf.key);
    }
  }
  return { accounts: byKey, leaves };
}

function reaches(byKey: ReadonlyMap<string, Account>, from: string, target: string): boolean {
  const seen = new Set<string>();
  for (let at: string | null | undefined = from; at && !seen.has(at); at = byKey.get(at)?.parent) {
    if (at === target) return true;
    seen.add(at);
  }
  return false;
}
