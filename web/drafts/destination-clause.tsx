import { RATES_DATASET, RATES_SCENARIO } from "#core/currency/rates-dataset.ts";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import { newKey } from "#core/reading/names.ts";
import { titleOf } from "#core/mapping/file-title.ts";
import { ChoiceWord } from "../ui/choice-word.tsx";
import { datasetOf } from "./dataset-of.ts";
import { leafAccounts } from "./leaf-accounts.ts";
import { NEW_ACCOUNTS, newAccount } from "./new-account.ts";
import type { ClauseProps } from "./reading-clause.ts";

const NEW_DATASET = "new dataset";

/** Which dataset the file goes to, and what no column says: its scenario and account. */
export function DestinationClause({ draft, structure, map }: ClauseProps) {
  const { mapping } = draft.definition.rules;
  const meanings = Object.values(mapping.columns);
  const fixed = (change: Partial<typeof mapping.fixed>) => map({ fixed: { ...mapping.fixed, ...change } });
  const needs = (part: "account" | "scenario") =>
    !bringsRates(mapping) &&
    !meanings.some((m) => m.as === part) &&
    meanings.some((m) => (m.as === "amount" || m.as === "quantity") && m[part] === null);
  const created = mapping.creates.dataset;
  const dataset = datasetOf(structure, mapping);
  const leaves = leafAccounts(structure, draft);
  const title = titleOf(draft.fileName);
  const onAccount = (key: string) => {
    const made = NEW_ACCOUNTS.find((own) => own.key === key);
    if (!made) return fixed({ account: key });
    const own = newKey(title, new Set(structure.accounts.map((a) => a.key)), "_");
    const account = newAccount(own, title, made.kind);
    map({
      fixed: { ...mapping.fixed, account: own },
      creates: { ...mapping.creates, accounts: [...mapping.creates.accounts, account] },
    });
  };
  const toNewDataset = () => {
    const name = title;
    map({
      dataset: newKey(name, new Set(structure.datasets.map((d) => d.key)), "-"),
      creates: { ...mapping.creates, dataset: { name, grain: "month" } },
    });
  };
  const toRates = () =>
    map({
      dataset: RATES_DATASET.key,
      // Whatever is an amount is a rate from now on.
      columns: Object.fromEntries(
        Object.entries(mapping.columns).map(([name, meaning]) => [
          name,
          meaning.as === "amount" || meaning.as === "quantity"
            ? { as: "amount", account: "rate", scenario: null }
            : meaning.as === "period" || meaning.as === "currency"
              ? meaning
              : { as: "ignore" },
        ]),
      ),
      fixed: { ...mapping.fixed, scenario: RATES_SCENARIO.key, account: null, currency: null },
      fractions: "round",
      creates: { dataset: null, dimensions: [], accounts: [] },
    });
  return (
    <>
      . Goes to{" "}
      <ChoiceWord
        label="Dataset"
        words={dataset?.name ?? (created ? `${created.name} (new)` : "which dataset?")}
        choices={[
          ...structure.datasets.map((d) => ({ key: d.key, name: d.name, note: `by ${d.grain}` })),
          { ...RATES_DATASET, note: "what other currencies are worth" },
          { key: NEW_DATASET, name: "a new dataset", note: "named after the file" },
        ]}
        chosen={dataset ? dataset.key : created ? NEW_DATASET : ""}
        onChoose={(key) =>
          key === RATES_DATASET.key
            ? toRates()
            : key === NEW_DATASET
              ? toNewDataset()
              : map({ dataset: key, creates: { ...mapping.creates, dataset: null } })
        }
      />
      {created && !dataset && (
        <>
          {" "}
          kept by{" "}
          <ChoiceWord
            label="Grain"
            words={created.grain}
            choices={[
              { key: "day", name: "day" },
              { key: "month", name: "month" },
              { key: "quarter", name: "quarter" },
            ]}
            chosen={created.grain}
            onChoose={(grain) =>
              map({ creates: { ...mapping.creates, dataset: { ...created, grain: grain as "day" } } })
            }
          />
        </>
      )}
      {needs("scenario") && (
        <>
          {" "}
          as{" "}
          <ChoiceWord
            label="Scenario"
            words={structure.scenarios.find((s) => s.key === mapping.fixed.scenario)?.name ?? "which scenario?"}
            choices={structure.scenarios.map((s) => ({ key: s.key, name: s.name }))}
            chosen={mapping.fixed.scenario ?? ""}
            onChoose={(scenario) => fixed({ scenario })}
          />
        </>
      )}
      {needs("account") && (
        <>
          , on the account{" "}
          <ChoiceWord
            label="Account"
            words={leaves.find((a) => a.key === mapping.fixed.account)?.name ?? "which account?"}
            choices={[
              ...(mapping.creates.accounts.some(({ key }) => key === mapping.fixed.account)
                ? []
                : NEW_ACCOUNTS.map(({ key, kind }) => ({ key, name: `${title}, a new ${kind} account` }))),
              ...leaves,
            ]}
            chosen={mapping.fixed.account ?? ""}
            onChoose={onAccount}
          />
        </>
      )}
    </>
  );
}
