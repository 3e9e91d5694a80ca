import { createWriteStream } from "node:fs";
import { mkdir, rename, rm } from "node:fs/promises";
import { join } from "node:path";
import { Transform, type Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Knex } from "knex";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Limits } from "./limits.ts";

/** Where uploaded files are kept; servers that share a database share this folder too. */
export interface FileStore {
  readonly folder: string;
  readonly limits: Limits;
}

/** A file that was uploaded. */
export interface StoredFile {
  readonly id: number;
  readonly name: string;
  readonly size: number;
  readonly path: string;
  readonly uploadedBy: string;
}

/** The path of a stored file. */
export function filePath(store: FileStore, id: number): string {
  return join(store.folder, String(id));
}

/**
 * Streams an upload into the store; nothing of it stays when it breaks off. Throws a
 * problem when it is too large or the disk is full.
 */
export async function storeFile(
  knex: Knex,
  store: FileStore,
  { stream, name, person }: { stream: Readable; name: string; person: string },
): Promise<StoredFile> {
  await mkdir(store.folder, { recursive: true });
  const waiting = join(store.folder, `upload-${process.pid}-${Date.now()}-${Math.trunc(Math.random() * 1e9)}`);
  let size = 0;
  const measured = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > store.limits.fileBytes) done(tooLarge(store.limits));
      else done(null, chunk);
    },
  });
  try {
    await pipeline(stream, measured, createWriteStream(waiting, { highWaterMark: 1_048_576 }));
    const [row]: { id: number }[] = await knex("file")
      .insert({ name, size, uploaded_at: new Date(), uploaded_by: person })
      .returning("id");
    const path = filePath(store, row!.id);
    await rename(waiting, path);
    return { id: row!.id, name, size, path, uploadedBy: person };
  } catch (error) {
    await rm(waiting, { force: true });
    const code = (error as NodeJS.ErrnoException).code;
    if (code === "ENOSPC" || code === "EDQUOT")
      throw new ProblemError(
        "disk-full",
        `There is no room left on the server's disk for ${name}. Nothing was loaded; free some room and load the file again.`,
        { cause: error },
      );
    if (code === "ERR_STREAM_PREMATURE_CLOSE" || code === "ECONNRESET" || code === "ABORT_ERR")
      throw new ProblemError(
        "invalid-request",
        `The connection broke off while ${name} was sent. Nothing was loaded; send it again.`,
        { cause: error },
      );
    throw error;
  }
}

function tooLarge(limits: Limits): ProblemError {
  return new ProblemError(
    "file-too-large",
    `The file is larger than ${Math.floor(limits.fileBytes / 1_048_576).toLocaleString("en-GB")} MB, the most this server takes. Split it by month, or have HACKLE_MAX_FILE_MB raised.`,
  );
}
