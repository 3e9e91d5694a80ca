import { describe, expect, it } from "vitest";
import { natureOfName } from "./measure-nature.ts";

describe("what a name says is measured", () => {
  it.each([
    ["Sales", "income"],
    ["Cost of sales", "expense"],
    ["Revenue per head", "price"],
    ["Number of customers", "count"],
    ["Units sold", "count"],
    ["Headcount", "count-balance"],
    ["FTE", "count-balance"],
    ["Closing stock", "asset"],
    ["Trade payables", "liability"],
    ["Gross profit", "result"],
    ["Gross margin %", "rate"],
    ["Wareneinsatz", "expense"],
    ["Personalaufwand", "expense"],
    ["Umsatzerlöse Handel", "income"],
    ["Absatzmenge", "count"],
    ["Lagerbestand", "asset"],
    ["Chiffre d'affaires", "income"],
    ["Loyers", "expense"],
    ["Effectif", "count-balance"],
    ["Marge brute", "rate"],
    ["North", undefined],
  ])("%s: %s", (name, nature) => {
    expect(natureOfName(name)).toBe(nature);
  });
});
