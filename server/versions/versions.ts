import { inWriting } from "#core/formats/writing.ts";
import type { Knex } from "knex";
import { monthsName, periodName, rangeName } from "#core/calendar/fiscal-calendar.ts";
import { formatMonth } from "#core/calendar/month.ts";
import type { VersionHow } from "#core/ahead/version-how.ts";
import { latestForecast } from "#core/compare/side.ts";
import { monthsOf } from "#core/cube/coverage.ts";
import { parseScope } from "#core/dimensions/scope-text.ts";
import { isWithinScope, scopeName, type Scope } from "#core/dimensions/scope.ts";
import { valueStyle, writeSignedPercent, writeWithUnit } from "#core/formats/number-words.ts";
import type { Version } from "#contract/versions.ts";
import type { Reader } from "#server/access/reader.ts";
import { noteChange } from "#server/db/data-version.ts";
import type { Structure } from "#server/db/structure.ts";
import type { AdjustmentRow } from "./adjust-version.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

interface VersionRow {
  readonly key: string;
  readonly made_by: string | null;
  readonly made_at: Date | null;
  readonly made_how: VersionHow | null;
  readonly model_part: string | null;
}

interface LoadRow {
  readonly id: number;
  readonly scenario: string;
  readonly name: string;
  readonly by: string;
  readonly at: Date;
  readonly rows: number;
}

/**
 * Every version of budget, forecast and target, with how it came to be; the latest ones first. What was adjusted where a
 * reader sees nothing is not told, nor why.
 */
export async function listVersions(
  knex: Knex,
  structure: Structure,
  reader: Pick<Reader, "scope">,
): Promise<Version[]> {
  const { coverage, calendar, kpis, dimensions } = structure;
  const rows = await knex("scenario")
    .leftJoin("scenario as part", "part.id", "scenario.model_part_id")
    .select<VersionRow[]>(
      "scenario.key",
      "scenario.made_by",
      "scenario.made_at",
      "scenario.made_how",
      "part.key as model_part",
    );
  const adjustments = await knex("adjustment")
    .join("scenario", "scenario.id", "adjustment.scenario_id")
    .orderBy("adjustment.id")
    .select<(AdjustmentRow & { scenario: string })[]>("adjustment.*", "scenario.key as scenario");
  const isSeen = (scope: Scope) => isWithinScope(dimensions, scope, reader.scope);
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
          modelPart: row?.model_part ?? null,
          adjustments: adjustments
            .filter((own) => own.scenario === key && isSeen(own.scope))
            .map((own) => ({
              id: own.id,
              words: inWriting(structure, () => adjustmentWords(own, structure)),
              reason: own.reason,
              by: own.made_by,
              at: own.made_at.toISOString(),
            })),
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

/** "Revenue for Northreach, November–December FY27: +5%" */
function adjustmentWords(
  { kpi: key, scope, from_month, to_month, kind, value }: AdjustmentRow,
  { kpis, dimensions, calendar }: Structure,
): string {
  const kpi = kpis.get(key)?.definition;
  const amount = kpi ? writeWithUnit(value, valueStyle(kpi.unit, kpi.decimals, "units")) : String(value);
  const change =
    kind === "percent"
      ? writeSignedPercent(value / 100)
      : kind === "set"
        ? `${amount} a month`
        : `${value < 0 ? "" : "+"}${amount} a month`;
  const of = Object.keys(scope).length > 0 ? ` for ${scopeName(dimensions, scope, "")}` : "";
  return `${kpi?.name ?? key}${of}, ${rangeName(calendar, from_month, to_month)}: ${change}`;
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
