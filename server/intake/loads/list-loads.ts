import { inWriting, type Writing } from "#core/formats/writing.ts";
import type { Company } from "#core/frame/company.ts";
import { currencySign } from "#core/formats/currency.ts";
import type { Knex } from "knex";
import { monthsName, type FiscalCalendar } from "#core/calendar/fiscal-calendar.ts";
import { bigDecimalText } from "#core/figures/exact-sum.ts";
import type { AccountUnit } from "#core/accounts/account.ts";
import type { LoadDetail, LoadHead, LoadList } from "#contract/loads.ts";
import { RATE_DECIMALS } from "#core/currency/rate.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { broughtWords, type Brought } from "./brought.ts";
import { hindranceOf } from "./undo-load.ts";

interface LoadRow {
  id: number;
  file_name: string;
  posted_at: Date;
  posted_by: string;
  rows: number;
  rejected: number;
  dataset: string;
  scenario: string;
  months: number[];
  aside: number;
  undone_at: Date | null;
  undone_by: string | null;
}

/** What only the page of one load shows. */
interface LoadDetailRow extends LoadRow {
  file_id: number | null;
  intake: string | null;
  report: (Pick<LoadDetail, "findings"> & { amountInFile: string; amountInFacts: string }) | null;
  moved: LoadDetail["moved"] | null;
  followed_up: boolean;
  dataset_key: string;
  brought: Brought | null;
}

/** Loads with what a list shows, and further columns. Reports are left out of lists: each may be megabytes. */
const selectLoads = (further = "") => `
  select load.id, load.file_name, load.posted_at, load.posted_by, load.rows, load.rejected, load.undone_at, load.undone_by,
    dataset.name as dataset, string_agg(distinct scenario.name, ', ') as scenario,
    array_agg(distinct load_month.month) as months, count(load_month.set_aside_by)::float8 / count(*) as aside${further}
  from load
    join dataset on dataset.id = load.dataset_id
    join load_month on load_month.load_id = load.id
    join scenario on scenario.id = load_month.scenario_id
    left join intake on intake.id = load.intake_id`;
const DETAIL =
  ", load.file_id, load.report, load.moved, load.followed_up, load.brought, intake.name as intake, dataset.key as dataset_key";
const GROUP = "group by load.id, dataset.name, dataset.key, intake.name";

/** Everything that was posted, newest first, and what was broken off since. */
export async function listLoads(knex: Knex, calendar: FiscalCalendar): Promise<LoadList> {
  const [{ rows }, broken] = await Promise.all([
    knex.raw<{ rows: LoadRow[] }>(`${selectLoads()} ${GROUP} order by load.posted_at desc, load.id desc`),
    knex("job")
      .where({ kind: "post" })
      .whereIn("state", ["interrupted", "failed"])
      .where("started_at", ">", knex.raw("now() - interval '7 days'"))
      .orderBy("id", "desc")
      .limit(5)
      .select<
        {
          id: number;
          file_name: string;
          started_at: Date;
          started_by: string;
          message: string;
          draft_id: number | null;
        }[]
      >(),
  ]);
  return {
    total: rows.length,
    rows: rows.reduce((sum, row) => sum + (row.aside === 0 ? row.rows : 0), 0),
    loads: rows.map((row) => head(row, calendar)),
    broken: broken.map((job) => ({
      id: job.id,
      fileName: job.file_name,
      at: job.started_at.toISOString(),
      by: job.started_by,
      message: job.message ?? "Interrupted.",
      draftId: job.draft_id,
    })),
  };
}

