import type { Knex } from "knex";

/**
 * What other currencies were worth, month by month. Of several loads with a rate for the same month the last one
 * counts; a load out of force takes its rates with it. Facts keep what they were before they were converted.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table dataset add holds text not null default 'facts' check (holds in ('facts', 'rates'));
    create table currency_rate (
      load_id integer not null references load on delete cascade,
      currency text not null,
      month integer not null,
      kind text not null check (kind in ('average', 'closing')),
      units bigint not null check (units > 0),
      priced text not null check (priced in ('foreign', 'own')),
      line integer not null,
      primary key (load_id, currency, month, kind)
    );
    comment on column currency_rate.units is 'whole units of 10^-9';
    comment on column currency_rate.priced is 'of which currency one unit is priced, the foreign one or the company''s own';
    alter table fact add original_amount numeric, add original_currency text;
    alter table fact_set_aside add original_amount numeric, add original_currency text;
    create index fact_original on fact (original_currency, month) where original_currency is not null;
    create view rate_in_force as
      select distinct on (currency, currency_rate.month, kind) currency, currency_rate.month, kind, units, priced
      from currency_rate
      where exists (
        select 1 from load_month
        where load_month.load_id = currency_rate.load_id and load_month.month = currency_rate.month
          and load_month.set_aside_by is null)
      order by currency, currency_rate.month, kind, currency_rate.load_id desc;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop view rate_in_force;
    drop index fact_original;
    alter table fact drop original_amount, drop original_currency;
    alter table fact_set_aside drop original_amount, drop original_currency;
    drop table currency_rate;
    alter table dataset drop holds;
  `);
}
