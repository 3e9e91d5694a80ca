import { describe, expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import { mapCoverage, type DatasetGrain, type MonthCoverage } from "../cube/coverage.ts";
import { CALENDAR } from "../testing/small-company.ts";
import type { Company } from "./company.ts";
import { openMonth } from "./open-month.ts";

const OCTOBER = monthOf(2026, 10);
const companyOf = (datasets: readonly DatasetGrain[], months: readonly MonthCoverage[]): Company =>
  ({
    calendar: CALENDAR,
    coverage: mapCoverage({
      datasets,
      scenarios: [{ key: "actual", name: "Actual", kind: "actual", madeAfter: null }],
      accounts: [],
      months,
    }),
  }) as unknown as Company;
const posted = (dataset: string, month: number, days: number | null = null): MonthCoverage => ({
  dataset,
  scenario: "actual",
  month,
  dayMask: days === null ? null : 2 ** days - 1,
});
const LEDGER: DatasetGrain = { key: "ledger", name: "Ledger", grain: "month", closes: true };
const DAILY: DatasetGrain = { key: "daily", name: "Daily", grain: "day" };
const STAFF: DatasetGrain = { key: "staff", name: "Staff", grain: "month" };

describe("the open month", () => {
  it("is the one after the last closed, with what each dataset has of it", () => {
    const company = companyOf(
      [LEDGER, DAILY, STAFF],
      [
        posted("ledger", OCTOBER),
        posted("daily", OCTOBER, 31),
        posted("daily", OCTOBER + 1, 17),
        posted("staff", OCTOBER + 1),
      ],
    );
    expect(openMonth(company)).toEqual({
      month: "2026-11",
      name: "November FY27",
      datasets: [
        { key: "ledger", name: "Ledger", has: "nothing", words: "nothing yet", closes: true },
        { key: "daily", name: "Daily", has: "part", words: "to day 17 of 30", closes: false },
        { key: "staff", name: "Staff", has: "all", words: "there", closes: false },
      ],
    });
  });
  it("does not wait for a dataset that brought nothing for months", () => {
    const at = (last: number) =>
      openMonth(companyOf([LEDGER, STAFF], [posted("ledger", OCTOBER), posted("staff", last)]))!.datasets.map(
        (d) => d.key,
      );
    expect(at(OCTOBER - 3)).toEqual(["ledger", "staff"]);
    expect(at(OCTOBER - 4)).toEqual(["ledger"]);
  });
  it("is none before anything is closed", () => {
    expect(openMonth(companyOf([LEDGER, DAILY], []))).toBeNull();
    expect(openMonth(companyOf([DAILY], [posted("daily", OCTOBER, 12)]))).toBeNull();
  });
});
