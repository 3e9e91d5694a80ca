import type { Knex } from "knex";
import type { VersionFact } from "#core/ahead/version-facts.ts";
import type { Month } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { noteChange } from "#server/db/data-version.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { memberReader, SLOT_COLUMNS, type SlotCells } from "#server/facts/slots.ts";
import { noteMoved, setSlicesAside, type Slice } from "#server/intake/loads/set-aside.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { openLoad, postFacts, type NumberedFact } from "#server/intake/post-facts.ts";
import { addScenario } from "#server/structure/add.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** The dataset of what is forecast here: by month, whatever the actuals are kept by. */
const FORECASTS = { key: "forecasts", name: "Forecasts" } as const;

/** The amounts of a version that are in force, by account, members and month. */
export async function readVersionFacts(trx: Knex, structure: Structure, scenario: string): Promise<VersionFact[]> {
  const { ids, dimensions } = structure;
  const rows: (SlotCells & { dataset_id: number; account_id: number; month: Month; amount: string })[] = await trx(
    "fact",
  )
    .where({ scenario_id: ids.scenarios.get(scenario)! })
    .groupBy("dataset_id", "account_id", "month", ...SLOT_COLUMNS)
    .orderBy(["month", "account_id", ...SLOT_COLUMNS])
    .select("dataset_id", "account_id", "month", ...SLOT_COLUMNS, trx.raw("sum(amount) as amount"));
  const accounts = new Map([...ids.accounts].map(([key, id]) => [id, key]));
  const members = new Map(
    dimensions.map(({ key }) => [key, new Map([...ids.members.get(key)!].map(([member, id]) => [id, member]))]),
  );
  const memberOf = memberReader(ids);
  return rows.map((row) => ({
    account: accounts.get(row.account_id)!,
    month: row.month,
    amount: Number(row.amount),
    members: Object.fromEntries(
      dimensions.flatMap(({ key }) => {
        const id = memberOf(row, key);
        return id === null ? [] : [[key, members.get(key)!.get(id)!]];
      }),
    ),
  }));
}

/** Posts amounts as a version's, in the place of those it had. Returns how many rows they are. */
export async function postVersionFacts(
  trx: Knex.Transaction,
  {
    scenario,
    facts,
    fileName,
    person,
  }: {
    readonly scenario: string;
    readonly facts: readonly VersionFact[];
    readonly fileName: string;
    readonly person: string;
  },
): Promise<number> {
  const dimensions = [...new Set(facts.flatMap(({ members }) => Object.keys(members)))];
  await forecastsDataset(trx, dimensions);
  const structure = await readStructure(trx);
  const before = await slicesOf(trx, structure.ids.scenarios.get(scenario)!);
  const load = await openLoad(trx, {
    dataset: FORECASTS.key,
    fileName,
    postedBy: person,
    postedAt: new Date(),
    dimensions,
  });
  await setSlicesAside(trx, load.id, before);
  const numbered = facts.map((fact, i): NumberedFact => ({
    line: i + 1,
    fact: { ...fact, scenario, day: null, reference: null } satisfies Fact,
  }));
  const rows = await postFacts(trx, structure, load, [numbered]);
  await noteMoved(trx, before);
  await noteChange(trx);
  return rows;
}

/** What is in force of a version, load by load and month by month. */
async function slicesOf(trx: Knex.Transaction, scenarioId: number): Promise<Slice[]> {
  const rows: { load_id: number; month: number }[] = await trx("load_month")
    .where({ scenario_id: scenarioId })
    .whereNull("set_aside_by")
    .select("load_id", "month");
  return rows.map(({ load_id: loadId, month }) => ({ loadId, scenarioId, month }));
}

/** The dataset that forecasts lie in, made with the first of them. */
async function forecastsDataset(trx: Knex.Transaction, dimensions: readonly string[]): Promise<void> {
  const known: { id: number } | undefined = await trx("dataset").where({ key: FORECASTS.key }).first("id");
  if (known) return;
  const [row]: { id: number }[] = await trx("dataset")
    .insert({
      ...FORECASTS,
      grain: "month",
      dimensions: [...dimensions],
      position: trx.raw("(select coalesce(max(position), -1) + 1 from dataset)"),
      closes: false,
    })
    .returning("id");
  await createPartition(trx, row!.id);
}

/** Adds the scenario that holds what a version is before it is adjusted: offered nowhere, and never the latest. */
export async function addModelPart(
  trx: Knex.Transaction,
  {
    version,
    madeAfter,
    facts,
    person,
  }: {
    /** The version's name. */
    readonly version: string;
    readonly madeAfter: Month | null;
    readonly facts: readonly VersionFact[];
    readonly person: string;
  },
): Promise<{ readonly id: number; readonly key: string }> {
  const name = `${version}, before adjustments`;
  const key = await addScenario(trx, { name, kind: "forecast", madeAfter });
  const [row]: { id: number }[] = await trx("scenario")
    .where({ key })
    .update({ is_open: true, is_retired: true })
    .returning("id");
  await postVersionFacts(trx, { scenario: key, facts, fileName: name, person });
  return { id: row!.id, key };
}

/** A scenario as a version that can be worked on. */
export interface VersionRow {
  readonly id: number;
  readonly key: string;
  readonly name: string;
  readonly kind: string;
  readonly made_after: Month | null;
  readonly is_open: boolean;
  readonly made_how: unknown;
  readonly model_part_id: number | null;
}

/** A version, which nobody else changes until the transaction ends. Throws a problem where there is none. */
export async function lockVersion(trx: Knex.Transaction, key: string): Promise<VersionRow> {
  const row = await trx("scenario").where({ key }).forUpdate().first<VersionRow | undefined>("*");
  if (!row || row.kind === "actual")
    throw new ProblemError("not-found", `There is no version "${key}". It may have been removed while you were away.`);
  return row;
}

/** The same of one that is open: what is frozen stays as it is. */
export async function lockOpenVersion(trx: Knex.Transaction, key: string): Promise<VersionRow> {
  const version = await lockVersion(trx, key);
  if (version.kind !== "forecast")
    throw new ProblemError("invalid-change", `${version.name} is no forecast. Copy it, and work on the copy.`);
  if (!version.is_open)
    throw new ProblemError("invalid-change", `${version.name} is frozen. Open it again, or work on a copy of it.`);
  return version;
}
