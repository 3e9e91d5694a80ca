import fc from "fast-check";
import { expect, test } from "vitest";
import { parseTextList, writeTextList } from "./text-list.ts";

test("texts are parted by the sign and stripped of spaces around them", () => {
  expect(parseTextList(" Total ,, Sum,Grand total, ", ",")).toEqual(["Total", "Sum", "Grand total"]);
  expect(parseTextList("", ";")).toEqual([]);
});

test("a quoted text keeps the sign, its spaces and its quotes", () => {
  expect(parseTextList('"Repairs, hull", Fuel, "12"" pipe"', ",")).toEqual(["Repairs, hull", "Fuel", '12" pipe']);
});

test("what is written is read back, whatever the texts", () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 1, unit: fc.constantFrom("a", " ", ",", ";", '"', "ä") })),
      fc.constantFrom(",", ";"),
      (items, sign: "," | ";") => {
        expect(parseTextList(writeTextList(items, sign), sign)).toEqual(items);
      },
    ),
  );
});
