import type { Knex } from "knex";
import { monthsName, type FiscalCalendar } from "#core/calendar/fiscal-calendar.ts";
import type { LoadList } from "#contract/loads.ts";

/** Everything that was posted, newest first. */
export async function listLoads(knex: Knex, calendar: FiscalCalendar): Promise<LoadList> {
  const { rows } = await knex.raw<{ rows: LoadRow[] }>(`
    select load.id, load.file_name, load.posted_at, load.posted_by, load.rows, dataset.name as dataset,
      string_agg(distinct scenario.name, ', ') as scenario, array_agg(distinct load_month.month) as months
    from load
      join dataset on dataset.id = load.dataset_id
      join load_month on load_month.load_id = load.id
      join scenario on scenario.id = load_month.scenario_id
    group by load.id, dataset.name
    order by load.posted_at desc, load.id desc`);
  return {
    total: rows.length,
    rows: rows.reduce((sum, row) => sum + row.rows, 0),
    loads: rows.map((row) => ({
      id: row.id,
      fileName: row.file_name,
      dataset: row.dataset,
      scenario: row.scenario,
      postedOn: row.posted_at.toISOString().slice(0, 10),
      postedBy: row.posted_by,
      rows: row.rows,
      months: monthsName(calendar, row.months),
    })),
  };
}

interface LoadRow {
  id: number;
  file_name: string;
  posted_at: Date;
  posted_by: string;
  rows: number;
  dataset: string;
  scenario: string;
  months: number[];
}
