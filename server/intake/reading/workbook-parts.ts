import { posix } from "node:path";
import type { Readable } from "node:stream";
import yauzl from "yauzl";
import { UnreadableFile } from "#server/problems/unreadable-file.ts";

/** A sheet of a workbook, as the workbook lists it. */
export interface SheetEntry {
  readonly name: string;
  readonly isHidden: boolean;
}

/** Where the parts of a workbook are, which its format leaves free in names and order. */
export interface WorkbookLayout {
  readonly sheets: readonly (SheetEntry & { readonly part: string })[];
  readonly strings: string | undefined;
  readonly styles: string | undefined;
  /** Whether days are counted from 1904 on rather than from 1900. */
  readonly is1904: boolean;
}

/** An opened archive. */
export interface Archive {
  readonly entries: ReadonlyMap<string, yauzl.Entry>;
  readonly stream: (name: string) => Promise<Readable>;
  readonly close: () => void;
}

/** Opens an archive and lists its parts. Throws what its reader throws where it is damaged. */
export async function openArchive(path: string): Promise<Archive> {
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
  }).catch((error: unknown) => {
    file.close();
    throw error;
  });
  return {
    entries,
    stream: (name) =>
      new Promise((resolve, reject) => {
        const entry = entries.get(name);
        if (!entry) return reject(new Error(`The archive has no part ${name}.`));
        file.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened)));
      }),
    close: () => file.close(),
  };
}

const BOOK = "xl/workbook.xml";

/** Finds a workbook's parts by what refers to them. Throws an `UnreadableFile` where the archive is none. */
export async function readLayout({ entries, stream }: Archive): Promise<WorkbookLayout> {
  const text = async (name: string) => {
    const chunks: Buffer[] = [];
    for await (const chunk of await stream(name)) chunks.push(chunk as Buffer);
    return Buffer.concat(chunks).toString("utf8");
  };
  const referred = async (part: string) => {
    const rels = posix.join(posix.dirname(part), "_rels", `${posix.basename(part)}.rels`);
    return entries.has(rels) ? relationships(await text(rels), posix.dirname(part)) : [];
  };
  const roots = await referred("");
  const book = roots.find(({ type }) => type.endsWith("/officeDocument"))?.part ?? BOOK;
  if (!entries.has(book))
    throw new UnreadableFile(
      "The file is an archive, but no workbook. Unpack it and load the file inside, as CSV or XLSX.",
    );
  const own = await text(book);
  const parts = (await referred(book)).filter(({ part }) => entries.has(part));
  const partOf = (kind: string) => parts.find(({ type }) => type.endsWith(`/${kind}`))?.part;
  return {
    sheets: elements(own, "sheet").flatMap((attributes) => {
      const id = Object.entries(attributes).find(([name]) => /^\w+:id$/.test(name))?.[1];
      const rel = parts.find((part) => part.id === id);
      // Charts and dialogs on sheets of their own hold no rows.
      if (!rel?.type.endsWith("/worksheet")) return [];
      const isHidden = attributes["state"] === "hidden" || attributes["state"] === "veryHidden";
      return [{ name: attributes["name"] ?? "Sheet", isHidden, part: rel.part }];
    }),
    strings: partOf("sharedStrings"),
    styles: partOf("styles"),
    is1904: /^(?:1|true)$/.test(elements(own, "workbookPr")[0]?.["date1904"] ?? ""),
  };
}

interface Relationship {
  readonly id: string;
  readonly type: string;
  readonly part: string;
}

function relationships(text: string, folder: string): Relationship[] {
  return elements(text, "Relationship").map((own) => {
    const target = own["Target"] ?? "";
    const part = target.startsWith("/") ? target.slice(1) : posix.join(folder, target);
    return { id: own["Id"] ?? "", type: own["Type"] ?? "", part };
  });
}

/** The attributes of each element of a name, whatever its prefix, of a small part. */
function elements(text: string, name: string): Record<string, string>[] {
  return [...text.matchAll(new RegExp(`<(?:\\w+:)?${name}(?=[\\s/>])([^>]*?)/?>`, "g"))].map(([, attributes]) =>
    Object.fromEntries(
      [...attributes!.matchAll(/([\w:]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)].map(([, key, double, single]) => [
        key!,
        unescaped(double ?? single ?? ""),
      ]),
    ),
  );
}

const ENTITIES: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };

function unescaped(text: string): string {
  return text.replace(/&(?:#x([0-9a-f]+)|#(\d+)|(\w+));/gi, (whole, hex?: string, decimal?: string, name?: string) =>
    name === undefined ? String.fromCodePoint(hex ? parseInt(hex, 16) : Number(decimal)) : (ENTITIES[name] ?? whole),
  );
}
