import { createReadStream, createWriteStream } from "node:fs";
import { readdir } from "node:fs/promises";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import archiver from "archiver";
import type { Knex } from "knex";
import type { Client } from "pg";
import { to as copyTo } from "pg-copy-streams";
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
  const archive = archiver("zip", { zlib: { level: 6 } });
  const written = pipeline(archive, createWriteStream(path), { signal });
  void writeTables(knex, archive)
    .then(() => writeFiles(store, archive))
    .then(() => archive.finalize())
    .catch((error: unknown) => archive.destroy(error as Error));
  await written;
}

async function writeTables(knex: Knex, archive: archiver.Archiver): Promise<void> {
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
        await append(archive, lines, `tables/${name}.csv`);
      }
    },
    { isolationLevel: "repeatable read", readOnly: true },
  );
}

async function writeFiles({ folder }: FileStore, archive: archiver.Archiver): Promise<void> {
  const names = await readdir(folder).catch(() => []);
  for (const name of names.filter((file) => /^\d+$/.test(file)))
    await append(archive, createReadStream(join(folder, name)), `files/${name}`);
}

/** Puts a stream into an archive and waits until it is in: streams of one connection come one after the other. */
function append(archive: archiver.Archiver, content: Readable, name: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const settled = (error?: Error) => {
      archive.off("entry", entered);
      archive.off("error", settled);
      archive.off("close", closed);
      if (error) reject(error);
      else resolve();
    };
    const entered = (entry: { name: string }) => entry.name === name && settled();
    const closed = () => settled(new Error("the download was broken off"));
    archive.on("entry", entered);
    archive.on("error", settled);
    archive.on("close", closed);
    content.on("error", settled);
    archive.append(content, { name });
  });
}
