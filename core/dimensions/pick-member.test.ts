import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { pickMember } from "./pick-member.ts";

const pick = (picked: Parameters<typeof pickMember>[0], member: string, adds = false, dimension = "route") =>
  pickMember(picked, { dimension, member, adds });

describe("picking a member", () => {
  it("takes the place of others of its dimension, is taken back by the same click, and leaves other dimensions", () => {
    const one = pick({ line: ["freight"] }, "north");
    expect(one).toEqual({ line: ["freight"], route: ["north"] });
    expect(pick(one, "south")).toEqual({ line: ["freight"], route: ["south"] });
    expect(pick(one, "north")).toEqual({ line: ["freight"] });
  });
  it("is added to others, and taken from them", () => {
    const two = pick(pick({}, "north"), "south", true);
    expect(two).toEqual({ route: ["north", "south"] });
    expect(pick(two, "north", true)).toEqual({ route: ["south"] });
    expect(pick(two, "north")).toEqual({ route: ["north"] });
  });
  it("never leaves an empty list, which would let nothing through", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom("a", "b", "c"), fc.boolean())), (clicks) => {
        const picked = clicks.reduce((now, [member, adds]) => pick(now, member, adds), {});
        for (const members of Object.values(picked) as string[][]) {
          expect(members.length).toBeGreaterThan(0);
          expect(new Set(members).size).toBe(members.length);
        }
      }),
    );
  });
});
