import { describe, expect, it } from "vitest";
import { composeTable } from "#testing/composed/compose-table.ts";
import { judgeTable } from "#testing/composed/judge-table.ts";
import { writeTable } from "#testing/composed/write-table.ts";

/** Other files are drawn with another first seed, and more of them: `npm run bench -- --files` reports on 2,000 new ones. */
const FIRST_SEED = Number(process.env["HACKLE_SEED"] ?? 70_001);
const FILES = Number(process.env["HACKLE_FILES"] ?? 200);

describe("tables composed of axes, header levels, ways of writing, totals and noise", () => {
  it("are posted with the sums they were made from, or stopped; none is posted wrong", async () => {
    const outcomes = { right: 0, wrong: 0, stopped: 0 };
    const wrong: string[] = [];
    let questions = 0;
    for (let seed = FIRST_SEED; seed < FIRST_SEED + FILES; seed += 1) {
      const table = composeTable(seed);
      const { outcome, why, questions: asked } = await judgeTable(table, await writeTable(table, seed));
      outcomes[outcome] += 1;
      questions = Math.max(questions, asked);
      if (outcome === "wrong") wrong.push(`${seed} (${table.combination}): ${why}`);
    }
    expect(wrong).toEqual([]);
    expect(outcomes.right).toBeGreaterThanOrEqual(FILES * 0.95);
    expect(questions).toBeLessThanOrEqual(2);
  });
});
