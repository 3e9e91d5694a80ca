import { describe, expect, it } from "vitest";
import { judgeVersion, type JudgedMonth } from "./judge-version.ts";

const month = (ahead: number, said: number, seen: number): JudgedMonth => ({
  month: 24_300 + ahead,
  ahead,
  said,
  seen,
});

describe("how right a version was", () => {
  it("is its bias, its mean error, and its errors by what came", () => {
    const found = judgeVersion([month(1, 90, 100), month(2, 230, 200), month(3, 100, 100)]);
    expect(found.months).toBe(3);
    expect(found.bias).toBeCloseTo((10 - 30 + 0) / 3, 12);
    expect(found.mae).toBeCloseTo(40 / 3, 12);
    expect(found.share).toBeCloseTo(40 / 400, 12);
    expect(found.byAhead.map(({ ahead, share, bias }) => [ahead, share, bias])).toEqual([
      [1, 0.1, 10],
      [2, 0.15, -30],
      [3, 0, 0],
    ]);
  });

  it("says nothing of no month, and no share of nothing", () => {
    expect(judgeVersion([])).toEqual({ months: 0, bias: null, mae: null, share: null, byAhead: [] });
    expect(judgeVersion([month(1, 5, 0)])).toMatchObject({ share: null, mae: 5, bias: -5 });
  });
});
