import type { EditableStructure } from "#contract/structure.ts";
import type { Definition, Draft } from "#contract/intake.ts";
import { newKey } from "#core/reading/names.ts";
import { ChoiceWord, type Choice } from "../ui/choice-word.tsx";
import { NEW_ACCOUNTS, newAccount } from "./new-account.ts";
import { leafAccounts } from "./leaf-accounts.ts";

type Meaning = Definition["rules"]["mapping"]["columns"][string];

const PLAIN: readonly Choice[] = [
  { key: "ignore", name: "ignored" },
  { key: "period", name: "period", group: "The row's" },
  { key: "account", name: "account" },
  { key: "scenario", name: "scenario" },
  { key: "reference", name: "reference", note: "document, invoice" },
  { key: "currency", name: "currency", note: "of the row's amounts" },
  { key: "amount", name: "amount", group: "Values" },
  { key: "quantity", name: "quantity", note: "counts things" },
  { key: "debit", name: "debit", group: "Values of a trial balance" },
  { key: "credit", name: "credit" },
  { key: "closing", name: "closing balance", note: "for accounts that keep one" },
];
const NEW_DIMENSION = "new dimension";

/** What a column means, as a word under its name that opens the choice. */
export function MeaningChooser({
  column,
  draft,
  structure,
  apply,
}: {
  column: string;
  draft: Draft;
  structure: EditableStructure;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const { mapping } = draft.definition.rules;
  const meaning: Meaning = mapping.columns[column] ?? { as: "ignore" };
  const setMapping = (change: Partial<typeof mapping>) =>
    apply((d) => ({ ...d, rules: { ...d.rules, mapping: { ...d.rules.mapping, ...change } } }));
  const set = (next: Meaning) => setMapping({ columns: { ...mapping.columns, [column]: next } });
  const created = mapping.creates.dimensions.filter((d) => !structure.dimensions.some((own) => own.key === d.key));
  const dataset = structure.datasets.find((d) => d.key === mapping.dataset);
  const dimensions = [...structure.dimensions, ...created];
  const choices: Choice[] = [
    ...PLAIN,
    ...structure.scenarios.map((s, i) => ({
      key: `amount of ${s.key}`,
      name: `amount, ${s.name}`,
      ...(i === 0 ? { group: "Values of one scenario" } : {}),
    })),
    ...dimensions.map((d, i) => ({
      key: `dimension ${d.key}`,
      name: d.name,
      note: created.some((c) => c.key === d.key)
        ? "new"
        : dataset && !dataset.dimensions.includes(d.key)
          ? "not kept here"
          : null,
      ...(i === 0 ? { group: "Dimensions" } : {}),
    })),
    ...(created.some((d) => d.name === column) || dimensions.length >= 8
      ? []
      : [{ key: NEW_DIMENSION, name: `${column} as a new dimension` }]),
  ];
  const choose = (key: string) => {
    if (key === NEW_DIMENSION) {
      const own = newKey(column, new Set(dimensions.map((d) => d.key)), "-");
      return setMapping({
        columns: { ...mapping.columns, [column]: { as: "dimension", dimension: own } },
        creates: { ...mapping.creates, dimensions: [...mapping.creates.dimensions, { key: own, name: column }] },
      });
    }
    if (key.startsWith("dimension ")) return set({ as: "dimension", dimension: key.slice("dimension ".length) });
    if (key.startsWith("amount of "))
      return set({ as: "amount", account: null, scenario: key.slice("amount of ".length) });
    if (key === "debit" || key === "credit" || key === "closing")
      return set({ as: "amount", account: null, scenario: null, side: key });
    if (key === "amount" || key === "quantity") return set({ as: key, account: null, scenario: null });
    set({ as: key as "ignore" });
  };
  return (
    <span className="block text-[12.5px] leading-5 font-normal whitespace-nowrap">
      <ChoiceWord
        label={`What ${column} means`}
        words={wordsOf(meaning, structure, mapping.creates.dimensions)}
        choices={choices}
        chosen={keyOf(meaning)}
        onChoose={choose}
        className={`meaning-word ${meaning.as === "ignore" ? "text-slate" : "text-accent"}`}
      />
      {(meaning.as === "amount" || meaning.as === "quantity") &&
        !hasAccountColumn(mapping) &&
        mapping.fixed.account === null && (
          <>
            {" of "}
            <AccountOfColumn
              column={column}
              meaning={meaning}
              draft={draft}
              structure={structure}
              set={set}
              setMapping={setMapping}
            />
          </>
        )}
    </span>
  );
}

function AccountOfColumn({
  column,
  meaning,
  draft,
  structure,
  set,
  setMapping,
}: {
  column: string;
  meaning: Extract<Meaning, { as: "amount" | "quantity" }>;
  draft: Draft;
  structure: EditableStructure;
  set: (meaning: Meaning) => void;
  setMapping: (change: Partial<Definition["rules"]["mapping"]>) => void;
}) {
  const { mapping } = draft.definition.rules;
  const leaves = leafAccounts(structure, draft);
  const known = mapping.creates.accounts.find((a) => a.key === meaning.account);
  return (
    <ChoiceWord
      label={`Account of ${column}`}
      words={leaves.find((a) => a.key === meaning.account)?.name ?? "which account?"}
      choices={[
        ...(known ? [] : NEW_ACCOUNTS.map((own) => ({ key: own.key, name: `${column}, a new ${own.kind} account` }))),
        ...leaves,
      ]}
      chosen={meaning.account ?? ""}
      onChoose={(key) => {
        const made = NEW_ACCOUNTS.find((one) => one.key === key);
        if (!made) return set({ ...meaning, account: key });
        const own = newKey(column, new Set(structure.accounts.map((a) => a.key)), "_");
        setMapping({
          columns: { ...mapping.columns, [column]: { ...meaning, account: own } },
          creates: {
            ...mapping.creates,
            accounts: [...mapping.creates.accounts, newAccount(own, column, made.kind)],
          },
        });
      }}
      className="meaning-word text-accent"
    />
  );
}

function hasAccountColumn(mapping: Definition["rules"]["mapping"]): boolean {
  return Object.values(mapping.columns).some((m) => m.as === "account");
}

function keyOf(meaning: Meaning): string {
  if (meaning.as === "dimension") return `dimension ${meaning.dimension}`;
  if ("side" in meaning && meaning.side !== undefined) return meaning.side;
  if (meaning.as === "amount" && meaning.scenario !== null) return `amount of ${meaning.scenario}`;
  return meaning.as;
}

function wordsOf(
  meaning: Meaning,
  structure: EditableStructure,
  created: readonly { key: string; name: string }[],
): string {
  if (meaning.as === "dimension")
    return [...structure.dimensions, ...created].find((d) => d.key === meaning.dimension)?.name ?? meaning.dimension;
  if (meaning.as === "ignore") return "ignored";
  if ("side" in meaning && meaning.side !== undefined)
    return meaning.side === "closing" ? "closing balance" : meaning.side;
  if (meaning.as === "amount" && meaning.scenario !== null)
    return `amount, ${structure.scenarios.find((s) => s.key === meaning.scenario)?.name ?? meaning.scenario}`;
  return meaning.as;
}
