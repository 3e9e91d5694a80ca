import { monthsBetween } from "#core/calendar/month.ts";
import type { CellBook } from "#core/cube/cell-book.ts";
import type { Cell, CellQuery } from "#core/cube/cell-source.ts";
import { getOrCreate } from "#core/collections/keyed.ts";
import { DIMENSIONS } from "#demo/company/dimensions.ts";
import { sampleLoads } from "#demo/generate/loads.ts";
import type { Fact } from "#core/cube/fact.ts";

const PARENTS = new Map(DIMENSIONS.flatMap((d) => d.members.map((m) => [`${d.key}/${m.key}`, m.parent] as const)));
let filed: ReadonlyMap<string, readonly Fact[]> | undefined;

/**
 * The cells of the sample company found the slow, obvious way, without a database: every fact of the months is looked
 * at, members are followed upwards one by one.
 */
export function cellsOfFacts({ accounts, windows, scope, byDay, by }: CellQuery): Cell[] {
  filed ??= fileFacts();
  const chosen = Object.entries(scope);
  const sums = new Map<string, Cell>();
  for (const account of accounts) {
    for (const { scenario, from, to } of windows) {
      for (const month of monthsBetween(from, to)) {
        for (const { day, members, amount } of filed.get(placeOf(scenario, account, month)) ?? []) {
          if (byDay && day === null) continue;
          if (!chosen.every(([dimension, keys]) => isInside(dimension, members[dimension], keys))) continue;
          const member = by === undefined ? undefined : members[by];
          if (by !== undefined && member === undefined) continue;
          const key = `${placeOf(scenario, account, month)}/${member}/${byDay ? day : ""}`;
          const before = sums.get(key)?.amount ?? 0;
          sums.set(key, {
            scenario,
            account,
            month,
            amount: before + amount,
            ...(byDay ? { day: day! } : {}),
            ...(member === undefined ? {} : { member }),
          });
        }
      }
    }
  }
  return [...sums.values()];
}

/** A book of all the sample company's cells, each found once however often it is looked up. */
export function memoryBook(): CellBook {
  const known = new Map<string, Map<string, number>>();
  return {
    sum: ({ scope, days, scenario, accounts, months }) => {
      const page = getOrCreate(known, JSON.stringify([scope, days]), () => new Map<string, number>());
      let sum = 0;
      for (const account of accounts)
        for (const month of months)
          sum += getOrCreate(page, placeOf(scenario, account, month), () => {
            const windows = [{ scenario, from: month, to: month }];
            const query: CellQuery = { accounts: [account], windows, scope, ...(days ? { byDay: true } : {}) };
            return cellsOfFacts(query)
              .filter(({ day }) => !days || (day! >= days.from && day! <= days.to))
              .reduce((all, { amount }) => all + amount, 0);
          });
      return sum;
    },
  };
}

function fileFacts(): ReadonlyMap<string, readonly Fact[]> {
  const places = new Map<string, Fact[]>();
  for (const load of sampleLoads())
    for (const fact of load.facts())
      getOrCreate(places, placeOf(fact.scenario, fact.account, fact.month), () => []).push(fact);
  return places;
}

const placeOf = (scenario: string, account: string, month: number) => `${scenario}/${account}/${month}`;

function isInside(dimension: string, member: string | undefined, chosen: readonly string[]): boolean {
  if (member === undefined) return false;
  return chosen.includes(member) || isInside(dimension, PARENTS.get(`${dimension}/${member}`) ?? undefined, chosen);
}
