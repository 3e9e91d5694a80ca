import { createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, posix } from "node:path";
import { Transform, type Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { StringDecoder } from "node:string_decoder";
import archiver from "archiver";
import yauzl from "yauzl";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** A sheet of a workbook, as the workbook lists it. */
export interface SheetEntry {
  readonly name: string;
  readonly isHidden: boolean;
}

/** A workbook whose parts stand where, and in the order in which, the reader expects them. */
export interface StandardWorkbook {
  readonly path: string;
  readonly sheets: readonly SheetEntry[];
  /** Removes what was written for it. */
  readonly dispose: () => Promise<void>;
}

const BOOK = "xl/workbook.xml";
const BOOK_RELS = "xl/_rels/workbook.xml.rels";
const STRINGS = "xl/sharedStrings.xml";
const STYLES = "xl/styles.xml";
const NAMESPACE =
  /xmlns:(\w+)="http:\/\/(?:schemas\.openxmlformats\.org\/spreadsheetml\/2006\/main|purl\.oclc\.org\/ooxml\/spreadsheetml\/main)"/;

/** A sheet with the part that holds it. */
type PlacedSheet = SheetEntry & { readonly part: string; readonly target: string };

interface Layout {
  readonly book: string;
  readonly sheets: readonly PlacedSheet[];
  readonly strings: string | undefined;
  readonly styles: string | undefined;
  readonly hasPrefix: boolean;
}

/**
 * A workbook as its reader takes it: itself, where its parts are named and ordered as most programs do; else a copy that
 * is, since the format leaves both free. Throws what the archive's reader throws where it is damaged.
 */
export async function standardWorkbook(path: string): Promise<StandardWorkbook> {
  const zip = await openZip(path);
  try {
    const layout = await readLayout(zip);
    const sheets = layout.sheets.map(({ name, isHidden }) => ({ name, isHidden }));
    if (isStandard(layout, zip.names)) return { path, sheets, dispose: () => Promise.resolve() };
    const folder = await mkdtemp(join(tmpdir(), "hackle-workbook-"));
    const dispose = () => rm(folder, { recursive: true, force: true });
    try {
      const copy = join(folder, "workbook.xlsx");
      await writeStandard(zip, layout, copy);
      return { path: copy, sheets, dispose };
    } catch (error) {
      await dispose();
      throw error;
    }
  } finally {
    zip.close();
  }
}

interface Zip {
  /** The parts' names, in the order of the archive. */
  readonly names: readonly string[];
  readonly stream: (name: string) => Promise<Readable>;
  readonly text: (name: string) => Promise<string>;
  readonly close: () => void;
}

async function openZip(path: string): Promise<Zip> {
  const file = await new Promise<yauzl.ZipFile>((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, opened) =>
      error ? reject(error) : resolve(opened),
    );
  });
  const entries = new Map<string, yauzl.Entry>();
  await new Promise<void>((resolve, reject) => {
    file.on("error", reject);
    file.on("end", resolve);
    file.on("entry", (entry: yauzl.Entry) => {
      entries.set(entry.fileName, entry);
      file.readEntry();
    });
    file.readEntry();
  });
  const stream = (name: string) =>
    new Promise<Readable>((resolve, reject) => {
      const entry = entries.get(name);
      if (!entry) return reject(new Error(`The archive has no part ${name}.`));
      file.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened)));
    });
  return {
    names: [...entries.keys()].sort(
      (a, b) => entries.get(a)!.relativeOffsetOfLocalHeader - entries.get(b)!.relativeOffsetOfLocalHeader,
    ),
    stream,
    text: async (name) => {
      const chunks: Buffer[] = [];
      for await (const chunk of await stream(name)) chunks.push(chunk as Buffer);
      return Buffer.concat(chunks).toString("utf8");
    },
    close: () => file.close(),
  };
}

async function readLayout(zip: Zip): Promise<Layout> {
  const has = (name: string) => zip.names.includes(name);
  const roots = has("_rels/.rels") ? relationships(await zip.text("_rels/.rels"), "") : [];
  const book = roots.find(({ type }) => type.endsWith("/officeDocument"))?.part ?? BOOK;
  if (!has(book))
    throw new UnreadableFile(
      "The file is an archive, but no workbook. Unpack it and load the file inside, as CSV or XLSX.",
    );
  const text = await zip.text(book);
  const folder = posix.dirname(book);
  const rels = posix.join(folder, "_rels", `${posix.basename(book)}.rels`);
  const parts = has(rels) ? relationships(await zip.text(rels), folder) : [];
  const partOf = (kind: string) => parts.find(({ type, part }) => type.endsWith(`/${kind}`) && has(part))?.part;
  const sheets = [...text.matchAll(/<(?:\w+:)?sheet\s([^>]*?)\/?>/g)].flatMap(([, attributes]): PlacedSheet[] => {
    const own = attributesOf(attributes!);
    const id = Object.entries(own).find(([name]) => /^\w+:id$/.test(name))?.[1];
    const rel = parts.find((part) => part.id === id);
    // Charts and dialogs on sheets of their own hold no rows.
    if (!rel || !rel.type.endsWith("/worksheet") || !has(rel.part)) return [];
    const isHidden = own["state"] === "hidden" || own["state"] === "veryHidden";
    return [{ name: own["name"] ?? "Sheet", isHidden, part: rel.part, target: rel.target }];
  });
  return {
    book,
    sheets,
    strings: partOf("sharedStrings"),
    styles: partOf("styles"),
    hasPrefix: NAMESPACE.test(text.slice(0, 4000)) && /^\s*(?:<\?[^>]*>\s*)?<\w+:workbook\b/.test(text),
  };
}

