import type { Knex } from "knex";

/**
 * The slots in which facts keep their members belong to a dataset: each has sixteen, and of dimensions there may be any
 * number. Facts stay where they are, since each dataset keeps the slots that its dimensions had.
 */
export async function up(knex: Knex): Promise<void> {
  const added = Array.from({ length: 8 }, (_, i) => `add m${i + 9} integer`).join(", ");
  await knex.raw(`
    create table dataset_slot (
      dataset_id integer not null references dataset on delete cascade,
      dimension_id integer not null references dimension on delete cascade,
      slot smallint not null check (slot between 1 and 16),
      primary key (dataset_id, dimension_id),
      unique (dataset_id, slot)
    );
    comment on table dataset_slot is 'in which column m1 … m16 of a dataset''s facts a dimension''s members are kept';
    insert into dataset_slot (dataset_id, dimension_id, slot)
    select dataset.id, dimension.id, dimension.slot
    from dataset cross join dimension
    where dimension.key = any(dataset.dimensions)
      or exists (
        select 1 from load join load_account on load_account.load_id = load.id
        where load.dataset_id = dataset.id and load_account.depths[dimension.slot] > 0);
    alter table dimension add position integer not null default 0;
    update dimension set position = slot - 1;
    alter table dimension drop slot;
    alter table fact ${added};
    alter table fact_set_aside ${added};
  `);
}

export async function down(knex: Knex): Promise<void> {
  const dropped = Array.from({ length: 8 }, (_, i) => `drop m${i + 9}`).join(", ");
  // Back to eight for all: what a dataset keeps elsewhere than the others cannot be brought back.
  await knex.raw(`
    alter table fact ${dropped};
    alter table fact_set_aside ${dropped};
    alter table dimension add slot smallint unique check (slot between 1 and 8);
    update dimension set slot = position + 1 where position < 8;
    alter table dimension drop position;
    drop table dataset_slot;
  `);
}
