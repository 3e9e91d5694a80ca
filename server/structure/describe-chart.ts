import type { Knex } from "knex";
import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth } from "#core/calendar/month.ts";
import { isWhole, lastClosedMonth, monthsOf } from "#core/cube/coverage.ts";
import type { Chart } from "#contract/chart.ts";
import { structureReader, type Structure } from "#server/db/structure.ts";

/** The structure as its pages show and edit it. */
export async function describeChart(knex: Knex, structure?: Structure): Promise<Chart> {
  const { accounts, calendar, coverage, dimensions, datasetDimensions } = structure ?? (await structureReader(knex)());
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
    knex("structure_change")
      .orderBy("id", "desc")
      .limit(50)
      .select<{ id: number; changed_at: Date; changed_by: string; said: string; undone_by: number | null }[]>(),
  ]);
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
      })),
    })),
    datasets: [...coverage.datasets.values()].map((d) => {
      const actual = monthsOf(coverage, d.key, "actual");
      return {
        key: d.key,
        name: d.name,
        grain: d.grain,
        closes: d.closes ?? false,
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
    changes: changes.map((c) => ({
      id: c.id,
      at: c.changed_at.toISOString(),
      by: c.changed_by,
      said: c.said,
      isUndone: c.undone_by !== null,
    })),
  };
}

function namesOf(months: readonly number[], calendar: Structure["calendar"]): string {
  return months.length === 0 ? "" : monthsName(calendar, [...new Set(months)]);
}
