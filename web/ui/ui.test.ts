import { describe, expect, it } from "vitest";
import { judgementColour } from "../figures/judgement.tsx";

import { unbroken } from "./unbroken.ts";

describe("the look's one code", () => {
  it("gives every judgement its own colour", () => {
    const colours = (["favourable", "unfavourable", "on plan", "neutral"] as const).map(judgementColour);
    expect(new Set(colours).size).toBe(4);
    expect(judgementColour(null)).toBe("var(--slate)");
  });
  it("keeps a sign and its figure together", () => {
    expect(unbroken("Fuel is € 1,082k above, crew € 16k below")).toBe(
      "Fuel is €\u00a01,082k above, crew €\u00a016k below",
    );
  });
});
