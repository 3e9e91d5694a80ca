import { Readable } from "node:stream";
import { crc32, deflateRawSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { readLimits } from "#server/intake/limits.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { sayKind } from "#testing/shape-files.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "hostile");
  const limits = readLimits({ HACKLE_MAX_LINE_CHARS: "200000", HACKLE_MAX_FILE_MB: "40", HACKLE_READER_MB: "256" });
  api = await serveApi(database.knex, { limits });
  await api.signIn(ANALYST);
  client = intakeClient(api);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});
const refused = async (name: string, content: string | Uint8Array<ArrayBuffer>) => {
  const { status, body } = await api.upload(name, content);
  return { status, detail: (body as { detail: string }).detail };
};
const bytes = (text: string) => new TextEncoder().encode(text);

/** A ZIP archive of parts that may lie about nothing but are packed as tightly as can be. */
function archive(parts: Readonly<Record<string, Uint8Array>>): Uint8Array<ArrayBuffer> {
  const chunks: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const [name, content] of Object.entries(parts)) {
    const packed = deflateRawSync(content, { level: 9 });
    const head = Buffer.alloc(30);
    head.writeUInt32LE(0x04034b50, 0);
    head.writeUInt16LE(20, 4);
    head.writeUInt16LE(8, 8);
    head.writeUInt32LE(crc32(content), 14);
    head.writeUInt32LE(packed.length, 18);
    head.writeUInt32LE(content.length, 22);
    head.writeUInt16LE(name.length, 26);
    const entry = Buffer.alloc(46);
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt16LE(20, 4);
    entry.writeUInt16LE(20, 6);
    head.copy(entry, 10, 8, 30);
    entry.writeUInt32LE(offset, 42);
    entry.writeUInt16LE(name.length, 28);
    chunks.push(head, Buffer.from(name), packed);
    directory.push(entry, Buffer.from(name));
    offset += 30 + name.length + packed.length;
  }
  const listing = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(Object.keys(parts).length, 8);
  end.writeUInt16LE(Object.keys(parts).length, 10);
  end.writeUInt32LE(listing.length, 12);
  end.writeUInt32LE(offset, 16);
  return new Uint8Array(Buffer.concat([...chunks, listing, end]));
}

