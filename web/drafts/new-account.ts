import type { Definition } from "#contract/intake.ts";

type CreatedAccount = Definition["rules"]["mapping"]["creates"]["accounts"][number];

/** The accounts that a file can bring along where none of the company's is meant. */
export const NEW_ACCOUNTS = [
  { key: "new income", kind: "income" },
  { key: "new expense", kind: "expense" },
] as const;

/** An account of money that is made with the file. */
export function newAccount(key: string, name: string, kind: "income" | "expense"): CreatedAccount {
  return { key, name, kind, behaviour: "flow", unit: { kind: "money" }, decimals: 2 };
}
