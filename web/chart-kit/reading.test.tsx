import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { ReadingLines, readingWords, weighedAs, weighedIn, type Reading } from "./reading.tsx";

const MONEY = { unit: { kind: "money" }, decimals: 0 } as const;
const RATE = { unit: { kind: "percent" }, decimals: 1 } as const;
const reading: Reading = {
  title: "North",
  lines: [
    { name: "Actual", text: "€ 120" },
    { name: "", text: "two months" },
  ],
  judged: { judgement: "favourable", text: "+€ 20" },
  weighed: [weighedIn(MONEY, { value: 120 }, { value: 30 }, "units"), null],
  hint: "Click narrows",
};

describe("a reading", () => {
  it("is heard as one sentence of what its card shows", () => {
    expect(readingWords(reading)).toBe("North: Actual € 120, two months, +€ 20, favourable, selected part 25.0%");
    expect(readingWords({ title: "North", lines: [] })).toBe("North");
    render(<ReadingLines reading={reading} />);
    for (const text of ["Actual", "€ 120", "two months", "+€ 20", "favourable", "25.0%", "Click narrows"])
      expect(screen.getByText(text).textContent).toBe(text);
  });

  it("has of the selected part a share where wholes are sums, else its own figure", () => {
    expect(weighedIn(MONEY, { value: 200 }, { value: 50 }, "units")).toMatchObject({ share: 0.25 });
    expect(weighedIn(RATE, { value: 0.5 }, { value: 0.25 }, "units")).toMatchObject({ share: null, text: "25.0%" });
    // Against the sign of its whole, a part is no share of it.
    expect(weighedIn(MONEY, { value: 200 }, { value: -50 }, "units")).toMatchObject({ share: null });
    expect(weighedIn(MONEY, { value: 200 }, undefined, "units")).toBeNull();
    expect(weighedAs({ absent: "no base", detail: "" }, String)).toMatchObject({ text: "no base" });
    expect(weighedAs(undefined, String)).toBeNull();
  });
});
