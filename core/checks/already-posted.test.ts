import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { alreadyPosted } from "./already-posted.ts";
import type { LoadResult } from "./load-run.ts";
import type { CheckContext, PostedBefore } from "./check-context.ts";

const JANUARY = monthOf(2026, 1);
const planned = {
  accounts: [{ key: "sales", name: "Sales", decimals: 2 }],
  dimensions: [{ key: "region", name: "Region", members: [{ key: "north", name: "North" }] }],
} as unknown as CheckContext["view"];
const find = (here: bigint, there: bigint, members: readonly string[] = ["north"]) => {
  const result = {
    months: [{ scenario: "actual", month: JANUARY, days: null }],
    accounts: [{ scenario: "actual", account: "sales", month: JANUARY, rows: 1, amount: here }],
    usedMembers: new Map([["region", new Set(["north"])]]),
    newMembers: [],
  } as unknown as LoadResult;
  const before: PostedBefore = {
    amounts: [{ scenario: "actual", account: "sales", month: JANUARY, amount: there }],
    members: new Map([["region", new Set(members)]]),
  };
  const context = {
    view: { calendar: { startMonth: 1 } },
    answers: { posting: "new" },
    posted: [
      {
        loadId: 1,
        fileName: "first.csv",
        scenario: "actual",
        month: JANUARY,
        days: null,
        accounts: new Set(["sales"]),
      },
    ],
    before,
  } as unknown as CheckContext;
  return alreadyPosted(result, planned, context)[0]!;
};

describe("what is posted already", () => {
  it("is said with what is there, what comes, and what both would be", () => {
    expect(find(100_50n, 90_00n).message).toContain("Sales is 90.00 there and 100.50 here, together 190.50.");
  });
  it("reads like the same where figures are the same, or nearly", () => {
    expect(find(100_50n, 100_50n)).toMatchObject({ likely: "restate" });
    expect(find(100_50n, 100_50n).message).toContain("Every month is identical");
    expect(find(100_50n, 90_00n)).toMatchObject({ likely: "restate" });
    expect(find(100_50n, 90_00n).message).toContain("a corrected version");
    expect(find(-5n, -5n)).toMatchObject({ likely: "restate" });
  });
  it("reads like another part where members are others, and like nothing where figures are far apart", () => {
    expect(find(100_50n, 100_50n, ["south"])).toMatchObject({ likely: "beside" });
    expect(find(100_50n, 100_50n, ["south"]).message).toContain("It has North in Region");
    expect(find(100_50n, 10_00n).likely).toBeUndefined();
  });
});