/** One load with its totals, findings, moved figures and what may be done with it. */
export async function describeLoad(knex: Knex, company: Company & Writing, id: number): Promise<LoadDetail> {
  const { calendar, currency } = company;
  const {
    rows: [row],
  } = await knex.raw<{ rows: LoadDetailRow[] }>(`${selectLoads(DETAIL)} where load.id = ? ${GROUP}`, [id]);
  if (!row) throw new ProblemError("not-found", `There is no load ${id}. The load list shows what was posted.`);
  const totals: {
    account: string;
    scenario: string;
    rows: number;
    total: string;
    decimals: number;
    unit: AccountUnit;
  }[] = await knex("load_account")
    .join("account", "account.id", "load_account.account_id")
    .join("scenario", "scenario.id", "load_account.scenario_id")
    .where({ load_id: id })
    .orderBy(["account.position", "scenario.position"])
    .select("account.name as account", "scenario.name as scenario", "rows", "total", "decimals", "unit");
  const related = async (own: string, other: string) => {
    const { rows: found } = await knex.raw<{ rows: { id: number; file_name: string; months: number[] }[] }>(
      `select load.id, load.file_name, array_agg(distinct load_replaces.month) as months
       from load_replaces join load on load.id = load_replaces.${other} where load_replaces.${own} = ? group by load.id order by load.id`,
      [id],
    );
    return found.map((r) => ({ id: r.id, fileName: r.file_name, months: monthsName(calendar, r.months) }));
  };
  const names = await packNames(knex);
  return {
    ...head(row, calendar),
    postedAt: row.posted_at.toISOString(),
    undone: row.undone_at && row.undone_by ? { at: row.undone_at.toISOString(), by: row.undone_by } : null,
    intake: row.intake,
    hasFile: row.file_id !== null,
    totals: totals.map((t) => ({
      account: t.account,
      scenario: t.scenario,
      rows: t.rows,
      amount: bigDecimalText(BigInt(t.total), t.decimals),
      unit: t.unit.kind === "money" ? currencySign(currency) : t.unit.of,
    })),
    rates: await ratesOf(knex, id, calendar),
    findings: row.report?.findings ?? [],
    moved: row.moved ?? [],
    isFollowedUp: row.followed_up,
    asksOfDays: company.coverage.datasets.get(row.dataset_key)?.days?.isClear === false,
    review: await reviewOf(knex, row.dataset_key),
    replaces: await related("load_id", "replaced_id"),
    replacedBy: (await related("replaced_id", "load_id")).filter((r) => r.id !== id),
    brought: row.brought === null ? [] : inWriting(company, () => broughtWords(row.brought!, company, names)),
    hindrance: await hindranceOf(knex, id, calendar),
  };
}

async function packNames(knex: Knex): Promise<ReadonlyMap<string, string>> {
  const packs = await knex("pack").select<{ key: string; name: string | null }[]>(
    "key",
    knex.raw("definition ->> 'name' as name"),
  );
  return new Map(packs.map(({ key, name }) => [key, name ?? key]));
}

/** The rates of a load, by currency and month. */
async function ratesOf(knex: Knex, id: number, calendar: FiscalCalendar): Promise<LoadDetail["rates"]> {
  const rows = await knex("currency_rate")
    .where({ load_id: id })
    .groupBy("currency", "month")
    .orderBy(["currency", "month"])
    .select<{ currency: string; month: number; average: string | null; closing: string | null }[]>(
      "currency",
      "month",
      knex.raw("max(units) filter (where kind = 'average') as average"),
      knex.raw("max(units) filter (where kind = 'closing') as closing"),
    );
  const write = (units: string | null) =>
    units === null ? null : trimZeros(bigDecimalText(BigInt(units), RATE_DECIMALS));
  return rows.map(({ currency, month, average, closing }) => ({
    currency,
    month: monthsName(calendar, [month]),
    average: write(average),
    closing: write(closing),
  }));
}

/** "0.92" of "0.920000000". */
function trimZeros(text: string): string {
  return text.replace(/\.?0+$/, "");
}

async function reviewOf(knex: Knex, dataset: string): Promise<LoadDetail["review"]> {
  const found: { key: string; name: string } | undefined = await knex("pack")
    .whereRaw("definition -> 'starts' ->> 'dataset' = ?", [dataset])
    .orderBy("position")
    .first("key", knex.raw("definition ->> 'name' as name"));
  return found ? { pack: found.key, name: found.name } : null;
}

function head(row: LoadRow, calendar: FiscalCalendar): LoadHead {
  return {
    id: row.id,
    fileName: row.file_name,
    dataset: row.dataset,
    scenario: row.scenario,
    postedOn: row.posted_at.toISOString().slice(0, 10),
    postedBy: row.posted_by,
    rows: row.rows,
    rejected: row.rejected,
    months: monthsName(calendar, row.months),
    state: row.undone_at ? "undone" : row.aside === 0 ? "in force" : row.aside < 1 ? "partly replaced" : "replaced",
  };
}
