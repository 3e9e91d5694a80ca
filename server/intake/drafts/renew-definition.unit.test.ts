import { describe, expect, it } from "vitest";
import { emptyCompany } from "#testing/composed/judge-table.ts";
import { guessReading, proposeDefinition, renewDefinition } from "./detect.ts";

const view = emptyCompany(7);
const headOf = (text: string) =>
  text
    .trim()
    .split("\n")
    .map((line, i) => ({ line: i + 1, cells: line.split("|").map((cell) => cell.trim()) }));
const read = (text: string) => {
  const head = headOf(text);
  const reading = guessReading(head, { encoding: "utf-8", delimiter: "|", sheet: null }, view);
  return { head, reading, proposing: { view, fileName: "sites.csv" } };
};
const proposed = (text: string) => {
  const { head, reading, proposing } = read(text);
  return proposeDefinition(head, reading, proposing);
};
const renewed = (remembered: ReturnType<typeof proposed>, text: string) => {
  const { head, reading, proposing } = read(text);
  return renewDefinition(remembered, head, reading, proposing);
};

describe("the month after", () => {
  const month = (name: string, values: string) => `
    |${name}|
    Site|Actual|Budget
    Leeds|${values}
    York|3|4`;
  it("has its own columns turned into rows, under the names that the file before gave them", () => {
    const before = proposed(month("Jan 2025", "1|2"));
    const step = before.rules.steps.find(({ kind }) => kind === "turn")!;
    const named = {
      ...before,
      rules: {
        ...before.rules,
        steps: before.rules.steps.map((own) => (own === step ? { ...own, valueInto: "Euros" } : own)),
      },
    } as typeof before;
    const after = renewed(named, month("Feb 2025", "5|6"));
    expect(after.rules.steps.find(({ kind }) => kind === "turn")).toMatchObject({
      into: ["Period", "Scenario"],
      valueInto: "Euros",
      turned: [
        { name: "Feb 2025 Actual", texts: ["2025-02", "Actual"] },
        { name: "Feb 2025 Budget", texts: ["2025-02", "Budget"] },
      ],
    });
  });
  it("takes the year of its own title, and the answer that was given to the same question", () => {
    const file = (year: number) => `
      Rent ${year}||
      Site|Aug|Sep
      Leeds|1|2
      York|3|4`;
    const before = proposed(file(2025));
    const [doubt] = before.rules.mapping.doubts!;
    expect(doubt).toMatchObject({ key: "year", settled: null });
    const fiscal = doubt!.ways[1]!;
    const settled = {
      ...before,
      rules: {
        ...before.rules,
        steps: fiscal.steps!,
        mapping: { ...before.rules.mapping, doubts: [{ ...doubt!, settled: fiscal.name }] },
      },
    };
    const after = renewed(settled, file(2026));
    expect(after.rules.mapping.doubts).toMatchObject([{ key: "year", settled: "Fiscal year ending in 2026" }]);
    expect(JSON.stringify(after.rules.steps)).toContain("2025-08");
    expect(JSON.stringify(after.rules.steps)).not.toContain("2026-08");
  });
});
