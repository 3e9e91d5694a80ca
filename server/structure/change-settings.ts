import type { Knex } from "knex";
import type { z } from "zod";
import type { calendarChangeSchema, datasetChangeSchema, dimensionChangeSchema } from "#contract/structure.ts";
import { changeSetting } from "./change-structure.ts";
import { requireDimension } from "./structure-repository.ts";

/** Changes a dimension's name or levels. */
export async function changeDimension(
  trx: Knex.Transaction,
  key: string,
  { was, ...to }: z.output<typeof dimensionChangeSchema>,
  by: string,
): Promise<void> {
  const { name } = await requireDimension(trx, key);
  await changeSetting(trx, { by, said: `Changed the dimension ${name}` }, { table: "dimension", key, to, was });
}

/** Changes the company's name, or the month its fiscal year opens in. */
export async function changeCalendar(
  trx: Knex.Transaction,
  { was, ...to }: z.output<typeof calendarChangeSchema>,
  by: string,
): Promise<void> {
  const rowOf = ({ name, startMonth }: typeof to) => ({
    ...(name === undefined ? {} : { name }),
    ...(startMonth === undefined ? {} : { fiscal_start_month: startMonth }),
  });
  await changeSetting(
    trx,
    { by, said: "Changed the calendar" },
    { table: "company", key: "1", to: rowOf(to), was: was && rowOf(was) },
  );
}

/** Changes a dataset's name, dimensions, what its days mean, and whether it closes months. */
export async function changeDataset(
  trx: Knex.Transaction,
  key: string,
  { was, ...to }: z.output<typeof datasetChangeSchema>,
  by: string,
): Promise<void> {
  for (const dimension of to.dimensions ?? []) await requireDimension(trx, dimension);
  const rowOf = ({ daysWithoutLines, ...rest }: typeof to) => ({
    ...rest,
    ...(daysWithoutLines === undefined ? {} : { days_without_lines: daysWithoutLines }),
  });
  await changeSetting(
    trx,
    { by, said: `Changed the dataset ${to.name ?? key}` },
    { table: "dataset", key, to: rowOf(to), was: was && rowOf(was) },
  );
}
