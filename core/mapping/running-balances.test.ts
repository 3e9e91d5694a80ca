import fc from "fast-check";
import { expect, it } from "vitest";
import { RunningBalances } from "./running-balances.ts";

const fact = (account: string, month: number, amount: number) => ({
  scenario: "actual",
  account,
  month,
  day: null,
  members: {},
  amount,
  reference: "r",
});

it("ends each month with what moved the balance so far, to the last month of the file", () => {
  const running = new RunningBalances();
  running.add(fact("bank", 10, 500), 2);
  running.add(fact("bank", 12, -200), 7);
  running.see("actual", 13);
  expect(
    [...running.balances(1)].map(({ fact: { month, amount, reference }, line }) => [month, amount, reference, line]),
  ).toEqual([
    [10, 500, null, 7],
    [11, 500, null, 7],
    [12, 300, null, 7],
    [13, 300, null, 7],
  ]);
});

it("ends with the sum of all that moved it, in whatever order lines come", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(30), fc.integer({ min: -1e6, max: 1e6 })), { minLength: 1 }), (moves) => {
      const running = new RunningBalances();
      for (const [month, amount] of moves) {
        running.see("actual", month);
        running.add(fact("bank", month, amount), 1);
      }
      const balances = [...running.balances(1)];
      expect(balances.at(-1)!.fact.amount).toBe(moves.reduce((sum, [, amount]) => sum + amount, 0));
      expect(balances).toHaveLength(Math.max(...moves.map(([m]) => m)) - Math.min(...moves.map(([m]) => m)) + 1);
    }),
  );
});
