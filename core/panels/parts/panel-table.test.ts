import { expect, test } from "vitest";
import { tableAsTsv } from "./panel-table.ts";

test("a table pastes as numbers and plain texts, whatever the texts hold", () => {
  expect(
    tableAsTsv({
      columns: [
        { head: "KPI", holds: "text" },
        { head: "Actual", holds: "value" },
      ],
      rows: [
        ["Fuel\tand\noil", -1234.5],
        ["Margin", 0.369],
        ["None", null],
      ],
    }),
  ).toBe("KPI\tActual\nFuel and oil\t-1234.5\nMargin\t0.369\nNone\t");
});