/**
 * Whether the reader gets along with a workbook as it is: with the usual names, and either everything that sheets need
 * before them, or the texts after all of them, for which it then waits. Else it loses the last sheets or all of them.
 */
function isStandard({ book, sheets, strings, styles, hasPrefix }: Layout, names: readonly string[]): boolean {
  const places = sheets.map(({ part }) => names.indexOf(part));
  const comesFirst = (part: string | undefined) => part === undefined || names.indexOf(part) < Math.min(...places);
  const isReady = strings !== undefined && [book, BOOK_RELS, strings, styles].every(comesFirst);
  const isWaitedFor = strings !== undefined && names.indexOf(strings) > Math.max(...places);
  return (
    book === BOOK &&
    !hasPrefix &&
    sheets.every(({ part, target }) => /^worksheets\/sheet\d+\.xml$/.test(target) && part === `xl/${target}`) &&
    (strings ?? STRINGS) === STRINGS &&
    (styles ?? STYLES) === STYLES &&
    (isReady || isWaitedFor)
  );
}

async function writeStandard(zip: Zip, { book, sheets, strings, styles }: Layout, path: string): Promise<void> {
  const archive = archiver("zip", { zlib: { level: 1 } });
  const written = pipeline(archive, createWriteStream(path));
  const type = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
  const rels = sheets.map(
    (_, i) => `<Relationship Id="rId${i + 1}" Type="${type}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`,
  );
  archive.append(
    `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${rels.join("")}</Relationships>`,
    { name: BOOK_RELS },
  );
  const list = sheets.map(
    ({ name, isHidden }, i) =>
      `<sheet name="${escaped(name)}" sheetId="${i + 1}"${isHidden ? ' state="hidden"' : ""} r:id="rId${i + 1}"/>`,
  );
  // The system of dates is said in the book, and decides what its numbers mean.
  const properties = /<(?:\w+:)?workbookPr\s([^>]*?)\/?>/.exec(await zip.text(book))?.[1];
  const is1904 = /^(?:1|true)$/.test(attributesOf(properties ?? "")["date1904"] ?? "");
  archive.append(
    `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${type}"><workbookPr${is1904 ? ' date1904="1"' : ""}/><sheets>${list.join("")}</sheets></workbook>`,
    { name: BOOK },
  );
  const copy = async (from: string, to: string) => {
    archive.append((await zip.stream(from)).pipe(withoutPrefix()), { name: to });
    // One after the other: the archive's order is what is wanted.
    await new Promise((resolve) => archive.once("entry", resolve));
  };
  if (styles !== undefined) await copy(styles, STYLES);
  if (strings !== undefined) await copy(strings, STRINGS);
  else archive.append('<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"/>', { name: STRINGS });
  for (const [i, { part }] of sheets.entries()) await copy(part, `xl/worksheets/sheet${i + 1}.xml`);
  await archive.finalize();
  await written;
}

/** Takes the prefix of the main namespace off elements, where a part gives it one; texts hold no bare "<". */
function withoutPrefix(): Transform {
  const decoder = new StringDecoder("utf8");
  let held = "";
  let strip: RegExp | null | undefined;
  const turned = (text: string): string => {
    if (strip === undefined) {
      const prefix = NAMESPACE.exec(text.slice(0, 4000))?.[1];
      strip = prefix === undefined ? null : new RegExp(`<(/?)${prefix}:`, "g");
    }
    return strip ? text.replace(strip, "<$1") : text;
  };
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const text = held + decoder.write(chunk);
      const end = text.lastIndexOf("<");
      // What may be the beginning of an element waits for the rest of its name.
      held = end < 0 ? "" : text.slice(end);
      done(null, turned(end < 0 ? text : text.slice(0, end)));
    },
    flush(done) {
      done(null, turned(held + decoder.end()));
    },
  });
}

interface Relationship {
  readonly id: string;
  readonly type: string;
  readonly target: string;
  readonly part: string;
}

function relationships(text: string, folder: string): Relationship[] {
  return [...text.matchAll(/<(?:\w+:)?Relationship\s([^>]*?)\/?>/g)].map(([, attributes]) => {
    const own = attributesOf(attributes!);
    const target = own["Target"] ?? "";
    const part = target.startsWith("/") ? target.slice(1) : posix.join(folder, target);
    return { id: own["Id"] ?? "", type: own["Type"] ?? "", target, part };
  });
}

function attributesOf(text: string): Record<string, string> {
  return Object.fromEntries(
    [...text.matchAll(/([\w:]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)].map(([, name, double, single]) => [
      name!,
      unescaped(double ?? single ?? ""),
    ]),
  );
}

const ENTITIES: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };

function unescaped(text: string): string {
  return text.replace(/&(?:#x([0-9a-f]+)|#(\d+)|(\w+));/gi, (whole, hex?: string, decimal?: string, name?: string) =>
    name === undefined ? String.fromCodePoint(hex ? parseInt(hex, 16) : Number(decimal)) : (ENTITIES[name] ?? whole),
  );
}

function escaped(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll('"', "&quot;");
}
