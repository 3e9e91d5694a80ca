import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createWriteStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ZipFile } from "yazl";
import { workbookOf } from "#testing/shape-files.ts";
import { readLimits } from "../limits.ts";
import { workbookHeads } from "./workbook-head.ts";

const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const TYPE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "hackle-workbooks-"));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Writes parts as an archive, in their order. */
async function archived(name: string, parts: readonly (readonly [string, string])[]): Promise<string> {
  const path = join(folder, name);
  const archive = new ZipFile();
  for (const [part, text] of parts) archive.addBuffer(Buffer.from(text), part);
  archive.end();
  await pipeline(archive.outputStream, createWriteStream(path));
  return path;
}
const rels = (...list: (readonly [string, string, string])[]) =>
  `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${list
    .map(([id, type, target]) => `<Relationship Id="${id}" Type="${TYPE}/${type}" Target="${target}"/>`)
    .join("")}</Relationships>`;
const cells = (...rows: (string | number)[][]) =>
  `<?xml version="1.0"?><worksheet xmlns="${MAIN}"><sheetData>${rows
    .map(
      (row, i) =>
        `<row r="${i + 1}">${row
          .map((cell, k) => {
            const at = `${"ABC"[k]}${i + 1}`;
            return typeof cell === "number"
              ? `<c r="${at}"><v>${cell}</v></c>`
              : `<c r="${at}" t="inlineStr"><is><t>${cell}</t></is></c>`;
          })
          .join("")}</row>`,
    )
    .join("")}</sheetData></worksheet>`;
const NORTH = cells(["Month", "Sales"], ["2026-01", 10], ["2026-02", 11.5]);
const SOUTH = cells(["Month", "Sales"], ["2026-01", 20], ["2026-02", 21]);
const BOOK = `<?xml version="1.0"?><workbook xmlns="${MAIN}" xmlns:r="${TYPE}"><sheets><sheet name="North &amp; West" sheetId="1" r:id="rId7"/><sheet name="South" sheetId="2" state="hidden" r:id="rId3"/></sheets></workbook>`;
const ROOT = rels(["rId1", "officeDocument", "xl/workbook.xml"]);
const heads = async (path: string) => workbookHeads(path, { sheets: null, most: 400 }, readLimits({}));
const EXPECTED = [
  {
    name: "North & West",
    isHidden: false,
    rows: [
      ["Month", "Sales"],
      ["2026-01", "10"],
      ["2026-02", "11.5"],
    ],
  },
  {
    name: "South",
    isHidden: true,
    rows: [
      ["Month", "Sales"],
      ["2026-01", "20"],
      ["2026-02", "21"],
    ],
  },
];
const told = (found: Awaited<ReturnType<typeof heads>>) =>
  found.map(({ name, isHidden, rows }) => ({ name, isHidden, rows: rows.map((row) => row.cells) }));

