import type { Knex } from "knex";
import { periodName } from "#core/calendar/fiscal-calendar.ts";
import { compareKpi } from "#core/compare/compare-kpi.ts";
import type { Basis, Frame } from "#core/compare/frame.ts";
import { kpiStatus, statusAsks } from "#core/compare/kpi-status.ts";
import { comparisonAsks } from "#core/compare/scorecard.ts";
import { ALERT_SPANS, standingOf, type Standing, type StandingChange } from "#core/compare/standing.ts";
import { lastClosedMonth } from "#core/cube/coverage.ts";
import type { Alerts } from "#contract/alerts.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";
import { sqlFactSource } from "./fact-source.ts";
import { readContext, structureFrame } from "./read-context.ts";

/** What is kept with a load: which standings it turned, and over which months. */
export interface LoadAlerts {
  readonly words: string;
  readonly changes: readonly StandingChange[];
}

/** Where all KPIs stand in the last closed month and for the year to it, against budget (or the prior year where there is none). */
export async function standingsNow(
  knex: Knex,
  structure: Structure,
): Promise<{ month: string; standings: Standing[] }> {
  const { coverage, calendar, kpis } = structure;
  const asOf = lastClosedMonth(coverage);
  if (asOf === undefined) return { month: "", standings: [] };
  const hasBudget = coverage.homes.has("budget");
  const basis: Basis = hasBudget ? { kind: "scenario", scenario: "budget" } : { kind: "prior-year" };
  const frames = ALERT_SPANS.map((kind) => ({
    kind,
    frame: { asOf, span: { kind }, basis, scope: {} } satisfies Frame,
  }));
  const all = [...kpis.values()];
  const own = structureFrame(structure);
  const context = await readContext(
    sqlFactSource(knex, structure),
    own,
    frames.flatMap(({ frame }) => [...comparisonAsks(all, frame, own), ...statusAsks(all, frame, own, kpis)]),
  );
  return {
    month: periodName(calendar, asOf),
    standings: frames.flatMap(({ kind, frame }) =>
      all.flatMap((kpi) => {
        const comparison = compareKpi(kpi, frame, context);
        return standingOf(kpi, kind, comparison, kpiStatus(kpi, comparison, frame, context, kpis)) ?? [];
      }),
    ),
  };
}

/** The alerts of the last load that is in force. They speak of the whole company, so they are for those who see all of it. */
export async function readAlerts(knex: Knex, structure: Structure, reader: Reader): Promise<Alerts> {
  const none: Alerts = { load: null, words: "", changes: [] };
  if (Object.keys(reader.scope).length > 0) return none;
  const row = await knex("load")
    .whereNotNull("alerts")
    .whereNull("undone_at")
    .orderBy("id", "desc")
    .first<{ id: number; file_name: string; posted_at: Date; posted_by: string; alerts: LoadAlerts } | undefined>("*");
  if (!row) return none;
  return {
    load: { id: row.id, fileName: row.file_name, postedAt: row.posted_at.toISOString(), postedBy: row.posted_by },
    words: row.alerts.words,
    changes: row.alerts.changes.flatMap((change) => {
      const kpi = structure.kpis.get(change.kpi);
      return kpi ? [{ ...change, name: kpi.definition.name }] : [];
    }),
  };
}
