import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { monthOf } from "#core/calendar/month.ts";
import type { CellQuery } from "#core/cube/cell-source.ts";
import type { Fact } from "#core/cube/fact.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { structureReader, type Structure } from "#server/db/structure.ts";
import { sqlFactSource } from "#server/facts/fact-source.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { bookOf } from "#server/facts/memory/memory-book.ts";
import { compareLoads } from "#server/intake/loads/difference.ts";
import { createPartition } from "#server/facts/partitions.ts";
import { inBatches, openLoad, postFacts } from "#server/intake/post-facts.ts";
import { addDimension } from "#server/structure/add.ts";
import { changeMembers } from "#server/structure/change-structure.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

const MONTH = monthOf(2026, 4);
const OWN = Array.from({ length: 12 }, (_, i) => `d${i + 1}`);
const OTHER = Array.from({ length: 15 }, (_, i) => `e${i + 1}`);
/** In "orders" it comes first, in "visits" last: it lies in another slot of each. */
const SHARED = "branch";
let database: OwnDatabase;
let knex: Knex;
let structure: Structure;
const facts = new Map<string, Fact[]>();
const loads = new Map<string, number[]>();

beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "many_dimensions");
  ({ knex } = database);
  await knex.transaction(async (trx) => {
    for (const key of [SHARED, ...OWN, ...OTHER]) {
      await addDimension(trx, { key, name: key, plural: `${key}s` });
      const { id } = (await trx("dimension").where({ key }).first<{ id: number }>("id"))!;
      for (const [position, member] of ["x", "y", "z"].entries())
        await trx("member").insert({ dimension_id: id, key: member, name: `${key} ${member}`, position });
    }
    await addDataset(trx, "orders", [SHARED, ...OWN]);
    await addDataset(trx, "visits", [...OTHER, SHARED]);
  });
  await post("orders", "ord", [SHARED, ...OWN]);
  await post("visits", "vis", [...OTHER, SHARED]);
  await post("visits", "vis", [...OTHER, SHARED], 1);
  structure = await structureReader(knex)();
});
afterAll(() => database.drop());

async function addDataset(trx: Knex.Transaction, key: string, dimensions: string[]): Promise<void> {
  const [row]: { id: number }[] = await trx("dataset")
    .insert({ key, name: key, grain: "month", dimensions, position: 90, closes: false })
    .returning("id");
  await createPartition(trx, row!.id);
  await trx("account").insert({
    key: key.slice(0, 3),
    name: key,
    kind: "income",
    behaviour: "flow",
    unit: JSON.stringify({ kind: "money" }),
    decimals: 2,
    position: 900,
  });
}

/** Facts of which each has members of all dimensions but one, in an order that leaves no pattern to lean on. */
async function post(dataset: string, account: string, dimensions: readonly string[], month = 0): Promise<void> {
  const own = Array.from({ length: 40 }, (_, i): Fact => ({
    scenario: "actual",
    account,
    month: MONTH + month,
    day: null,
    members: Object.fromEntries(
      dimensions.flatMap((key, d) =>
        i % 7 === d ? [] : [[key, ["x", "y", "z"][Math.floor((i + 1) * (d + 2) * 6.18) % 3]!]],
      ),
    ),
    amount: 2 ** (i % 20) + i,
    reference: null,
  }));
  const present = await structureReader(knex)();
  await knex.transaction(async (trx) => {
    const load = await openLoad(trx, {
      dataset,
      fileName: `${dataset}.csv`,
      postedBy: "Maren Holt",
      postedAt: new Date(),
      dimensions,
    });
    await postFacts(trx, present, load, inBatches(own));
    loads.set(dataset, [...(loads.get(dataset) ?? []), load.id]);
  });
  facts.set(account, [...(facts.get(account) ?? []), ...own]);
}

function byHand(account: string, month: number, scope: Readonly<Record<string, readonly string[]>>): number {
  return facts
    .get(account)!
    .filter((fact) => fact.month === month)
    .filter((fact) => Object.entries(scope).every(([key, members]) => members.includes(fact.members[key]!)))
    .reduce((sum, { amount }) => sum + amount, 0);
}

const SCOPES = [
  {},
  { [SHARED]: ["x"] },
  { [SHARED]: ["y", "z"], d12: ["x"] },
  { e15: ["z"] },
  { e1: ["x", "y"], e9: ["y"], [SHARED]: ["x", "z"] },
  { d1: ["z"], d7: ["x", "y"] },
];

