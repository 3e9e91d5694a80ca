import type { Knex } from "knex";
import { pluralName } from "#core/formats/plural-name.ts";
import { plannedView } from "#core/mapping/mapping-view.ts";
import { mappedDimensions } from "#core/mapping/mapping.ts";
import type { Account } from "#core/accounts/account.ts";
import type { NewMember } from "#core/mapping/map-rows.ts";
import { buildStructure, type Structure } from "#server/db/structure.ts";
import type { DatasetRow, DimensionRow, SlotRow, StructureRows } from "#server/db/structure-rows.ts";
import { freeSlots } from "#server/facts/slots.ts";
import { nextIds, type AccountItem, type MemberItem } from "#server/structure/collections.ts";
import { membersPrefix, type GivenTreeIds } from "#server/structure/structure-repository.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Additions } from "../drafts/check-draft.ts";
import { mappingView } from "../mapping-view.ts";
import type { DraftRecord } from "../drafts/draft.ts";

/**
 * What a posting will add to the structure, with the numbers it will have: facts can be gathered before any of it is there,
 * and whoever else changes the structure meanwhile does not wait.
 */
export interface PostingPlan {
  /** The structure as it will be. */
  readonly structure: Structure;
  readonly loadId: number;
  readonly datasetId: number;
  /** The dataset, where it is new. */
  readonly dataset: DatasetRow | null;
  readonly dimensions: readonly DimensionRow[];
  readonly slots: readonly SlotRow[];
  readonly accounts: readonly AccountItem[];
  readonly members: ReadonlyMap<string, readonly MemberItem[]>;
  readonly given: GivenTreeIds;
}

/** Plans a posting of a draft on the structure as it is. Throws a problem where facts would have too many dimensions. */
export async function planPosting(
  knex: Knex,
  draft: DraftRecord,
  before: Structure,
  additions: Additions,
): Promise<PostingPlan> {
  const { mapping } = draft.definition.rules;
  const { rows } = before;
  const used = mappedDimensions(mapping);
  const newDimensions = mapping.creates.dimensions.filter(
    ({ key }) => used.includes(key) && !rows.dimensions.some((own) => own.key === key),
  );
  const dimensionIds = await nextIds(knex, "dimension", newDimensions.length);
  const dimensions = newDimensions.map(({ key, name }, i): DimensionRow => ({
    id: dimensionIds[i]!,
    key,
    name,
    plural: pluralName(name),
    levels: [name],
  }));
  const accounts = newAccounts(draft, before, additions);
  const members = newMembers(additions.newMembers);
  const [accountIds, memberIds, [loadId], datasetIds] = [
    await nextIds(knex, "account", accounts.length),
    await nextIds(knex, "member", additions.newMembers.length),
    await nextIds(knex, "load", 1),
    before.coverage.datasets.has(mapping.dataset) ? [] : await nextIds(knex, "dataset", 1),
  ];
  const ids = {
    accounts: new Map(accounts.map(({ key }, i) => [key, accountIds[i]!])),
    members: new Map<string, ReadonlyMap<string, number>>(),
  };
  let next = 0;
  for (const [dimension, own] of members)
    ids.members.set(dimension, new Map(own.map(({ key }) => [key, memberIds[next++]!])));
  const known = rows.datasets.find(({ key }) => key === mapping.dataset);
  const datasetId = known?.id ?? datasetIds[0]!;
  const allDimensions = [...rows.dimensions, ...dimensions];
  const dataset = known ? null : newDataset(draft, before, datasetId);
  const slots = newSlots(known ?? dataset!, used, { dimensions: allDimensions, slots: rows.slots });
  const after: StructureRows = {
    ...rows,
    dimensions: allDimensions,
    datasets: dataset
      ? [...rows.datasets, dataset]
      : rows.datasets.map((own) => (own.id === datasetId ? withDimensions(own, used) : own)),
    slots: [...rows.slots, ...slots],
    accounts: [...rows.accounts, ...accountRows(accounts, rows, ids.accounts)],
    members: [
      ...rows.members,
      ...[...members].flatMap(([dimension, own]) => {
        const { id } = allDimensions.find(({ key }) => key === dimension)!;
        return memberRows(own, rows, { dimensionId: id, ids: ids.members.get(dimension)! });
      }),
    ],
  };
  return {
    structure: buildStructure(after, { version: before.version, facts: before.facts }),
    loadId: loadId!,
    datasetId,
    dataset,
    dimensions,
    slots,
    accounts,
    members,
    given: new Map([
      ["account", ids.accounts],
      ...[...ids.members].map(([dimension, own]) => [membersPrefix(dimension), own] as const),
    ]),
  };
}

function newDataset(draft: DraftRecord, before: Structure, id: number): DatasetRow {
  const { mapping } = draft.definition.rules;
  const shape = plannedView(mappingView(before), mapping).datasets.find((d) => d.key === mapping.dataset)!;
  return {
    id,
    key: shape.key,
    name: shape.name,
    grain: shape.grain,
    dimensions: [...shape.dimensions],
    closes: before.coverage.datasets.size === 0,
    days_without_lines: null,
  };
}

function withDimensions(dataset: DatasetRow, used: readonly string[]): DatasetRow {
  const added = used.filter((key) => !dataset.dimensions.includes(key));
  return added.length > 0 ? { ...dataset, dimensions: [...dataset.dimensions, ...added] } : dataset;
}

