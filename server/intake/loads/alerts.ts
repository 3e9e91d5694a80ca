import type { Knex } from "knex";
import type { StandingChange } from "#core/alerts/standing.ts";
import type { UnusualFigure } from "#core/alerts/unusual-figures.ts";
import type { Alerts } from "#contract/alerts.ts";
import type { Reader } from "#server/access/reader.ts";
import type { Structure } from "#server/db/structure.ts";

/** What is kept with a load: which standings it turned, and over which months. */
export interface LoadAlerts {
  readonly words: string;
  readonly changes: readonly StandingChange[];
  /** What came out of the ordinary; not kept with loads of earlier versions. */
  readonly unusual?: readonly UnusualFigure[];
}

/** The alerts of the last load that is in force. They speak of the whole company, so they are for those who see all of it. */
export async function readAlerts(knex: Knex, structure: Structure, reader: Reader): Promise<Alerts> {
  const none: Alerts = { load: null, words: "", changes: [], unusual: [] };
  if (Object.keys(reader.scope).length > 0) return none;
  const row = await knex("load")
    .whereNotNull("alerts")
    .whereNull("undone_at")
    .orderBy("id", "desc")
    .first<{ id: number; file_name: string; posted_at: Date; posted_by: string; alerts: LoadAlerts } | undefined>("*");
  if (!row) return none;
  const named = <T extends { readonly kpi: string }>(all: readonly T[]) =>
    all.flatMap((one) => {
      const kpi = structure.kpis.get(one.kpi);
      return kpi ? [{ ...one, name: kpi.definition.name }] : [];
    });
  return {
    load: { id: row.id, fileName: row.file_name, postedAt: row.posted_at.toISOString(), postedBy: row.posted_by },
    words: row.alerts.words,
    changes: named(row.alerts.changes),
    unusual: named(row.alerts.unusual ?? []),
  };
}
