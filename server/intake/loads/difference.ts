import { writeDay } from "#core/formats/day-words.ts";
import { inWriting } from "#core/formats/writing.ts";
import { currencySign } from "#core/formats/currency.ts";
import type { Knex } from "knex";
import { periodName } from "#core/calendar/fiscal-calendar.ts";
import { bigDecimalText } from "#core/figures/exact-sum.ts";
import type { Difference } from "#contract/loads.ts";
import { memberReader, SLOT_COLUMNS, type SlotCells } from "#server/facts/slots.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Differing lines that are listed; beyond, they are counted. */
const LINES_LISTED = 1000;

interface DifferingRow extends SlotCells {
  side: "gone" | "new";
  dataset_id: number;
  line: number;
  scenario_id: number;
  account_id: number;
  month: number;
  day: number | null;
  amount: string;
  reference: string | null;
}

/**
 * The difference between two loads, line by line: facts that are in one of them more
 * often than in the other, whatever their place in the file.
 */
export async function compareLoads(
  knex: Knex,
  structure: Structure,
  fromId: number,
  toId: number,
): Promise<Difference> {
  const loads: { id: number; file_name: string }[] = await knex("load")
    .whereIn("id", [fromId, toId])
    .select("id", "file_name");
  const load = (id: number) => {
    const found = loads.find((l) => l.id === id);
    if (!found) throw new ProblemError("not-found", `There is no load ${id}.`);
    return { id, fileName: found.file_name };
  };
  const [from, to] = [load(fromId), load(toId)];
  const content = `dataset_id, scenario_id, account_id, month, day, amount, reference, ${SLOT_COLUMNS.join(", ")}`;
  // Equal facts are paired off by their number among equals; what has no partner differs.
  const numbered = (name: string) => `
    select *, row_number() over (partition by ${content} order by line) as n
    from (select ${content}, line from fact where load_id = :${name} union all
          select ${content}, line from fact_set_aside where load_id = :${name}) as own`;
  const joined = `from (${numbered("from")}) as a full join (${numbered("to")}) as b on
      a.n = b.n and a.amount = b.amount and a.account_id = b.account_id and a.scenario_id = b.scenario_id and a.month = b.month
      and (${["dataset_id", "day", "reference", ...SLOT_COLUMNS].map((c) => `a.${c} is not distinct from b.${c}`).join(" and ")})`;
  const columns = content
    .split(", ")
    .map((c) => `coalesce(a.${c}, b.${c}) as ${c}`)
    .join(", ");
  const { rows } = await knex.raw<{ rows: DifferingRow[] }>(
    `select case when b.line is null then 'gone' else 'new' end as side, coalesce(a.line, b.line) as line, ${columns}
     ${joined} where a.line is null or b.line is null order by line limit ${LINES_LISTED + 1}`,
    { from: fromId, to: toId },
  );
  const {
    rows: [counts],
  } = await knex.raw<{ rows: { same: string; differing: string }[] }>(
    `select count(*) filter (where a.line is not null and b.line is not null) as same,
       count(*) filter (where a.line is null or b.line is null) as differing ${joined}`,
    { from: fromId, to: toId },
  );
  const accounts = new Map([...structure.ids.accounts].map(([key, id]) => [id, structure.accounts.accounts.get(key)!]));
  const memberOf = memberReader(structure.ids);
  const memberName = new Map(
    structure.dimensions.flatMap((d) =>
      d.members.map((m) => [structure.ids.members.get(d.key)!.get(m.key)!, m.name] as const),
    ),
  );
  const unitOf = (id: number) => {
    const { unit } = accounts.get(id)!;
    return unit.kind === "money" ? currencySign(structure.currency) : unit.of;
  };
  return {
    from,
    to,
    same: Number(counts!.same),
    total: Number(counts!.differing),
    byAccount: await accountDifferences(knex, structure, fromId, toId),
    lines: rows.slice(0, LINES_LISTED).map((row) => ({
      side: row.side,
      line: row.line,
      account: accounts.get(row.account_id)!.name,
      period:
        row.day === null
          ? periodName(structure.calendar, row.month)
          : inWriting(structure, () => writeDay({ month: row.month, day: row.day! })),
      members: structure.dimensions.flatMap((d) => memberName.get(memberOf(row, d.key) ?? -1) ?? []).join(", "),
      reference: row.reference,
      amount: bigDecimalText(BigInt(row.amount), accounts.get(row.account_id)!.decimals),
      unit: unitOf(row.account_id),
    })),
  };
}

async function accountDifferences(
  knex: Knex,
  structure: Structure,
  fromId: number,
  toId: number,
): Promise<Difference["byAccount"]> {
  const rows: { key: string; load_id: number; total: string }[] = await knex("load_account")
    .join("account", "account.id", "load_account.account_id")
    .whereIn("load_id", [fromId, toId])
    .groupBy("account.key", "account.position", "load_id")
    .orderBy("account.position")
    .select("account.key", "load_id", knex.raw("sum(total)::text as total"));
  const keys = [...new Set(rows.map((row) => row.key))];
  return keys.flatMap((key) => {
    const total = (id: number) => BigInt(rows.find((row) => row.key === key && row.load_id === id)?.total ?? "0");
    const { name, decimals, unit } = structure.accounts.accounts.get(key)!;
    const [a, b] = [total(fromId), total(toId)];
    if (a === b) return [];
    const write = (minor: bigint) => bigDecimalText(minor, decimals);
    return [
      {
        account: name,
        unit: unit.kind === "money" ? currencySign(structure.currency) : unit.of,
        from: write(a),
        to: write(b),
        delta: write(b - a),
      },
    ];
  });
}
