import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { formatMonth } from "../calendar/month.ts";
import { detectDelimiter } from "./detect-delimiter.ts";
import { detectNature } from "./detect-encoding.ts";
import { ExactSum, sameNumber, subtractTexts, sumTexts } from "../figures/exact-sum.ts";
import { columnNames, detectHeader } from "./header.ts";
import { profileColumns } from "./column-profile.ts";
import { DATE_FORMATS, detectDateFormat, readDate, type DateFormat } from "./read-date.ts";
import { detectDecimalMark, readNumber, roundUnits, toUnits, type DecimalMark } from "./read-number.ts";
import { writeDecimal } from "./write-decimal.ts";

const APRIL = { startMonth: 4 };
const units = (text: string, mark: DecimalMark = ".") => {
  const value = readNumber(text, mark);
  return value && [value.units, value.decimals];
};

describe("numbers", () => {
  it("reads every way of writing a negative, a group, a percentage and a currency", () => {
    for (const text of [
      "-1,234.50",
      "1,234.50-",
      "(1,234.50)",
      "−1 234.50",
      "-1'234.50",
      "(€ 1,234.50)",
      "€ -1,234.50",
      "-€ 1,234.50",
      "-1234.50 EUR",
    ])
      expect([text, units(text)]).toEqual([text, [-123450, 2]]);
    expect(units("1.234,50", ",")).toEqual([123450, 2]);
    expect(units("12.5 %")).toEqual([125, 3]);
    expect(units("EUR 7")).toEqual([7, 0]);
    expect(units("0.00")).toEqual([0, 2]);
    expect(units("-0")).toEqual([0, 0]);
    expect(units(".5")).toEqual([5, 1]);
  });
  it("refuses what is no number, and groups that are not of three", () => {
    for (const text of [
      "",
      " ",
      "-",
      "()",
      "abc",
      "1,23",
      "12,34.5",
      "1.2.3",
      "1,2345",
      "=1+1",
      "1e5",
      "NaN",
      "--1",
      "(-)",
      "1 2",
      "12345678901234567",
    ])
      expect([text, readNumber(text, ".")]).toEqual([text, undefined]);
  });
  it("reads what it writes, in both marks", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -(10 ** 14), max: 10 ** 14 }),
        fc.integer({ min: 0, max: 6 }),
        fc.constantFrom<DecimalMark>(".", ","),
        (n, decimals, mark) => {
          const value = readNumber(writeDecimal({ units: n, decimals }, mark), mark);
          expect(value).toEqual({ units: n === 0 ? 0 : n, decimals });
        },
      ),
    );
  });
  it("tells the mark where one of the texts gives it away, and says when none does", () => {
    expect(detectDecimalMark(["1.234,5", "1.000"])).toMatchObject({ mark: ",", isCertain: true });
    expect(detectDecimalMark(["1,234.50", "7"])).toMatchObject({ mark: ".", isCertain: true });
    expect(detectDecimalMark(["1,234", "5,678"])).toMatchObject({ mark: ".", isCertain: false });
    expect(detectDecimalMark(["12", "7"]).isCertain).toBe(true);
  });
  it("keeps to an account's decimals, or rounds halves away from zero", () => {
    const value = (text: string) => readNumber(text, ".")!;
    expect(toUnits(value("12.50"), 1)).toBe(125);
    expect(toUnits(value("12.55"), 1)).toBe("fraction");
    expect(toUnits(value("999999999999999"), 2)).toBe("too-large");
    expect([
      roundUnits(value("2.5"), 0),
      roundUnits(value("-2.5"), 0),
      roundUnits(value("2.49"), 0),
      roundUnits(value("-0.4"), 0),
    ]).toEqual([3, -3, 2, 0]);
  });
});

describe("exact sums", () => {
  it("add up decimals as whole numbers do, beyond 2^53 and in any order", () => {
    const decimals = fc.array(fc.tuple(fc.maxSafeInteger(), fc.integer({ min: 0, max: 6 })), { maxLength: 50 });
    fc.assert(
      fc.property(decimals, (values) => {
        const sum = new ExactSum();
        for (const [n, d] of values) sum.add(n, d);
        const slow = values.reduce((total, [n, d]) => total + BigInt(n) * 10n ** BigInt(6 - d), 0n);
        expect(sameNumber(sum.toText(6), writeBig(slow))).toBe(true);
        const turned = new ExactSum();
        for (const [n, d] of values.toReversed()) turned.add(n, d);
        expect(turned.toText()).toBe(sum.toText());
      }),
    );
  });
  it("differ and add up as texts", () => {
    expect(subtractTexts("0.1", "0.30")).toBe("-0.20");
    expect(sumTexts(["99999999999999.99", "0.01", "-1"])).toBe("99999999999999.00");
    expect(sameNumber("12.50", "12.5")).toBe(true);
    expect(sameNumber("12.51", "12.5")).toBe(false);
  });
});

