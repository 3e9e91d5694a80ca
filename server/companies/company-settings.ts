import type { Knex } from "knex";
import type { z } from "zod";
import { asDateWriting, asNumberWriting } from "#core/formats/writing.ts";
import type { Company, companyChangeSchema } from "#contract/companies.ts";
import { noteChange } from "#server/db/data-version.ts";
import { refuseOtherCurrency } from "#server/facts/currency-rates.ts";
import { refuseOverwritten } from "#server/history/refuse-overwritten.ts";

interface CompanyRow {
  readonly name: string;
  readonly currency: string;
  readonly numbers: string;
  readonly dates: string;
  readonly week_start: number;
  readonly fiscal_start_month: number;
}

/** What a company says of itself. */
export async function describeCompany(knex: Knex): Promise<Omit<Company, "isSample">> {
  const row = await knex("company").first<CompanyRow | undefined>(
    "name",
    "currency",
    "numbers",
    "dates",
    "week_start",
    "fiscal_start_month",
  );
  return {
    name: row?.name ?? "",
    currency: row?.currency ?? "EUR",
    startMonth: row?.fiscal_start_month ?? 1,
    numbers: asNumberWriting(row?.numbers) ?? "1,234.5",
    dates: asDateWriting(row?.dates) ?? "30 November 2026",
    weekStart: row?.week_start ?? 1,
  };
}

/** Changes what a company says of itself. Throws a `ProblemError` where somebody changed the same meanwhile, or the currency is not free to change. */
export async function changeCompany(
  trx: Knex.Transaction,
  { was, ...to }: z.output<typeof companyChangeSchema>,
): Promise<void> {
  const { weekStart, ...plain } = to;
  const change = { ...plain, ...(weekStart === undefined ? {} : { week_start: weekStart }) };
  await trx("company").forUpdate().first("id");
  refuseOverwritten<Omit<Company, "isSample" | "startMonth">>("the company", {
    now: await describeCompany(trx),
    was,
    to,
  });
  if (change.currency !== undefined) await refuseOtherCurrency(trx, change.currency);
  if (Object.keys(change).length > 0) await trx("company").update(change);
  await noteChange(trx);
}
