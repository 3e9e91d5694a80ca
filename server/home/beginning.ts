import type { Knex } from "knex";
import type { Home } from "#contract/home.ts";
import { SAMPLE_COMPANY } from "#server/companies/registry.ts";

/** How far a company of one's own has come on its first way; `null` of the sample. */
export async function describeBeginning(knex: Knex): Promise<Home["beginning"]> {
  const { rows } = await knex.raw<{
    rows: {
      is_sample: boolean;
      has_loads: boolean;
      has_judged: boolean;
      has_arranged: boolean;
      has_readers: boolean;
      pack: string | null;
      page: string | null;
      pack_name: string | null;
      page_name: string | null;
    }[];
  }>(
    `select current_schema() = ? as is_sample,
       exists (select from load where undone_at is null) as has_loads,
       exists (select from change where area = 'kpi') as has_judged,
       exists (select from change where area = 'pack') as has_arranged,
       (select count(*) from person) > 1 as has_readers,
       first.*
     from (select 1) as one left join (
       select page.pack, page.key as page, pack.definition->>'name' as pack_name, page.name as page_name
       from page join pack on pack.key = page.pack order by pack.position, page.position limit 1
     ) as first on true`,
    [SAMPLE_COMPANY.schema],
  );
  const row = rows[0]!;
  if (row.is_sample) return null;
  return {
    hasLoads: row.has_loads,
    page:
      row.pack === null
        ? null
        : { pack: row.pack, page: row.page!, packName: row.pack_name ?? row.pack, name: row.page_name! },
    hasJudged: row.has_judged,
    hasArranged: row.has_arranged,
    hasReaders: row.has_readers,
  };
}