const BOOK = {
  "[Content_Types].xml": bytes(
    '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>',
  ),
  "_rels/.rels": bytes(
    '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
  ),
  "xl/workbook.xml": bytes(
    '<?xml version="1.0"?><workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Wide" sheetId="1" r:id="r1"/></sheets></workbook>',
  ),
  "xl/_rels/workbook.xml.rels": bytes(
    '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
  ),
};
const sheet = (rows: string) =>
  bytes(
    `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
  );

describe("files that are no tables", () => {
  it("are named for what they are", async () => {
    expect(await refused("empty.csv", "")).toMatchObject({
      status: 422,
      detail: expect.stringContaining("empty.csv is empty") as string,
    });
    const picture = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0, 0, 1, 2);
    expect((await refused("sales.csv", picture)).detail).toContain(
      "sales.csv is a PNG picture, whatever its name says",
    );
    expect((await refused("old.xls", Uint8Array.of(0xd0, 0xcf, 0x11, 0xe0, 1))).detail).toContain(
      "a workbook of the old .xls format",
    );
    expect(
      (
        await refused(
          "noise.csv",
          Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 256),
        )
      ).detail,
    ).toContain("is a binary file");
    expect((await refused("text.zip", archive({ "a.txt": bytes("hello") }))).detail).toContain(
      "an archive, but no workbook",
    );
    expect((await refused("cut.xlsx", archive(BOOK).slice(0, 300))).detail).toContain("damaged or not a workbook");
  });
  it("in UTF-32 are told how to be saved", async () => {
    const text = Buffer.from("Period,Account\n2026-11,Repairs\n", "utf16le");
    const wide = new Uint8Array(text.length * 2);
    for (let i = 0; i < text.length; i += 2) wide.set([text[i]!, text[i + 1]!, 0, 0], i * 2);
    expect(await refused("wide.csv", wide)).toEqual({
      status: 422,
      detail: "wide.csv is text in UTF-32, which is not read. Save it in UTF-8 and load that file.",
    });
  });
  it("of nothing but line breaks do not hold the server", async () => {
    const blank = new Uint8Array(39 * 1_048_576).fill(0x0a);
    const upload = refused("blank.csv", blank);
    let answers = 0;
    let isOver = false;
    void upload.finally(() => (isOver = true));
    let longest = 0;
    const began = performance.now();
    while (!isOver) {
      const started = performance.now();
      expect((await api.get("/api/health")).status).toBe(200);
      longest = Math.max(longest, performance.now() - started);
      answers += 1;
    }
    expect(await upload).toMatchObject({
      status: 422,
      detail: expect.stringContaining("holds nothing but empty lines") as string,
    });
    expect(answers).toBeGreaterThan(1);
    // All of it was once read without a pause: nobody waits for nearly as long as it takes, however slow the machine is.
    expect(longest).toBeLessThan((performance.now() - began) * 0.9);
    // A table with such an end is read in a thread, and the end is no row of it.
    const tail = await client.upload(
      "tail.csv",
      `Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,5\n${"\n".repeat(5_000_000)}`,
    );
    expect(tail.report?.facts).toBe(1);
  });
  it("that hold a character no text can keep are refused by the line it stands in", async () => {
    const rows = Array.from({ length: 9000 }, (_, i) => `2026-11,Repairs,Tarn Point–Osk,5,line ${i}`);
    const damaged = `Period,Account,Route,Amount,Reference\n${rows.join("\n")}\n2026-11,Rep\0airs,Tarn Point–Osk,5,x\n`;
    const draft = await client.upload("nul.csv", damaged);
    expect(draft.job).toMatchObject({
      state: "failed",
      message: expect.stringContaining("Line 9002 holds the character U+0000") as string,
    });
    // Half a pair of UTF-16 stands where a letter should: it is shown as unreadable, and asked about.
    const halves = Buffer.concat([
      Buffer.from([0xff, 0xfe]),
      Buffer.from("Period;Account;Amount\n2026-11;Rep", "utf16le"),
      Buffer.from([0x00, 0xd8]),
      Buffer.from("airs;5\n", "utf16le"),
    ]);
    const half = await client.upload("half.csv", new Uint8Array(halves));
    expect(half.job?.state).toBe("done");
    expect(half.sample.raw[0]?.cells[1]).toBe("Rep\ufffdairs");
  });
  it("are refused when they are too large, before they fill the disk", async () => {
    const { status, detail } = await refused("huge.csv", new Uint8Array(41 * 1_048_576).fill(97));
    expect([status, detail]).toEqual([413, expect.stringContaining("larger than 40 MB")]);
  });
});

describe("files that are made to do harm", () => {
  it("a line without end stops where lines may end", async () => {
    const { status, detail } = await refused("line.csv", `a,b\n"${"x".repeat(5_000_000)}`);
    expect([status, detail]).toEqual([422, expect.stringContaining("Line 2 is longer than 200,000 characters")]);
  });
  it("a line of two gigabytes is read no further than its limit", async () => {
    const { readText } = await import("#server/intake/reading/read-text.ts");
    const limits = readLimits({});
    let sent = 0;
    const endless = Readable.from(
      (function* () {
        for (; sent < 2048; sent += 1) yield Buffer.alloc(1_048_576, 120);
      })(),
    );
    await expect(
      (async () => {
        for await (const batch of readText(endless, { encoding: "utf-8", delimiter: ",", limits })) void batch;
      })(),
    ).rejects.toThrow("Line 1 is longer than 1,000,000 characters");
    expect(sent).toBeLessThan(20);
  });
  it("a zip bomb is unpacked no further than a table would be", async () => {
    const bomb = archive({ ...BOOK, "xl/worksheets/sheet1.xml": new Uint8Array(300 * 1_048_576) });
    expect(bomb.length).toBeLessThan(1_048_576);
    const { status, detail } = await refused("bomb.xlsx", bomb);
    expect([status, detail]).toEqual([422, expect.stringContaining("which no table does")]);
  });
  it("a workbook with a million columns is told its limit", async () => {
    const far = sheet(`<row r="1"><c r="A1"><v>1</v></c><c r="BDWGN1"><v>2</v></c></row>`);
    expect((await refused("far.xlsx", archive({ ...BOOK, "xl/worksheets/sheet1.xml": far }))).detail).toMatch(
      /BDWGN1 of the workbook lies outside the columns A to XFD/,
    );
    const wide = sheet(`<row r="1">${"<c><v>1</v></c>".repeat(1_000_000)}</row>`);
    expect((await refused("wide.xlsx", archive({ ...BOOK, "xl/worksheets/sheet1.xml": wide }))).detail).toMatch(
      /outside the columns A to XFD|no table does/,
    );
  });
  it("leaves the server answering", async () => {
    expect((await api.get("/api/health")).status).toBe(200);
    const draft = await client.upload("plain.csv", "Period,Account,Route,Amount\n2026-11,Repairs,Tarn Point–Osk,5\n");
    expect(draft.report?.facts).toBe(1);
  });
});

