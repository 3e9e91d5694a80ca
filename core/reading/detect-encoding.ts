/** How a text file's bytes stand for letters. */
export type Encoding = "utf-8" | "utf-16le" | "utf-16be" | "windows-1252";

/** What the first bytes of a file say it is. */
export type FileNature =
  | { readonly kind: "text"; readonly encoding: Encoding; readonly hasMark: boolean }
  | { readonly kind: "workbook" }
  | { readonly kind: "empty" }
  /** Neither text nor a workbook; `what` names it where its first bytes do. */
  | { readonly kind: "binary"; readonly what: string };

const SIGNATURES: readonly (readonly [bytes: readonly number[], what: string])[] = [
  [[0xd0, 0xcf, 0x11, 0xe0], "a workbook of the old .xls format"],
  [[0x25, 0x50, 0x44, 0x46], "a PDF document"],
  [[0x89, 0x50, 0x4e, 0x47], "a PNG picture"],
  [[0xff, 0xd8, 0xff], "a JPEG picture"],
  [[0x1f, 0x8b], "a gzip archive"],
  [[0x50, 0x41, 0x52, 0x31], "a Parquet file"],
  [[0x7f, 0x45, 0x4c, 0x46], "a program"],
  [[0x4d, 0x5a, 0x90], "a program"],
];

/** What text of four bytes a character is called; no program writes tables so on purpose. */
export const UTF_32 = "text in UTF-32";

/** Tells text and its encoding, workbooks and other binaries apart by a file's first bytes (a few thousand are enough). */
export function detectNature(head: Uint8Array): FileNature {
  if (head.length === 0) return { kind: "empty" };
  if (begins(head, [0x50, 0x4b, 0x03, 0x04])) return { kind: "workbook" };
  const known = SIGNATURES.find(([bytes]) => begins(head, bytes));
  if (known) return { kind: "binary", what: known[1] };
  if (isUtf32(head)) return { kind: "binary", what: UTF_32 };
  if (begins(head, [0xef, 0xbb, 0xbf])) return { kind: "text", encoding: "utf-8", hasMark: true };
  if (begins(head, [0xff, 0xfe])) return { kind: "text", encoding: "utf-16le", hasMark: true };
  if (begins(head, [0xfe, 0xff])) return { kind: "text", encoding: "utf-16be", hasMark: true };
  const zeros = [0, 0];
  let control = 0;
  for (let i = 0; i < head.length; i += 1) {
    const byte = head[i]!;
    if (byte === 0) zeros[i % 2]! += 1;
    else if (byte < 32 && byte !== 9 && byte !== 10 && byte !== 13 && byte !== 12) control += 1;
  }
  const half = head.length / 2;
  // Western text in UTF-16 has a zero in every other byte.
  if (zeros[1]! > half * 0.4 && zeros[0]! < half * 0.05) return { kind: "text", encoding: "utf-16le", hasMark: false };
  if (zeros[0]! > half * 0.4 && zeros[1]! < half * 0.05) return { kind: "text", encoding: "utf-16be", hasMark: false };
  if (zeros[0]! + zeros[1]! > 0 || control > head.length * 0.02) return { kind: "binary", what: "a binary file" };
  return { kind: "text", encoding: isUtf8(head) ? "utf-8" : "windows-1252", hasMark: false };
}

function begins(head: Uint8Array, bytes: readonly number[]): boolean {
  return bytes.every((byte, i) => head[i] === byte);
}

/** Whether text is kept in four bytes a character: by its mark, or because two of every four are always zero. */
function isUtf32(head: Uint8Array): boolean {
  if (begins(head, [0xff, 0xfe, 0, 0]) || begins(head, [0, 0, 0xfe, 0xff])) return true;
  const units = Math.floor(head.length / 4);
  if (units < 2) return false;
  const isZero = (place: number) => {
    for (let unit = 0; unit < units; unit += 1) if (head[unit * 4 + place] !== 0) return false;
    return true;
  };
  // The highest byte is zero in every character, the next one but in rare scripts.
  return (isZero(3) && isZero(2)) || (isZero(0) && isZero(1));
}

/** Whether the bytes are well-formed UTF-8; a character cut off at the end is allowed. */
function isUtf8(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length;) {
    const byte = bytes[i]!;
    const length = byte < 0x80 ? 1 : byte >> 5 === 6 ? 2 : byte >> 4 === 14 ? 3 : byte >> 3 === 30 ? 4 : 0;
    if (length === 0) return false;
    for (let k = 1; k < length && i + k < bytes.length; k += 1) if (bytes[i + k]! >> 6 !== 2) return false;
    i += length;
  }
  return true;
}