describe("a workbook", () => {
  it.each([
    [
      "whose list of sheets comes last",
      [
        ["xl/worksheets/sheet1.xml", NORTH],
        ["xl/worksheets/sheet2.xml", SOUTH],
        [
          "xl/_rels/workbook.xml.rels",
          rels(["rId7", "worksheet", "worksheets/sheet1.xml"], ["rId3", "worksheet", "worksheets/sheet2.xml"]),
        ],
        ["_rels/.rels", ROOT],
        ["xl/workbook.xml", BOOK],
      ],
    ],
    [
      "whose parts are named otherwise, by whole paths",
      [
        ["_rels/.rels", rels(["rId1", "officeDocument", "/xl/book.xml"])],
        ["xl/book.xml", BOOK],
        [
          "xl/_rels/book.xml.rels",
          rels(["rId7", "worksheet", "/xl/pages/one.xml"], ["rId3", "worksheet", "/xl/pages/two.xml"]),
        ],
        ["xl/pages/two.xml", SOUTH],
        ["xl/pages/one.xml", NORTH],
      ],
    ],
    [
      "whose elements carry a prefix",
      [
        ["_rels/.rels", ROOT],
        ["xl/workbook.xml", prefixed(BOOK)],
        [
          "xl/_rels/workbook.xml.rels",
          rels(["rId7", "worksheet", "worksheets/sheet1.xml"], ["rId3", "worksheet", "worksheets/sheet2.xml"]),
        ],
        ["xl/worksheets/sheet1.xml", prefixed(NORTH)],
        ["xl/worksheets/sheet2.xml", prefixed(SOUTH)],
      ],
    ],
  ] as const)("%s opens, and says which sheets it hides", async (name, parts) => {
    expect(told(await heads(await archived(`${name}.xlsx`, parts)))).toEqual(EXPECTED);
  });
  it("as most programs write it opens as it is, in the order of its list of sheets", async () => {
    const path = join(folder, "plain.xlsx");
    const rows = (base: number) => [
      ["Month", "Sales"],
      ["2026-01", String(base)],
      ["2026-02", String(base + 1)],
    ];
    writeFileSync(path, await workbookOf({ B: rows(1), A: rows(5) }, ["A"]));
    expect(told(await heads(path))).toEqual([
      {
        name: "B",
        isHidden: false,
        rows: [
          ["Month", "Sales"],
          ["2026-01", "1"],
          ["2026-02", "2"],
        ],
      },
      {
        name: "A",
        isHidden: true,
        rows: [
          ["Month", "Sales"],
          ["2026-01", "5"],
          ["2026-02", "6"],
        ],
      },
    ]);
  });
  it("gives texts of cells as they are shown: dates, durations, formulas, texts in several parts", async () => {
    const strings = `<sst xmlns="${MAIN}"><si><t>plain</t></si><si><r><t xml:space="preserve">in </t></r><r><t>parts</t></r><rPh sb="0" eb="1"><t>read</t></rPh></si></sst>`;
    const styles = `<styleSheet xmlns="${MAIN}"><numFmts><numFmt numFmtId="164" formatCode="[h]:mm:ss"/><numFmt numFmtId="165" formatCode="0.00&quot; days&quot;"/><numFmt numFmtId="166" formatCode="[$-409]mmm\\ yyyy"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs>${[0, 14, 164, 165, 166].map((id) => `<xf numFmtId="${id}"/>`).join("")}</cellXfs></styleSheet>`;
    const row = (...own: string[]) => `<row>${own.join("")}</row>`;
    const number = (value: number, style: number) => `<c s="${style}"><v>${value}</v></c>`;
    const sheet = `<worksheet xmlns="${MAIN}"><sheetData>${[
      row('<c t="s"><v>0</v></c>', '<c t="s"><v>1</v></c>', '<c t="inlineStr"><is><t>a &amp; b</t></is></c>'),
      row(number(46023, 1), number(1.5, 2), number(46023, 3), number(46023.75, 4), number(59, 1)),
      row(
        "<c><f>A1*2</f><v>0.30000000000000004</v></c>",
        "<c><f>SUM(A1:A2)</f></c>",
        '<c t="str"><f>A1</f><v>x</v></c>',
      ),
      row('<c t="b"><v>1</v></c>', '<c t="e"><v>#N/A</v></c>', '<c t="d"><v>2026-03-31T00:00:00</v></c>'),
      '<row r="9"><c r="C9"><v>7</v></c></row>',
    ].join("")}</sheetData></worksheet>`;
    const path = await archived("cells.xlsx", [
      ["_rels/.rels", ROOT],
      ["xl/workbook.xml", BOOK.replace(/<sheet name="South".*?\/>/, "")],
      [
        "xl/_rels/workbook.xml.rels",
        rels(
          ["rId7", "worksheet", "worksheets/sheet1.xml"],
          ["rId8", "styles", "styles.xml"],
          ["rId9", "sharedStrings", "sharedStrings.xml"],
        ),
      ],
      ["xl/worksheets/sheet1.xml", sheet],
      ["xl/styles.xml", styles],
      ["xl/sharedStrings.xml", strings],
    ]);
    const [head] = await heads(path);
    expect(head!.rows.map(({ line, cells: own }) => [line, ...own])).toEqual([
      [1, "plain", "in parts", "a & b"],
      [2, "2026-01-01", "36:00:00", "46023", "2026-01-01", "1900-02-28"],
      [3, "0.3", "=SUM(A1:A2)", "x"],
      [4, "TRUE", "#N/A", "2026-03-31"],
      [9, "", "", "7"],
    ]);
  });
  it("that is read by many at once gives each of them all of its rows", async () => {
    const path = join(folder, "shared.xlsx");
    const rows = [
      ["Branch", "Sales"],
      ["N", "1"],
      ["S", "2"],
    ];
    writeFileSync(path, await workbookOf({ January: rows, February: rows, March: rows }));
    const read = await Promise.all(Array.from({ length: 40 }, () => heads(path)));
    for (const found of read) expect(found.map((one) => one.rows.length)).toEqual([3, 3, 3]);
  });
  it("that breaks off is said to be damaged", async () => {
    const path = await archived("broken.xlsx", [
      ["_rels/.rels", ROOT],
      ["xl/workbook.xml", BOOK],
      ["xl/_rels/workbook.xml.rels", rels(["rId7", "worksheet", "worksheets/sheet1.xml"])],
      ["xl/worksheets/sheet1.xml", NORTH.slice(0, -60)],
    ]);
    await expect(heads(path)).rejects.toThrow(/The workbook is damaged/);
  });
});

