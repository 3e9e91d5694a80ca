import { expect, it } from "vitest";
import { pluralName } from "./plural-name.ts";

it("knows the plurals of what dimensions are called, and guesses none", () => {
  const names = [
    "Customer",
    "Cost centre",
    "Country",
    "Branch",
    "Class",
    "Sales person",
    "customers",
    "Kunde",
    "Unit of work",
    "Région",
    "  Team ",
  ];
  expect(names.map(pluralName)).toEqual([
    "customers",
    "cost centres",
    "countries",
    "branches",
    "classes",
    "sales people",
    "customers",
    "values of Kunde",
    "values of Unit of work",
    "values of Région",
    "teams",
  ]);
});
