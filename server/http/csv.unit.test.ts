import fc from "fast-check";
import papa from "papaparse";
import { expect, test } from "vitest";
import { csvRow } from "#server/csv/csv-row.ts";
import { contentDisposition } from "#server/export/downloads.ts";

test("a row keeps numbers as numbers and quotes what needs it", () => {
  expect(csvRow(["Fuel, marine", -12.5, null, "-3.50", 'say "so"'])).toBe(
    '"Fuel, marine",-12.5,,-3.50,"say ""so"""\r\n',
  );
});

test("a text that a spreadsheet would run is made harmless", () => {
  expect(csvRow(["=1+1", "+A1", "-A1", "@x", "a=b"])).toBe("'=1+1,'+A1,'-A1,'@x,a=b\r\n");
});

test("whatever is written is read back by a reader of the standard (RFC 4180)", () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: "grapheme" }), { minLength: 2, maxLength: 5 }), (cells) => {
      const harmless = cells.map((cell) =>
        /^[=+\-@\t\r]/.test(cell) && !/^-?\d+(\.\d+)?$/.test(cell) ? `'${cell}` : cell,
      );
      expect(papa.parse<string[]>(csvRow(cells), { delimiter: ",", newline: "\r\n" }).data[0]).toEqual(harmless);
    }),
  );
});

test("a download's name survives in any script, and cannot break out of its header", () => {
  const header = contentDisposition('März "25\r\n.csv');
  expect(header).not.toMatch(/[\r\n]/);
  expect(decodeURIComponent(header.split("''")[1]!)).toBe('März "25\r\n.csv');
});