function writeBig(units: bigint): string {
  const digits = (units < 0n ? -units : units).toString().padStart(7, "0");
  return `${units < 0n ? "-" : ""}${digits.slice(0, -6)}.${digits.slice(-6)}`;
}

describe("dates", () => {
  const read = (text: string, format: DateFormat) => {
    const date = readDate(text, format, APRIL);
    return date && formatMonth(date.month) + (date.day === null ? "" : `/${date.day}`);
  };
  it("reads each way of writing one", () => {
    expect(read("2026-11-30", "iso")).toBe("2026-11/30");
    expect(read("2026-11-30T08:15:00Z", "iso")).toBe("2026-11/30");
    expect(read("202611", "iso")).toBe("2026-11");
    expect(read("30.11.2026", "day-first")).toBe("2026-11/30");
    expect(read("11/30/26", "month-first")).toBe("2026-11/30");
    expect(read("11/2026", "day-first")).toBe("2026-11");
    for (const text of ["November 2026", "Nov 2026", "Nov-26", "NOV. 2026", "2026 November", "Nov '26"])
      expect([text, read(text, "month-name")]).toEqual([text, "2026-11"]);
    expect(read("30 Nov 2026", "month-name")).toBe("2026-11/30");
    expect(read("November 30, 2026", "month-name")).toBe("2026-11/30");
    for (const text of ["P08 FY27", "FY27 P8", "P8 2027", "Period 8 of FY2027", "2027P08"])
      expect([text, read(text, "fiscal-period")]).toEqual([text, "2026-11"]);
    expect(read("Q3 FY27", "quarter")).toBe("2026-10");
    expect(read("2026 Q3", "quarter")).toBe("2026-07");
  });
  it("reads spreadsheets' serial numbers, the day that never was apart", () => {
    // 1 January 2000 is 36526 in every spreadsheet program.
    expect(read("36526", "serial")).toBe("2000-01/1");
    expect(read("36585", "serial")).toBe("2000-02/29");
    expect(read("46356.75", "serial")).toBe("2026-11/30");
  });
  it("refuses days that do not exist", () => {
    expect(["31.11.2026", "29.02.2026", "00.01.2026"].map((text) => read(text, "day-first"))).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect(read("Marchember 2026", "month-name")).toBeUndefined();
    expect(read("P13 FY27", "fiscal-period")).toBeUndefined();
  });
  it("finds the format, and says when another fits as well", () => {
    expect(detectDateFormat(["03/04/2026", "25/04/2026"], APRIL)).toMatchObject({
      format: "day-first",
      isCertain: true,
    });
    expect(detectDateFormat(["03/25/2026"], APRIL)).toMatchObject({ format: "month-first", isCertain: true });
    expect(detectDateFormat(["03/04/2026"], APRIL)).toMatchObject({ format: "day-first", isCertain: false });
    // What could be read either way is read as the company writes dates; what could not, as it is written.
    const monthFirst = { ...APRIL, isMonthFirst: true };
    expect(detectDateFormat(["03/04/2026"], monthFirst)).toMatchObject({ format: "month-first", isCertain: false });
    expect(detectDateFormat(["25/04/2026"], monthFirst)).toMatchObject({ format: "day-first", isCertain: true });
    expect(detectDateFormat(["P07 FY27"], APRIL)?.format).toBe("fiscal-period");
    expect(detectDateFormat(["Repairs", "Fuel"], APRIL)).toBeUndefined();
  });
  it("never throws, whatever is read", () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom(...DATE_FORMATS), (text, format) => {
        const date = readDate(text, format, APRIL);
        if (date && date.day !== null) expect(date.day).toBeGreaterThan(0);
        readNumber(text, ".");
      }),
    );
  });
});