describe("datasets of many dimensions", () => {
  it("are more than any one could keep, and each keeps its own", () => {
    expect(structure.dimensions.length).toBeGreaterThan(2 * 16);
    expect(structure.ids.slots.get("orders")!.size).toBe(13);
    expect(structure.ids.slots.get("visits")!.size).toBe(16);
    expect(structure.ids.slots.get("orders")!.get(SHARED)).not.toBe(structure.ids.slots.get("visits")!.get(SHARED));
  });

  it.each(SCOPES)("have the sums of their facts in %j, by SQL as from memory", async (scope) => {
    const query: CellQuery = {
      accounts: ["ord", "vis"],
      windows: [{ scenario: "actual", from: MONTH, to: MONTH + 1 }],
      scope,
    };
    const wanted = ["ord", "vis"].flatMap((account) => [0, 1].map((m) => byHand(account, MONTH + m, scope)));
    const source = sqlFactSource(knex, structure);
    expect([...(await source.pages([query]))[0]!.grids[0]!]).toEqual(wanted);
    const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
    await keeper.refresh();
    const book = bookOf(structure, keeper.at(structure.facts)!);
    const found = ["ord", "vis"].flatMap((account) =>
      [0, 1].map((m) =>
        book.sum({ scope, days: undefined, scenario: "actual", accounts: [account], months: [MONTH + m] }),
      ),
    );
    expect(found).toEqual(wanted);
  });

  it("are taken apart by a dimension that each keeps elsewhere", async () => {
    const cells = await sqlFactSource(knex, structure).cells({
      accounts: ["ord", "vis"],
      windows: [{ scenario: "actual", from: MONTH, to: MONTH }],
      scope: {},
      by: SHARED,
    });
    for (const { account, member, amount } of cells)
      expect([account, member, amount]).toEqual([account, member, byHand(account, MONTH, { [SHARED]: [member!] })]);
    expect(cells).toHaveLength(6);
  });

  it("show each line and each fact with its members", async () => {
    const source = sqlFactSource(knex, structure);
    const { lines, total } = await source.lines({
      places: [{ scenario: "actual", months: [MONTH] }],
      accounts: ["vis"],
      scope: { [SHARED]: ["x"] },
      offset: 0,
      limit: 50,
    });
    const inScope = facts.get("vis")!.filter((fact) => fact.month === MONTH && fact.members[SHARED] === "x");
    expect(total).toBe(inScope.length);
    const namesOf = ({ members }: Fact) => Object.entries(members).map(([key, member]) => `${key} ${member}`);
    expect(lines.map(({ members }) => [...members].sort())).toEqual(
      lines.map(({ line }) => namesOf(facts.get("vis")![line - 1]!).sort()),
    );
    const asked = { dataset: "orders", scenarios: [], from: null, to: null, scope: { d12: ["y"] } };
    const whole: unknown[] = [];
    for await (const { members, line } of source.facts(asked)) whole.push([line, members]);
    expect(whole).toEqual(
      facts.get("ord")!.flatMap((fact, i) => (fact.members["d12"] === "y" ? [[i + 1, fact.members]] : [])),
    );
    expect(whole.length).toBeGreaterThan(5);
  });

  it("are compared load by load with their members named", async () => {
    const [one, two] = loads.get("visits")!;
    const { lines, same } = await compareLoads(knex, structure, one!, two!);
    expect([same, lines.length]).toEqual([0, 80]);
    expect(lines[0]!.members.split(", ").length).toBeGreaterThan(13);
  });

  it("refuse one dimension more than facts can keep, and keep what was there", async () => {
    await knex.transaction((trx) => addDimension(trx, { key: "straw", name: "Straw", plural: "straws" }));
    const opened = knex.transaction((trx) =>
      openLoad(trx, {
        dataset: "visits",
        fileName: "v.csv",
        postedBy: "Maren Holt",
        postedAt: new Date(),
        dimensions: ["straw"],
      }),
    );
    await expect(opened).rejects.toThrow("Facts of visits would have 17 dimensions, and they can keep 16.");
    // Another dataset still has room for it, and has it as its own from then on.
    await knex.transaction((trx) =>
      openLoad(trx, {
        dataset: "orders",
        fileName: "o.csv",
        postedBy: "Maren Holt",
        postedAt: new Date(),
        dimensions: ["straw"],
      }),
    );
    expect((await structureReader(knex)()).datasetDimensions.get("orders")).toContain("straw");
  });

  it("keep members that any of them uses from being taken away", async () => {
    const changer = { by: "Maren Holt", said: "" };
    const without = (member: string) =>
      knex.transaction((trx) =>
        changeMembers(trx, changer, SHARED, (items) => items.filter(({ key }) => key !== member)),
      );
    await expect(without("x")).rejects.toThrow("branch x has facts");
    const { id } = (await knex("dimension").where({ key: SHARED }).first<{ id: number }>("id"))!;
    await knex("member").insert({ dimension_id: id, key: "unused", name: "unused", position: 9 });
    await without("unused");
  });
});
