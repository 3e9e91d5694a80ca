import { RATE_ACCOUNTS } from "#core/currency/rates-dataset.ts";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import type { EditableStructure } from "#contract/structure.ts";
import type { Draft } from "#contract/intake.ts";
import type { Choice } from "../ui/choice-word.tsx";

/** Accounts that can hold facts: those there, and those the file brings. */
export function leafAccounts(structure: EditableStructure, draft: Draft): Choice[] {
  if (bringsRates(draft.definition.rules.mapping)) return RATE_ACCOUNTS.map(({ key, name }) => ({ key, name }));
  const parents = new Set(structure.accounts.map((a) => a.parent));
  const nameOfParent = (key: string | null) => structure.accounts.find((a) => a.key === key)?.name ?? null;
  return [
    ...draft.definition.rules.mapping.creates.accounts
      .filter((a) => !structure.accounts.some((own) => own.key === a.key))
      .map((a) => ({ key: a.key, name: a.name, note: "new, with this file" })),
    ...structure.accounts
      .filter((a) => !parents.has(a.key))
      .map((a) => ({ key: a.key, name: a.name, note: nameOfParent(a.parent) })),
  ];
}
