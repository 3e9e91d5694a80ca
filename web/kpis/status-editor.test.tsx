import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { StatusEditor } from "./status-editor.tsx";
import type { StatusRule } from "#core/kpis/schema.ts";

/** Keeps the rule as a KPI's page does, and tells what it is. */
function Harness({ start, onRule }: { start: StatusRule | null; onRule: (rule: StatusRule | null) => void }) {
  const [rule, setRule] = useState(start);
  const change = (next: StatusRule | null) => {
    setRule(next);
    onRule(next);
  };
  return <StatusEditor rule={rule} kpis={[]} own="fuel" isPercent={false} onChange={change} />;
}
let now: StatusRule | null = null;
const RULE: StatusRule = {
  against: { kind: "basis" },
  shownAs: "bands",
  bands: [
    { from: null, to: 100, grade: "poor", word: "behind" },
    { from: 100, to: null, grade: "good", word: "reached" },
  ],
};
const edit = (start: StatusRule | null) => {
  render(<Harness start={start} onRule={(rule) => (now = rule)} />);
  return userEvent.setup();
};
const problems = () => screen.queryAllByRole("alert").map((alert) => alert.textContent);

describe("the bands of a status", () => {
  it("begin as bands that tile the whole line", async () => {
    const user = edit(null);
    await user.click(screen.getByRole("button", { name: "Use status bands instead" }));
    expect(now?.bands.map((b) => [b.from, b.to])).toEqual([
      [null, 95],
      [95, 100],
      [100, null],
    ]);
    expect(problems()).toEqual([]);
  });
  it("say where they leave a hole or overlap, while they are typed", async () => {
    const user = edit(RULE);
    const to = screen.getByLabelText("To, band 1");
    await user.clear(to);
    await user.type(to, "90");
    await user.tab();
    expect(now?.bands[0]?.to).toBe(90);
    expect(problems().length).toBe(1);
    expect(problems()[0]).toMatch(/90/);
    await user.clear(to);
    await user.type(to, "110");
    await user.tab();
    expect(problems()[0]).toMatch(/110|100/);
  });
  it("change their grade and word, and go", async () => {
    const user = edit(RULE);
    await user.selectOptions(screen.getByLabelText("Grade, band 1"), "fair");
    const word = screen.getByLabelText("Word, band 2");
    await user.clear(word);
    await user.type(word, "there");
    expect(now?.bands).toMatchObject([{ grade: "fair" }, { word: "there" }]);
    await user.click(screen.getByRole("button", { name: "Remove band 2" }));
    expect(now?.bands).toHaveLength(1);
    expect(problems().length).toBe(1);
  });
});
