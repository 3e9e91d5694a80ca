import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Knex } from "knex";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import { connect } from "#server/db/connect.ts";
import { readLimits } from "#server/intake/limits.ts";
import { exportCompany } from "./export-company.ts";

let knex: Knex;
let folder: string;
beforeAll(() => {
  knex = connect(inject("sampleUrl"), { poolSize: 1 });
  folder = mkdtempSync(join(tmpdir(), "hackle-export-"));
});
afterAll(async () => {
  await knex.destroy();
  rmSync(folder, { recursive: true });
});

it("an export of which something cannot be read ends as a failure of its own, and its connection is free again", async () => {
  const files = join(folder, "files");
  mkdirSync(join(files, "7"), { recursive: true });
  const store = { folder: files, limits: readLimits({}) };
  const path = join(folder, "whole.zip");
  await expect(exportCompany(knex, store, path, new AbortController().signal)).rejects.toThrow("not a file");
  const broken = new AbortController();
  const left = exportCompany(knex, store, path, broken.signal);
  setTimeout(() => broken.abort(), 50);
  await expect(left).rejects.toThrow();
  // The only connection there is.
  expect((await knex.raw<{ rows: unknown[] }>("select 1")).rows).toHaveLength(1);
});
