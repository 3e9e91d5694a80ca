import type { Definition, Draft } from "#contract/intake.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { TextButton } from "../ui/form.tsx";

type Mapping = Definition["rules"]["mapping"];
type Kind = Mapping["creates"]["accounts"][number]["kind"];

const KINDS: readonly (readonly [Kind, string])[] = [
  ["income", "income"],
  ["expense", "expense"],
  ["asset", "asset"],
  ["liability", "liability"],
  ["equity", "equity"],
  ["statistic", "counts"],
];

/** The accounts that come with a file, all in one table: what each was taken for, to be corrected before it is posted. */
export function NewAccounts({
  draft,
  structure,
  apply,
}: {
  draft: Draft;
  structure: EditableStructure;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const { mapping } = draft.definition.rules;
  const known = new Set(structure.accounts.map(({ key }) => key));
  const brought = mapping.creates.accounts.filter(({ key }) => !known.has(key) && isUsed(mapping, key));
  if (brought.length === 0) return null;
  const setKind = (keys: ReadonlySet<string>, kind: Kind) =>
    apply((definition) => {
      const { creates } = definition.rules.mapping;
      const accounts = creates.accounts.map((account) => (keys.has(account.key) ? ofKind(account, kind) : account));
      return {
        ...definition,
        rules: { ...definition.rules, mapping: { ...definition.rules.mapping, creates: { ...creates, accounts } } },
      };
    });
  const guessed = brought.filter(({ isGuess }) => isGuess);
  const all = new Set(guessed.map(({ key }) => key));
  return (
    <details className="mt-3 border-t border-thread pt-3" open={brought.length <= 12 || guessed.length > 0}>
      <summary className="cursor-pointer font-serif text-[16px]">New accounts</summary>
      {guessed.length > 0 && (
        <p
          role="group"
          aria-label="Income or expense"
          className="mt-1.5 flex flex-wrap gap-x-3 border-l-2 border-madder pl-3"
        >
          <span>
            {guessed.length === 1
              ? `Is ${guessed[0]!.name} income or a cost?`
              : `Are these ${guessed.length} income or costs?`}
          </span>
          <TextButton onClick={() => setKind(all, "income")}>Income</TextButton>
          <TextButton onClick={() => setKind(all, "expense")}>{guessed.length === 1 ? "A cost" : "Costs"}</TextButton>
        </p>
      )}
      <table className="mt-1.5 w-full text-[13px]">
        <tbody>
          {brought.map((account) => (
            <tr key={account.key} className="border-t border-thread/60">
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {account.name}
              </th>
              <td className="text-right">
                <select
                  className="field !w-auto"
                  aria-label={`What ${account.name} is`}
                  value={account.isGuess ? "" : account.kind}
                  onChange={(event) => setKind(new Set([account.key]), event.target.value as Kind)}
                >
                  {account.isGuess && <option value="">which?</option>}
                  {KINDS.map(([kind, name]) => (
                    <option key={kind} value={kind}>
                      {name}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

type NewAccount = Mapping["creates"]["accounts"][number];

/** The account as another kind keeps it: flows or balances, money or counts. */
function ofKind({ isGuess: _, ...account }: NewAccount, kind: Kind): NewAccount {
  const isStock = kind === "asset" || kind === "liability" || kind === "equity";
  const behaviour = isStock ? "balance" : kind === "statistic" ? account.behaviour : "flow";
  return kind === "statistic"
    ? { ...account, kind, behaviour, unit: { kind: "count", of: account.name.toLowerCase() }, decimals: 0 }
    : { ...account, kind, behaviour, unit: { kind: "money" }, decimals: 2 };
}

/** Whether something of the file goes to an account. */
function isUsed({ columns, fixed, accounts }: Mapping, key: string): boolean {
  return (
    fixed.account === key ||
    Object.values(columns).some((meaning) => "account" in meaning && meaning.account === key) ||
    Object.values(accounts).some((decision) => "to" in decision && decision.to === key)
  );
}
