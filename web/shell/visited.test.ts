import { describe, expect, it } from "vitest";
import { noted, type Visit } from "./visited.ts";

const visit = (path: string, search = ""): Visit => ({ path, search, title: path });

describe("what was looked at", () => {
  it("has each place once, as it was seen last, the latest first, and no more than a dozen", () => {
    const once = noted(noted([], visit("/kpis/fuel")), visit("/packs/review/cover", "?span=month"));
    expect(noted(once, visit("/kpis/fuel")).map(({ path }) => path)).toEqual(["/kpis/fuel", "/packs/review/cover"]);
    expect(noted(once, visit("/packs/review/cover", "?span=quarter"))[0]!.search).toBe("?span=quarter");
    const many = Array.from({ length: 20 }, (_, i) => visit(`/kpis/${i}`)).reduce(noted, [] as readonly Visit[]);
    expect([many.length, many[0]!.path]).toEqual([12, "/kpis/19"]);
  });
});