/** A slot for each dimension of facts to come that has none yet in their dataset. */
function newSlots(
  { id, name, dimensions: own }: Pick<DatasetRow, "id" | "name" | "dimensions">,
  used: readonly string[],
  { dimensions, slots }: { dimensions: readonly DimensionRow[]; slots: readonly SlotRow[] },
): SlotRow[] {
  const kept = slots.filter(({ dataset_id: dataset }) => dataset === id);
  const idOf = new Map(dimensions.map((dimension) => [dimension.key, dimension.id]));
  const missing = [...new Set([...own, ...used])].flatMap((key) => {
    const dimensionId = idOf.get(key);
    return dimensionId === undefined || kept.some(({ dimension_id: held }) => held === dimensionId)
      ? []
      : [dimensionId];
  });
  const free = freeSlots(
    name,
    kept.map(({ slot }) => slot),
    missing.length,
  );
  return missing.map((dimensionId, i) => ({ dataset_id: id, dimension_id: dimensionId, slot: free[i]! }));
}

/** Accounts that the file brings, with those that sum them; a guess that was changed before posting leaves nothing behind. */
function newAccounts(draft: DraftRecord, before: Structure, additions: Additions): AccountItem[] {
  const { creates } = draft.definition.rules.mapping;
  const known = before.accounts.accounts;
  const used = withAncestors(
    creates.accounts,
    additions.accounts.map(({ account }) => account),
  );
  const accounts: Account[] = [
    ...creates.accounts
      .filter((a) => !known.has(a.key) && used.has(a.key))
      .map((a) => ({ ...a, parent: a.parent ?? null })),
    ...additions.newAccounts,
  ];
  return accounts.map((account) => ({ ...account, aliases: [], isRetired: false }));
}

function newMembers(added: readonly NewMember[]): ReadonlyMap<string, readonly MemberItem[]> {
  const byDimension = new Map<string, MemberItem[]>();
  for (const { dimension, key, name, parent } of added) {
    const own = byDimension.get(dimension) ?? [];
    byDimension.set(dimension, own);
    own.push({ key, name, parent, aliases: [], isRetired: false, attributes: {}, firstMonth: null, lastMonth: null });
  }
  return byDimension;
}

function accountRows(
  accounts: readonly AccountItem[],
  rows: StructureRows,
  ids: ReadonlyMap<string, number>,
): StructureRows["accounts"] {
  const known = new Map(rows.accounts.map(({ key, id }) => [key, id]));
  return accounts.map(({ parent, isRetired, aliases, ...account }) => ({
    ...account,
    id: ids.get(account.key)!,
    parent_id: parent === null ? null : (known.get(parent) ?? ids.get(parent) ?? null),
    aliases: [...aliases],
    retired: isRetired,
    version: 1,
  }));
}

function memberRows(
  members: readonly MemberItem[],
  rows: StructureRows,
  { dimensionId, ids }: { readonly dimensionId: number; readonly ids: ReadonlyMap<string, number> },
): StructureRows["members"] {
  const known = new Map(rows.members.flatMap((m) => (m.dimension_id === dimensionId ? [[m.key, m.id] as const] : [])));
  return members.map(({ key, name, parent }) => ({
    id: ids.get(key)!,
    dimension_id: dimensionId,
    key,
    name,
    parent_id: parent === null ? null : (known.get(parent) ?? ids.get(parent) ?? null),
    aliases: [],
    retired: false,
    version: 1,
    attributes: {},
    first_month: null,
    last_month: null,
  }));
}

/** Accounts with those that sum them. */
function withAncestors(
  brought: readonly { readonly key: string; readonly parent?: string | null | undefined }[],
  keys: readonly string[],
): ReadonlySet<string> {
  const parents = new Map(brought.map(({ key, parent }) => [key, parent ?? null]));
  const found = new Set<string>();
  for (const key of keys)
    for (let at: string | null = key; at !== null && !found.has(at); at = parents.get(at) ?? null) found.add(at);
  return found;
}

/**
 * Throws a problem where somebody changed the structure meanwhile so that what was planned is not what it would be: what
 * was to be added is there, or what facts name is another thing or gone.
 */
export function requireStillSo(plan: PostingPlan, additions: Additions, now: Structure): void {
  const isTaken =
    plan.accounts.some(({ key }) => now.ids.accounts.has(key)) ||
    plan.dimensions.some(({ key }) => now.dimensions.some((own) => own.key === key)) ||
    (plan.dataset !== null && now.coverage.datasets.has(plan.dataset.key)) ||
    [...plan.members].some(([dimension, own]) => own.some(({ key }) => now.ids.members.get(dimension)?.has(key)));
  const { ids, accounts } = plan.structure;
  const isOther = additions.accounts.some(({ account, scenario }) => {
    if (ids.scenarios.get(scenario) !== now.ids.scenarios.get(scenario)) return true;
    if (plan.given.get("account")?.has(account)) return false;
    const [was, is] = [accounts.accounts.get(account), now.accounts.accounts.get(account)];
    return !is || !was || is.kind !== was.kind || is.decimals !== was.decimals || is.behaviour !== was.behaviour;
  });
  const isGone = [...ids.members].some(([dimension, own]) => {
    const added = plan.given.get(membersPrefix(dimension));
    const [slot, held] = [ids.slots.get(keyOfDataset(plan)), now.ids.members.get(dimension)];
    if (!slot?.has(dimension) || added?.size === own.size) return false;
    return [...own].some(([key, id]) => !added?.has(key) && held?.get(key) !== id);
  });
  if (isTaken || isOther || isGone)
    throw new ProblemError(
      "changed-meanwhile",
      "Accounts or members were changed while this file was posted, so that it would mean something else now. Nothing was posted; look at the new check and post again.",
    );
}

function keyOfDataset({ structure, datasetId }: PostingPlan): string {
  return structure.rows.datasets.find(({ id }) => id === datasetId)!.key;
}
