import { setMaxListeners } from "node:events";
import type { Knex } from "knex";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { askUnlessGone, isGivenUp } from "./ask-unless-gone.ts";
import { connect } from "./connect.ts";

let knex: Knex;
beforeAll(() => {
  knex = connect(inject("sampleUrl"));
});
afterAll(() => knex.destroy());

const asked = (seconds: number) => ({ sql: "select 'slow' as what from pg_sleep(?)", values: [seconds] });
const running = async () => {
  const { rows } = await knex.raw<{ rows: unknown[] }>(
    "select 1 from pg_stat_activity where query like '%''slow'' as what%' and state = 'active' and pid <> pg_backend_pid()",
  );
  return rows.length;
};
async function until(wanted: number): Promise<void> {
  while ((await running()) !== wanted) await new Promise((resolve) => setTimeout(resolve, 10));
}

describe("a query for somebody who may go", () => {
  it("is given up in the database when they are gone, and its connection serves others", async () => {
    const gone = new AbortController();
    const answer = askUnlessGone(knex, asked(600), gone.signal);
    const refused = expect(answer).rejects.toSatisfy(isGivenUp);
    await until(1);
    gone.abort();
    await refused;
    await until(0);
    expect(await Promise.all(Array.from({ length: 12 }, () => askUnlessGone(knex, asked(0), undefined)))).toHaveLength(
      12,
    );
  });

  it("waits for its turn beside many others, and leaves room for what is quick", async () => {
    const narrow = connect(inject("sampleUrl"), { poolSize: 4 });
    const here = new AbortController();
    setMaxListeners(0, here.signal);
    let isDone = false;
    const many = Promise.all(Array.from({ length: 9 }, () => askUnlessGone(narrow, asked(0.2), here.signal)));
    void many.then(() => (isDone = true));
    await narrow.raw("select 1");
    expect(isDone).toBe(false);
    expect(await many).toHaveLength(9);
    await narrow.destroy();
  });

  it("is answered while they are there, and not begun when they have gone before", async () => {
    const gone = new AbortController();
    expect(await askUnlessGone(knex, asked(0), gone.signal)).toEqual([{ what: "slow" }]);
    gone.abort();
    await expect(askUnlessGone(knex, asked(600), gone.signal)).rejects.toSatisfy(isGivenUp);
    expect(isGivenUp(new Error("syntax"))).toBe(false);
  });
});
