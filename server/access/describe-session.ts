import type { Knex } from "knex";
import { asDateWriting, asNumberWriting } from "#core/formats/writing.ts";
import { paletteSchema, type OwnWriting, type Session } from "#contract/session.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { SAMPLE_COMPANY } from "#server/companies/registry.ts";
import type { Reader } from "./reader.ts";

/** Who is signed in, with what is opened for them and how their company looks. */
export async function describeSession(knex: Knex, { id, email, name, title, role }: Reader): Promise<Session> {
  const row:
    | {
        opens: string | null;
        palette: string;
        name: string | null;
        currency: string | null;
        company_numbers: string | null;
        numbers: string | null;
        company_dates: string | null;
        dates: string | null;
        is_sample: boolean;
        must_choose_password: boolean;
      }
    | undefined = await knex("person")
    .where("person.id", id)
    .leftJoin("company", "company.id", knex.raw("1"))
    // A pack that was retired since, or is gone, is not opened.
    .leftJoin("pack", (join) =>
      join
        .on("pack.key", "person.opens")
        .andOn(knex.raw("coalesce((pack.definition->>'isRetired')::boolean, false) = false")),
    )
    .first(
      "pack.key as opens",
      "company.palette",
      "company.name",
      "company.currency",
      "company.numbers as company_numbers",
      "person.numbers",
      "company.dates as company_dates",
      "person.dates",
      knex.raw("current_schema() = ? as is_sample", [SAMPLE_COMPANY.schema]),
      "person.must_choose_password",
    );
  const palette = paletteSchema.safeParse(row?.palette);
  return {
    email,
    name,
    title,
    role,
    opens: row?.opens ?? null,
    palette: palette.success ? palette.data : "linen",
    company: {
      name: row?.name ?? "",
      isSample: row?.is_sample ?? false,
      currency: row?.currency ?? "EUR",
      numbers: asNumberWriting(row?.company_numbers) ?? "1,234.5",
      dates: asDateWriting(row?.company_dates) ?? "30 November 2026",
    },
    numbers: asNumberWriting(row?.numbers) ?? null,
    dates: asDateWriting(row?.dates) ?? null,
    mustChoosePassword: row?.must_choose_password ?? false,
  };
}

/** Chooses what is opened at sign-in. Throws "not-found" where there is no such pack. */
export async function chooseOpens(knex: Knex, { id }: Reader, pack: string | null): Promise<void> {
  if (pack !== null && !(await knex("pack").where({ key: pack }).first("key")))
    throw new ProblemError("not-found", `There is no pack "${pack}" to open. Choose one from the list.`);
  await knex("person").where({ id }).update({ opens: pack });
}

/** Chooses how one reads numbers and days; `null`: as the company writes them. What is left out stays. */
export async function chooseWriting(knex: Knex, { id }: Reader, choice: OwnWriting): Promise<void> {
  if (Object.keys(choice).length > 0) await knex("person").where({ id }).update(choice);
}
