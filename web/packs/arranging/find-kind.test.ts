import { describe, expect, it } from "vitest";
import { PANEL_KINDS } from "#core/panels/schemas.ts";
import { findKinds } from "./find-kind.ts";

const found = (wanted: string) => findKinds(wanted).map(({ kind }) => kind);

describe("kinds of panels that are looked for", () => {
  it("are all there where nothing is looked for", () => {
    expect(found("  ")).toEqual([...PANEL_KINDS]);
  });
  it("are found by name, by the question they answer, and by what they also show", () => {
    expect(found("cross")).toEqual(["cross-tab"]);
    expect(found("end the year")).toEqual(["outlook"]);
    expect(findKinds("against average")).toEqual([
      { kind: "season", has: "this year against the average of earlier years" },
    ]);
    expect(found("chosen year")).toEqual(["time-chart"]);
    expect(found("WATERFALL")).toEqual(["bridge"]);
    expect(found("no such thing")).toEqual([]);
  });
});
