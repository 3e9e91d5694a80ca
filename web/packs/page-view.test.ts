import { describe, expect, it } from "vitest";
import type { FrameChoices } from "#contract/frame-choices.ts";
import { existingPicks } from "./page-view.ts";

const member = (key: string) => ({ key, name: key, level: "area", hasFigures: true });
const dimensions = [
  { key: "route", name: "Route", levels: ["area"], members: [member("north"), member("south")] },
] as unknown as FrameChoices["dimensions"];

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
