import { describe, expect, it } from "vitest";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { existingPicks, withBelow } from "./page-view.ts";

const member = (key: string) => ({ key, name: key, level: "area", hasFigures: true });
const dimensions = [
  { key: "route", name: "Route", levels: ["area"], members: [member("north"), member("south")] },
] as unknown as FrameChoices["dimensions"];

describe("what is picked", () => {
  it("is a member with all below it, in whatever order they are kept", () => {
    const tree = [
      {
        key: "route",
        members: [
          { key: "berth", parent: "line" },
          { key: "line", parent: "north" },
          { key: "north", parent: null },
          { key: "south", parent: null },
        ],
      },
    ] as unknown as FrameChoices["dimensions"];
    expect(withBelow({ route: ["north"], vessel: ["a"] }, tree)).toEqual({
      route: ["north", "line", "berth"],
      vessel: ["a"],
    });
    expect(withBelow({ route: ["north"] }, undefined)).toEqual({ route: ["north"] });
  });
});

describe("what is picked of what is there", () => {
  it("leaves out members and dimensions that are gone, and nothing else", () => {
    expect(existingPicks({ narrow: "route:gone,north", weigh: "vessel:old" }, dimensions)).toEqual({
      narrow: "route:north",
      weigh: undefined,
    });
    expect(existingPicks({ narrow: "route:north,south" }, dimensions).narrow).toBe("route:north,south");
  });
  it("asks for all of it while nothing is known, and for what cannot be read, so that it is said", () => {
    expect(existingPicks({ narrow: "route:gone" }, undefined)).toEqual({ narrow: "route:gone" });
    expect(existingPicks({ narrow: "no scope!" }, dimensions).narrow).toBe("no scope!");
  });
});
