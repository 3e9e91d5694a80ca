import { createWriteStream } from "node:fs";
import { readdir } from "node:fs/promises";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { finished, pipeline } from "node:stream/promises";
import type { Knex } from "knex";
import type { Client } from "pg";
import { to as copyTo } from "pg-copy-streams";
import { ZipFile } from "yazl";
import type { FileStore } from "#server/intake/file-store.ts";

/** Tables with nothing that is the company's: who is signed in, and secrets. */
const LEFT_OUT = new Set([
  "session",
  "rate_in_force",
  "api_token",
  "knex_migrations",
  "knex_migrations_lock",
  "kept_fit",
]);
/** Columns that leave no company. */
const SECRET = new Set(["password_hash", "token_hash"]);

/**
 * Writes all of a company as one archive: each table as CSV with a head, as of one moment, and the files that were
 * brought, by the number that the table "file" gives them. Throws where it cannot be written whole.
 */
export async function exportCompany(knex: Knex, store: FileStore, path: string, signal: AbortSignal): Promise<void> {
  const archive = new ZipFile();
  const written = pipeline(archive.outputStream, createWriteStream(path), { signal });
  const breakOff = (error: unknown) => (archive.outputStream as Readable).destroy(error as Error);
  // What cannot be read on its way in breaks this archive off, and nothing else.
  archive.on("error", breakOff);
  void writeTables(knex, archive, signal)
    .then(() => writeFiles(store, archive))
    .then(() => archive.end())
    .catch(breakOff);
  await written;
}

async function writeTables(knex: Knex, archive: ZipFile, signal: AbortSignal): Promise<void> {
  await knex.transaction(
    async (trx) => {
      const { rows } = await trx.raw<{ rows: { name: string; columns: string[] }[] }>(
        `select table_name as name, array_agg(column_name::text order by ordinal_position) as columns
         from information_schema.columns
         join pg_class on pg_class.oid = to_regclass(quote_ident(table_name)) and not relispartition
         where table_schema = current_schema() group by table_name order by table_name`,
      );
      const { client } = trx as unknown as { client: { acquireConnection(): Promise<Client> } };
      const connection = await client.acquireConnection();
      for (const { name, columns } of rows.filter(
        (table) => !LEFT_OUT.has(table.name) && !table.name.startsWith("fact_staged_"),
      )) {
        const kept = columns.filter((column) => !SECRET.has(column)).map((column) => `"${column}"`);
        const lines = connection.query(
          copyTo(`copy (select ${kept.join(", ")} from "${name}") to stdout with csv header`),
        );
        await append(archive, lines, `tables/${name}.csv`, signal);
      }
    },
    { isolationLevel: "repeatable read", readOnly: true },
  );
}

async function writeFiles({ folder }: FileStore, archive: ZipFile): Promise<void> {
  const names = await readdir(folder).catch(() => []);
  for (const name of names.filter((file) => /^\d+$/.test(file))) archive.addFile(join(folder, name), `files/${name}`);
}

/** Puts a stream into an archive and waits until it is in: streams of one connection come one after the other. */
async function append(archive: ZipFile, content: Readable, name: string, signal: AbortSignal): Promise<void> {
  const read = finished(content, { signal });
  archive.addReadStream(content, name);
  try {
    await read;
  } catch (error) {
    // Nobody takes what is left of it: it is let run out, so that its connection is free to end.
    content.unpipe();
    content.resume();
    throw error;
  }
}