/** The same part with the main namespace under a prefix. */
function prefixed(text: string): string {
  return text.replace(/<(\/?)(\w+)(?=[\s>/])/g, "<$1x:$2").replace(`xmlns="${MAIN}"`, `xmlns:x="${MAIN}"`);
}

describe("a workbook with cells where no sheet has any", () => {
  const sheet = (rows: string) =>
    `<?xml version="1.0"?><worksheet xmlns="${MAIN}"><sheetData>${rows}</sheetData></worksheet>`;
  const book = `<?xml version="1.0"?><workbook xmlns="${MAIN}" xmlns:r="${TYPE}"><sheets><sheet name="S" sheetId="1" r:id="rId7"/></sheets></workbook>`;
  const open = async (name: string, rows: string) =>
    heads(
      await archived(name, [
        ["_rels/.rels", ROOT],
        ["xl/workbook.xml", book],
        ["xl/_rels/workbook.xml.rels", rels(["rId7", "worksheet", "worksheets/sheet1.xml"])],
        ["xl/worksheets/sheet1.xml", sheet(rows)],
      ]),
    );
  it.each([
    ["far to the right", '<row r="3"><c r="ZZZZZZ3"><v>1</v></c></row>', "The cell ZZZZZZ3"],
    ["just beyond the last column", '<row r="3"><c r="XFE3"><v>1</v></c></row>', "The cell XFE3"],
    ["of no column", '<row r="3"><c r="3"><v>1</v></c></row>', 'The cell "3"'],
    ["more than a row has", `<row r="3">${"<c><v>1</v></c>".repeat(16_385)}</row>`, "Row 3"],
    ["below the last row", '<row r="1048577"><c r="A1048577"><v>1</v></c></row>', 'a row "1048577"'],
    ["in a row that is none", '<row r="1e400"><c r="A1"><v>1</v></c></row>', 'a row "1e400"'],
  ])("%s is refused with its place, at once and in little memory", async (name, rows, said) => {
    const before = process.memoryUsage().rss;
    await expect(open(`${name}.xlsx`, rows)).rejects.toThrow(said);
    expect(process.memoryUsage().rss - before).toBeLessThan(200 * 2 ** 20);
  });
  it("reads the last cell there is, where so many columns are let through", async () => {
    const path = await archived("last.xlsx", [
      ["_rels/.rels", ROOT],
      ["xl/workbook.xml", book],
      ["xl/_rels/workbook.xml.rels", rels(["rId7", "worksheet", "worksheets/sheet1.xml"])],
      ["xl/worksheets/sheet1.xml", sheet('<row r="1048576"><c r="XFD1048576"><v>7</v></c></row>')],
    ]);
    const limits = readLimits({ HACKLE_MAX_COLUMNS: "16384" });
    const [head] = await workbookHeads(path, { sheets: null, most: 400 }, limits);
    expect([head!.rows[0]!.line, head!.rows[0]!.cells.length, head!.rows[0]!.cells.at(-1)]).toEqual([
      1_048_576,
      16_384,
      "7",
    ]);
  });
});
