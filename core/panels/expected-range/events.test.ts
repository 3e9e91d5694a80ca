import { describe, expect, it } from "vitest";
import { joinEvents, type PlacedEvent } from "./events.ts";

const event = (of: string, from: number, to: number, more: Partial<PlacedEvent> = {}): PlacedEvent => ({
  of,
  from,
  to,
  kind: from === to ? "outlier" : "run",
  side: "below",
  worst: -3,
  deviation: -100,
  ...more,
});

describe("joining events", () => {
  it("makes one of those at the same time and to the same side, and says where it was", () => {
    const [storm, ...others] = joinEvents([
      event("grey", 9, 20, { worst: -4.1, deviation: -7000 }),
      event("isen", 10, 18, { deviation: -8300 }),
      event("", 9, 19, { deviation: -15_000 }),
      event("holm", 25, 25, { side: "above", worst: 3.2, deviation: 50 }),
    ]);
    expect(storm).toEqual({
      from: 9,
      to: 20,
      side: "below",
      kind: "run",
      worst: -4.1,
      // Of the members; what the whole was off is the same again.
      deviation: -15_300,
      members: ["grey", "isen"],
      isOfWhole: true,
    });
    expect(others).toEqual([
      expect.objectContaining({ from: 25, members: ["holm"], isOfWhole: false, kind: "outlier", side: "above" }),
    ]);
  });

  it("keeps apart what only touches in time, or lies on the other side", () => {
    expect(joinEvents([event("a", 1, 3), event("b", 4, 5)])).toHaveLength(2);
    expect(joinEvents([event("a", 1, 3), event("b", 2, 3, { side: "above" })])).toHaveLength(2);
    expect(joinEvents([event("", 1, 9, { kind: "shift" }), event("a", 2, 2)])[0]).toMatchObject({ kind: "shift" });
    expect(joinEvents([])).toEqual([]);
  });
});
