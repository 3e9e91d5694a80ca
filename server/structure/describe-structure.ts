import type { Knex } from "knex";
import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth, type Month } from "#core/calendar/month.ts";
import { isWhole, lastClosedMonth, monthsOf, type CoverageMap } from "#core/cube/coverage.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { structureReader, type Structure } from "#server/db/structure.ts";
import { memberSql } from "#server/facts/slots.ts";
import { listChanges } from "#server/history/history.ts";

/** The structure as its pages show and edit it. */
export async function describeStructure(knex: Knex, known?: Structure): Promise<EditableStructure> {
  const structure = known ?? (await structureReader(knex)());
  const { accounts, calendar, coverage, dimensions, datasetDimensions, rows: stored } = structure;
  const [company, used, rows, changes] = await Promise.all([
    knex("company").first<{ name: string } | undefined>("name"),
    knex("load_account")
      .distinct<{ account_id: number; key: string }[]>("account_id", "account.key as key")
      .join("account", "account.id", "account_id"),
    knex("load")
      .join("dataset", "dataset.id", "load.dataset_id")
      .whereNull("undone_at")
      .groupBy("dataset.key")
      .select<{ key: string; rows: string }[]>("dataset.key as key", knex.raw("sum(load.rows) as rows")),
    listChanges(knex, { area: "structure", limit: 50 }),
  ]);
  const accountVersions = new Map(stored.accounts.map(({ key, version }) => [key, version]));
  const dimensionKeys = new Map(stored.dimensions.map(({ id, key }) => [id, key]));
  const memberVersions = new Map(
    stored.members.map(({ dimension_id: of, key, version }) => [`${dimensionKeys.get(of)}/${key}`, version]),
  );
  const posted = await getOrCreate(postedBefore, coverage, () => {
    const found = postedMonths(knex, structure);
    // What could not be read now is read by whoever asks next.
    found.catch(() => postedBefore.delete(coverage));
    return found;
  });
  const usedKeys = new Set(used.map((row) => row.key));
  const closed = lastClosedMonth(coverage);
  const rowsOf = new Map(rows.map((row) => [row.key, Number(row.rows)]));
  return {
    company: { name: company?.name ?? "", startMonth: calendar.startMonth },
    lastClosed: closed === undefined ? null : { month: formatMonth(closed), name: periodName(calendar, closed) },
    accounts: [...accounts.accounts.values()].map((a) => ({
      key: a.key,
      name: a.name,
      parent: a.parent,
      kind: a.kind,
      behaviour: a.behaviour,
      unit: a.unit,
      decimals: a.decimals,
      aliases: [...(a.aliases ?? [])],
      isRetired: a.isRetired ?? false,
      version: accountVersions.get(a.key) ?? 1,
      isUsed: usedKeys.has(a.key),
    })),
    dimensions: dimensions.map((d) => ({
      key: d.key,
      name: d.name,
      plural: d.plural,
      levels: [...d.levels],
      members: d.members.map((m) => ({
        key: m.key,
        name: m.name,
        parent: m.parent,
        aliases: [...(m.aliases ?? [])],
        isRetired: m.isRetired ?? false,
        attributes: { ...m.attributes },
        firstMonth: monthText(m.firstMonth),
        lastMonth: monthText(m.lastMonth),
        version: memberVersions.get(`${d.key}/${m.key}`) ?? 1,
        posted: posted.get(`${d.key}/${m.key}`) ?? null,
      })),
    })),
    datasets: [...coverage.datasets.values()].map((d) => {
      const actual = monthsOf(coverage, d.key, "actual");
      return {
        key: d.key,
        name: d.name,
        grain: d.grain,
        closes: d.closes ?? false,
        days: d.days ?? null,
        dimensions: [...(datasetDimensions.get(d.key) ?? [])],
        rows: rowsOf.get(d.key) ?? 0,
        months:
          actual.length === 0
            ? ""
            : monthsName(
                calendar,
                actual.map((m) => m.month),
              ),
        isWhole: actual.every(isWhole),
        scenarios: [...coverage.scenarios.values()]
          .filter((s) => monthsOf(coverage, d.key, s.key).length > 0)
          .map((s) => s.name),
      };
    }),
    scenarios: [...coverage.scenarios.values()].map((s) => ({
      key: s.key,
      name: s.name,
      kind: s.kind,
      madeAfter: s.madeAfter === null ? null : formatMonth(s.madeAfter),
      months: namesOf(
        [...coverage.datasets.keys()].flatMap((d) => monthsOf(coverage, d, s.key).map((m) => m.month)),
        calendar,
      ),
    })),
    changes: changes.map(({ diff: _, ...change }) => change),
  };
}

function namesOf(months: readonly number[], calendar: Structure["calendar"]): string {
  return months.length === 0 ? "" : monthsName(calendar, [...new Set(months)]);
}

function monthText(month: Month | null | undefined): string | null {
  return month === null || month === undefined ? null : formatMonth(month);
}

/** Facts are gone through once for a state of them. */
const postedBefore = new WeakMap<CoverageMap, Promise<Map<string, { from: string; to: string }>>>();

/** The months between which actuals were posted to each member: what its life is proposed from. */
async function postedMonths(
  knex: Knex,
  { dimensions, ids }: Structure,
): Promise<Map<string, { from: string; to: string }>> {
  const found = new Map<string, { from: string; to: string }>();
  const actual = ids.scenarios.get("actual");
  if (actual === undefined) return found;
  for (const dimension of dimensions) {
    const { member, hasMember } = memberSql(ids, dimension.key);
    const keyOf = new Map([...ids.members.get(dimension.key)!].map(([key, id]) => [id, key]));
    const { rows } = await knex.raw<{ rows: { id: number; from: number; to: number }[] }>(
      `select ${member} as id, min(month) as from, max(month) as to from fact
       where scenario_id = ? and ${hasMember} and amount <> 0 group by 1`,
      [actual],
    );
    for (const { id, from, to } of rows)
      found.set(`${dimension.key}/${keyOf.get(id)!}`, { from: formatMonth(from), to: formatMonth(to) });
  }
  return found;
}
