import type { Knex } from "knex";
import type { VERSIONS } from "#contract/operations/versions.ts";
import type { VersionLine } from "#contract/versions.ts";
import type { Reader } from "#server/access/reader.ts";
import { may } from "#server/access/roles.ts";
import { ask } from "#server/facts/workspace.ts";
import { adjustVersion, takeBackAdjustment } from "#server/versions/adjust-version.ts";
import { copyVersion } from "#server/versions/copy-version.ts";
import { postVersion, refitVersion } from "#server/versions/post-version.ts";
import { changeVersion, listVersions } from "#server/versions/versions.ts";
import type { Routes } from "../serve-operations.ts";
import type { ReadingMeans } from "./reading-means.ts";

/** Versions of budget, forecast and target: made from forecasts, named, frozen, retired. */
export function versionRoutes({ knex, readStructure, workspaceFor }: ReadingMeans): Routes<typeof VERSIONS> {
  const list = async (reader: Reader) => ({
    versions: await listVersions(knex, await readStructure(), reader),
    mayEdit: may("editor", reader),
  });
  /** Runs a change, and answers with the versions as they are then. */
  const change = async (reader: Reader, work: (trx: Knex.Transaction) => Promise<unknown>) => {
    await knex.transaction(work);
    return list(reader);
  };
  return {
    versions: ({ reader }) => list(reader),
    postVersion: async (call) => ({
      lines: written(postVersion(knex, await workspaceFor(call), call.body, call.reader.name)),
    }),
    changeVersion: ({ params, body, reader }) => change(reader, (trx) => changeVersion(trx, params.version, body)),
    copyVersion: ({ params, body, reader }) =>
      change(reader, (trx) => copyVersion(trx, params.version, body.name, reader.name)),
    refitVersion: async (call) => ({
      lines: written(refitVersion(knex, await workspaceFor(call), call.params.version, call.reader.name)),
    }),
    adjustVersion: async (call) => {
      const { params, body, reader } = call;
      const scope = body.scope === undefined ? {} : { scope: body.scope };
      const question = await ask(await workspaceFor(call), scope, (own) => own);
      return change(reader, (trx) => adjustVersion(trx, params.version, question, body, reader.name));
    },
    takeBackAdjustment: ({ params, reader }) =>
      change(reader, (trx) => takeBackAdjustment(trx, params.version, params.adjustment, reader.name)),
  };
}

async function* written(lines: AsyncIterable<VersionLine>): AsyncGenerator<string> {
  for await (const line of lines) yield `${JSON.stringify(line)}\n`;
}
