import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient } from "#testing/intake-client.ts";
import { delimited, expectOutcome, objections, sayKind, workbookOf, type DroppedFile } from "#testing/shape-files.ts";
import { SHAPES, type Shape } from "#testing/shapes.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { startCompany } from "#testing/stranger.ts";

/**
 * Files in the shapes they come in, brought by a stranger to an empty company: each reaches a right first scorecard
 * without a decision, or is stopped with the reason. The table in docs/loading.md counts them.
 */
let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "shapes", { empty: true });
  api = await serveApi(database.knex);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

/** The same table as files of several kinds. */
const VARIANTS: readonly { readonly name: string; readonly make: (shape: Shape) => Promise<DroppedFile> }[] = [
  {
    name: "delimited text",
    make: ({ fileName, rows, isComma }) =>
      Promise.resolve({ name: fileName, content: delimited(rows, isComma ? ";" : ",") }),
  },
  {
    name: "tabs, byte-order mark, Windows line ends",
    make: ({ fileName, rows }) =>
      Promise.resolve({ name: fileName.replace(".csv", ".txt"), content: `\uFEFF${delimited(rows, "\t", "\r\n")}` }),
  },
  {
    name: "a workbook",
    make: async ({ fileName, rows }) => ({
      name: fileName.replace(".csv", ".xlsx"),
      content: await workbookOf({ Sheet1: rows }),
    }),
  },
];

describe.each(VARIANTS)("as $name", ({ make }) => {
  it.each(SHAPES)("$name", async (shape) => {
    await startCompany(api, { currency: shape.currency ?? "EUR" });
    const client = intakeClient(api);
    const { name, content } = await make(shape);
    const draft = await client.upload(name, content);
    if (shape.kind === undefined) {
      // Not one decision is left to a person.
      await expectOutcome(client, draft, shape);
      return;
    }
    expect(objections(draft)).toEqual([expect.stringMatching(/whether .* is income or costs/)]);
    await expectOutcome(client, await client.change(draft, sayKind(draft.definition, shape.kind)), shape);
  });
});
