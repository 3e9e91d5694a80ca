import type { Knex } from "knex";
import { monthsName, periodName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth } from "#core/calendar/month.ts";
import type { VersionHow } from "#core/ahead/version-how.ts";
import { latestForecast } from "#core/compare/side.ts";
import { monthsOf } from "#core/cube/coverage.ts";
import { parseScope } from "#core/dimensions/scope-text.ts";
import { scopeName } from "#core/dimensions/scope.ts";
import type { Version } from "#contract/versions.ts";
import { noteChange } from "#server/db/data-version.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

interface VersionRow {
  readonly key: string;
  readonly made_by: string | null;
  readonly made_at: Date | null;
  readonly made_how: VersionHow | null;
}

interface LoadRow {
  readonly id: number;
  readonly scenario: string;
  readonly name: string;
  readonly by: string;
  readonly at: Date;
  readonly rows: number;
}

/** Every version of budget, forecast and target, with how it came to be; the latest ones first. */
export async function listVersions(knex: Knex, structure: Structure): Promise<Version[]> {
  const { coverage, calendar, kpis, dimensions } = structure;
  const rows = await knex("scenario").select<VersionRow[]>("key", "made_by", "made_at", "made_how");
  const made = new Map(rows.map((row) => [row.key, row]));
  const loads = await knex("load")
    .join("load_month", "load_month.load_id", "load.id")
    .join("scenario", "scenario.id", "load_month.scenario_id")
    .whereNull("load.undone_at")
    .whereNull("load_month.set_aside_by")
    .distinct<LoadRow[]>(
      "load.id",
      "scenario.key as scenario",
      "load.file_name as name",
      "load.posted_by as by",
      "load.posted_at as at",
      "load.rows",
    )
    .orderBy("load.id");
  const lastActual = Math.max(
    ...[...coverage.datasets.keys()].flatMap((dataset) =>
      monthsOf(coverage, dataset, "actual").map(({ month }) => month),
    ),
  );
  const latest = latestForecast(coverage, lastActual)?.key;
  return [...coverage.scenarios.values()]
    .flatMap((scenario): Version[] => {
      const { key, name, kind, madeAfter } = scenario;
      if (kind === "actual") return [];
      const row = made.get(key);
      const how = row?.made_how ?? null;
      const months = [...coverage.datasets.keys()].flatMap((dataset) =>
        monthsOf(coverage, dataset, key).map(({ month }) => month),
      );
      const scope = how && parseScope(how.scope);
      const level = how?.split
        ? ` by ${(how.split.level ?? dimensions.find((d) => d.key === how.split!.dimension)?.levels[0] ?? how.split.dimension).toLowerCase()}`
        : "";
      return [
        {
          key,
          name,
          kind,
          madeAfter:
            madeAfter === null ? null : { month: formatMonth(madeAfter), name: periodName(calendar, madeAfter) },
          months:
            months.length === 0
              ? "nothing yet"
              : monthsName(
                  calendar,
                  [...new Set(months)].sort((a, b) => a - b),
                ),
          isOpen: scenario.isOpen === true,
          isRetired: scenario.isRetired === true,
          isLatest: key === latest,
          made:
            how && row?.made_by && row.made_at
              ? {
                  by: row.made_by,
                  at: row.made_at.toISOString(),
                  kpi: { key: how.kpi, name: kpis.get(how.kpi)?.definition.name ?? how.kpi },
                  of: `for ${scope && Object.keys(scope).length > 0 ? scopeName(dimensions, scope, "") : "everything"}${level}`,
                  settings: how.settings,
                  series: how.series,
                  models: how.models,
                }
              : null,
          loads: loads
            .filter((load) => load.scenario === key)
            .map(({ id, name: file, by, at, rows: count }) => ({
              id,
              name: file,
              by,
              at: at.toISOString(),
              rows: count,
            })),
        },
      ];
    })
    .sort((a, b) => (b.madeAfter?.month ?? "").localeCompare(a.madeAfter?.month ?? ""));
}

/** Names, freezes, opens again, retires or brings back a version. */
export async function changeVersion(
  trx: Knex.Transaction,
  key: string,
  {
    name,
    isOpen,
    isRetired,
  }: { name?: string | undefined; isOpen?: boolean | undefined; isRetired?: boolean | undefined },
): Promise<void> {
  const known: { key: string; name: string; kind: string; is_open: boolean; made_how: unknown }[] = await trx(
    "scenario",
  )
    .forUpdate()
    .select("key", "name", "kind", "is_open", "made_how");
  const own = known.find((one) => one.key === key);
  if (!own || own.kind === "actual")
    throw new ProblemError("not-found", `There is no version "${key}". It may have been removed while you were away.`);
  if (name !== undefined && known.some((one) => one.key !== key && one.name.toLowerCase() === name.toLowerCase()))
    throw new ProblemError("invalid-change", `There is a scenario ${name} already. Choose another name.`);
  if (isOpen === true && own.kind !== "forecast")
    throw new ProblemError("invalid-change", `${own.name} is no forecast: only forecasts are worked on as versions.`);
  await trx("scenario")
    .where({ key })
    .update({
      ...(name === undefined ? {} : { name }),
      ...(isOpen === undefined ? {} : { is_open: isOpen }),
      ...(isRetired === undefined ? {} : { is_retired: isRetired }),
    });
  await noteChange(trx);
}