describe("files", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  it("tells encodings by mark and by pattern", () => {
    expect(detectNature(bytes("a;é"))).toMatchObject({ kind: "text", encoding: "utf-8", hasMark: false });
    expect(detectNature(Uint8Array.of(0xef, 0xbb, 0xbf, 0x61))).toMatchObject({ encoding: "utf-8", hasMark: true });
    expect(detectNature(Uint8Array.of(0x61, 0x3b, 0xe9, 0x0a))).toMatchObject({ encoding: "windows-1252" });
    expect(detectNature(Uint8Array.of(0xff, 0xfe, 0x61, 0))).toMatchObject({ encoding: "utf-16le" });
    expect(detectNature(Uint8Array.of(0, 0x61, 0, 0x62, 0, 0x63, 0, 0x64))).toMatchObject({ encoding: "utf-16be" });
  });
  it("tells what is no table", () => {
    const utf32 = (text: string, isLittle: boolean) => {
      const view = new DataView(new ArrayBuffer(text.length * 4));
      [...text].forEach((letter, i) => view.setUint32(i * 4, letter.codePointAt(0)!, isLittle));
      return new Uint8Array(view.buffer);
    };
    for (const text of ["\ufeffMonth,Amount", "Month,Amount", "月,額"])
      for (const isLittle of [true, false])
        expect(detectNature(utf32(text, isLittle)), text).toEqual({ kind: "binary", what: "text in UTF-32" });
    // UTF-16 with its mark and an empty first line is not UTF-32.
    expect(detectNature(Uint8Array.of(0xff, 0xfe, 0x0a, 0, 0x61, 0))).toMatchObject({ encoding: "utf-16le" });
    expect(detectNature(new Uint8Array())).toEqual({ kind: "empty" });
    expect(detectNature(Uint8Array.of(0x50, 0x4b, 3, 4))).toEqual({ kind: "workbook" });
    expect(detectNature(bytes("%PDF-1.7"))).toEqual({ kind: "binary", what: "a PDF document" });
    expect(detectNature(Uint8Array.of(1, 2, 3, 0, 5, 6))).toMatchObject({ kind: "binary" });
  });
  it("finds the delimiter, decimal commas or not", () => {
    expect(detectDelimiter("a;b;c\n1,5;2,5;3\n1,5;2,5;3\n")).toBe(";");
    expect(detectDelimiter('a,b\n"1;2;3",4\n"5;6;7",8\n')).toBe(",");
    expect(detectDelimiter("a\tb\n1\t2\n")).toBe("\t");
    expect(detectDelimiter("one column\n1\n2\n")).toBe(",");
  });
});

describe("headers", () => {
  const data = [
    ["Repairs", "Osk", "1,200.00"],
    ["Fuel", "Osk", "(3.50)"],
  ];
  it("are found below a preamble", () => {
    const rows = [["Ledger extract"], ["Control total:", "12.00"], ["Account", "Route", "Amount"], ...data];
    expect(detectHeader(rows)).toEqual({ line: 3, rows: 1 });
  });
  it("are found with months laid out as columns", () => {
    expect(
      detectHeader([
        ["Account", "Apr 2026", "May 2026"],
        ["Fuel", "1", "2"],
        ["Crew", "3", "4"],
      ]),
    ).toEqual({ line: 1, rows: 1 });
  });
  it("of two lines are joined, the upper one filled to the right", () => {
    const rows = [
      ["", "Budget", "", "Actual", ""],
      ["Account", "Apr", "May", "Apr", "May"],
      ["Fuel", "1", "2", "3", "4"],
      ["Crew", "1", "2", "3", "4"],
    ];
    expect(detectHeader(rows)).toEqual({ line: 1, rows: 2 });
    expect(columnNames(rows.slice(0, 2), 5)).toEqual([
      "Account",
      "Budget Apr",
      "Budget May",
      "Actual Apr",
      "Actual May",
    ]);
  });
  it("may be missing", () => {
    expect(
      detectHeader([
        ["2026-04", "12", "5"],
        ["2026-05", "13", "6"],
      ]).rows,
    ).toBe(0);
    expect(columnNames([], 2)).toEqual(["Column 1", "Column 2"]);
  });
  it("get names that are all different", () => {
    expect(columnNames([["A", "A", ""]], 3)).toEqual(["A", "A (2)", "Column 3"]);
  });
  it("name columns whose values tell their type", () => {
    const found = profileColumns(
      ["Period", "Account", "Amount", "Code"],
      [
        ["2026-04", "Fuel", "1,5", "004"],
        ["2026-05", "Crew", "2,25", "007"],
      ],
      APRIL,
    );
    expect(found.map((p) => [p.type, p.mark])).toEqual([
      ["date", "."],
      ["text", "."],
      ["number", ","],
      ["number", "."],
    ]);
  });
});
