import { createWriteStream } from "node:fs";
import { mkdtemp, readdir, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";
import pLimit from "p-limit";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Downloads of the whole installation that are made at once, and of one person in all. */
const MOST_MADE = 2;
const MOST_EACH = 3;
/** Beyond so many that wait to be made, whoever asks is told to come again. */
const MOST_WAITING = 20;
/** Making one may take so long; whoever takes nothing of it for so long has gone. */
const MAKING_MS = 15 * 60_000;
const TAKING_MS = 60_000;
/** What is older was left by a server that was killed; who still reads of it has the file open and keeps it. */
const LEFT_MS = 2 * 60 * 60_000;
const PREFIX = "hackle-download-";

/** A file to be downloaded. */
export interface Download {
  readonly fileName: string;
  readonly type: string;
  /** Whose it is: one person has a few at a time. */
  readonly person: string;
  /** Writes the file; it is given up by the signal. */
  readonly write: (path: string, signal: AbortSignal) => Promise<void>;
}

/** Removes what servers that were killed left of downloads in a folder. */
export async function sweepDownloads(folder = tmpdir(), now = Date.now()): Promise<void> {
  const names = await readdir(folder).catch((): string[] => []);
  for (const path of names.filter((name) => name.startsWith(PREFIX)).map((name) => join(folder, name))) {
    const found = await stat(path).catch(() => undefined);
    // Of another user, or gone meanwhile: then it is nothing of ours.
    if (found && now - found.mtimeMs > LEFT_MS) await rm(path, { recursive: true, force: true }).catch(() => undefined);
  }
}

/**
 * Downloads of any size. Each is made as a file first, at the pace of the database and a few at a time, and then sent at the
 * pace of whoever asked: a connection is never held while nobody reads.
 */
export class Downloads {
  private readonly turn = pLimit(MOST_MADE);
  private readonly byPerson = new Map<string, number>();

  constructor(private readonly limits = { makingMs: MAKING_MS, takingMs: TAKING_MS }) {}

  async send(res: Response, { fileName, type, person, write }: Download): Promise<void> {
    const own = this.byPerson.get(person) ?? 0;
    if (own >= MOST_EACH)
      throw new ProblemError(
        "too-many-requests",
        `You have ${own} downloads in progress. Wait for one to finish, or cancel one.`,
      );
    if (this.turn.pendingCount >= MOST_WAITING)
      throw new ProblemError("busy", "Too many downloads are in progress. Try again in a minute.");
    this.byPerson.set(person, own + 1);
    try {
      await this.makeAndSend(res, { fileName, type, write });
    } finally {
      const left = (this.byPerson.get(person) ?? 1) - 1;
      if (left > 0) this.byPerson.set(person, left);
      else this.byPerson.delete(person);
    }
  }

  private async makeAndSend(res: Response, { fileName, type, write }: Omit<Download, "person">): Promise<void> {
    const gone = new AbortController();
    const onClose = () => gone.abort(new Error("The request was cancelled."));
    res.once("close", onClose);
    const folder = await mkdtemp(join(tmpdir(), PREFIX));
    try {
      const path = join(folder, "file");
      const late = AbortSignal.timeout(this.limits.makingMs);
      await this.turn(async () => {
        if (gone.signal.aborted) return;
        await write(path, AbortSignal.any([gone.signal, late])).catch((error: unknown) => {
          if (!late.aborted) throw error;
          throw new ProblemError("busy", "This export took too long and was stopped. Export a part of it.", {
            cause: error,
          });
        });
      });
      if (gone.signal.aborted) return;
      await sendFile(res, path, { fileName, type, takingMs: this.limits.takingMs });
    } catch (error) {
      if (!gone.signal.aborted) throw error;
    } finally {
      res.off("close", onClose);
      await rm(folder, { recursive: true, force: true });
    }
  }
}

/** Sends a file; a connection on which nothing moves is closed. */
function sendFile(
  res: Response,
  path: string,
  { fileName, type, takingMs }: { fileName: string; type: string; takingMs: number },
): Promise<void> {
  res.setHeader("Content-Disposition", contentDisposition(fileName));
  res.type(type);
  res.setTimeout(takingMs, () => res.destroy());
  return new Promise((resolve) => {
    // What goes wrong here is the connection's end: whoever asked is gone, and there is nobody to be told.
    res.sendFile(path, { dotfiles: "allow" }, () => resolve());
  });
}

/** Writes rows of text into a file, as they come. */
export function writeRows(rows: AsyncIterable<string>): Download["write"] {
  return (path, signal) => pipeline(Readable.from(withMark(rows)), createWriteStream(path), { signal });
}

/** A byte-order mark first, without which spreadsheets read UTF-8 as something else; and rows in larger pieces. */
async function* withMark(rows: AsyncIterable<string>): AsyncGenerator<string> {
  let chunk = "\ufeff";
  for await (const row of rows) {
    chunk += row;
    if (chunk.length < 65_536) continue;
    yield chunk;
    chunk = "";
  }
  yield chunk;
}

/** The header that names a download, in any script (RFC 6266). */
export function contentDisposition(fileName: string): string {
  const plain = fileName.replace(/[^\x20-\x7e]|["\\]/g, "_");
  return `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(fileName)}`;
}