describe("odd but honest files", () => {
  it("take formulas for the texts they are, and hand them back harmless", async () => {
    const draft = await client.upload(
      "formulas.csv",
      'Period,Account,Route,Amount\n2026-11,"=HYPERLINK(""http://x"")",Tarn Point–Osk,=1+1\n2026-11,Repairs,Tarn Point–Osk,5\n',
    );
    if (!draft.report) throw new Error(JSON.stringify([draft.job, draft.mappingProblems]));
    expect(draft.report?.findings.map((f) => f.rule)).toContain("unknown-account");
    const csv = (await api.get(`/api/drafts/${draft.id}/rejected.csv`)).body as string;
    expect(csv).toContain(`"'=HYPERLINK`);
  });
  it("take names of any script, and keep them", async () => {
    const text = "Month,Café,Actual\n2026-04,海运 🚢,1\n2026-04,Ünïcødé \u202Eabc,2\n2026-05,海运 🚢,3\n";
    let draft = await client.upload("unicode-names.csv", text);
    expect(draft.definition.rules.mapping.creates.dimensions).toMatchObject([{ name: "Café" }]);
    draft = await client.change(draft, sayKind(draft.definition, "income"));
    const job = await client.post(draft);
    expect(job).toMatchObject({ state: "done" });
    const chart = await client.get<{ dimensions: { name: string; members: { name: string }[] }[] }>("/api/structure");
    expect(chart.dimensions.find((d) => d.name === "Café")?.members.map((m) => m.name)).toEqual([
      "海运 🚢",
      "Ünïcødé \u202Eabc",
    ]);
  });
  it("are read in their encodings, with quotes, breaks and other delimiters", async () => {
    const utf16 = Buffer.concat([
      Buffer.from([0xff, 0xfe]),
      Buffer.from("Period;Account;Amount\r\n2026-11;Repairs;1.234,50\r\n", "utf16le"),
    ]);
    const first = await client.upload("utf16.csv", new Uint8Array(utf16));
    expect(first.definition.reading).toMatchObject({ encoding: "utf-16le", delimiter: ";", decimalMark: "," });
    expect(first.report?.amountInFile).toBe("1234.50");
    const western = await client.upload(
      "western.csv",
      new Uint8Array(Buffer.from("Period\tAccount\tAmount\tNote\n2026-11\tRepairs\t5-\tcaf\xe9 \x80\n", "latin1")),
    );
    expect(western.definition.reading).toMatchObject({ encoding: "windows-1252", delimiter: "\t" });
    expect(western.sample.raw[0]?.cells).toEqual(["2026-11", "Repairs", "5-", "café €"]);
    const quoted = await client.upload(
      "quoted.csv",
      'Period,Account,Amount,Note\r\n2026-11,Repairs,"1,000","two\r\nlines, ""quoted"""\r\n2026-11,Repairs,2,x\r\n',
    );
    expect(quoted.sample.raw.map((row) => [row.line, row.cells[3]])).toEqual([
      [2, 'two\nlines, "quoted"'],
      [4, "x"],
    ]);
  });
});
