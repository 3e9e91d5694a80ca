import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { OPERATIONS } from "#contract/operations/index.ts";
import type { Access, Operation } from "#contract/operations/operation.ts";
import { ANALYST, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** Who may ask what, asked of every operation there is. */
const RANK: Record<Access, number> = { anyone: 0, "signed-in": 1, reader: 2, editor: 3, administrator: 4 };
const ADMINISTRATOR = "jon.askeland@quillhaven.example";
/** A record that there is not: what is let through ends with another problem, and nothing is changed. */
const pathOf = ({ path }: Operation) => path.replace(/:\w+/g, "1999999999");
const ALL = Object.values<Operation>(OPERATIONS).filter(({ access }) => access !== "anyone");
/** What ends a session or a company is not tried on those that others look at. */
const SENT: Operation[] = ALL.filter((operation) => operation !== OPERATIONS.removeCompany);

let database: OwnDatabase;
let stranger: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "access");
  stranger = await serveApi(database.knex);
});
afterAll(async () => {
  await stranger.close();
  await database.drop();
});

/** The code of the problem an operation answers somebody with, asked with a body that no operation takes. */
async function codeFor(client: ApiClient, operation: Operation, headers: Record<string, string> = {}) {
  const { status, body } = await client.send(
    operation.method.toUpperCase(),
    pathOf(operation),
    operation.method === "get" ? undefined : { banana: true },
    headers,
  );
  return status < 400 ? "let through" : (body as { code: string }).code;
}

describe("every operation that is not for anyone", () => {
  it("asks a stranger to sign in", async () => {
    for (const operation of ALL)
      expect([operation.path, await codeFor(stranger, operation)]).toEqual([operation.path, "not-signed-in"]);
  });
  it.each([
    [SKERRY_MANAGER, "reader"],
    [ANALYST, "editor"],
    [ADMINISTRATOR, "administrator"],
  ] as const)("lets %s do what a %s may, and nothing else", async (email, access) => {
    const client = await serveApi(database.knex);
    await client.signIn(email);
    for (const operation of SENT) {
      const isAllowed = RANK[operation.access] <= RANK[access];
      const found = await codeFor(client, operation);
      expect([operation.method, operation.path, found !== "not-allowed"]).toEqual([
        operation.method,
        operation.path,
        isAllowed,
      ]);
    }
    await client.close();
  });
  it("lets a personal token read what its person may, and change nothing", async () => {
    const client = await serveApi(database.knex);
    await client.signIn(ANALYST);
    const { body } = await client.send("POST", "/api/tokens", { name: "reads" });
    await client.send("DELETE", "/api/session");
    const headers = { authorization: `Bearer ${(body as { token: string }).token}` };
    for (const operation of ALL) {
      const found = await codeFor(client, operation, headers);
      const isAllowed = operation.method === "get" && RANK[operation.access] <= RANK.editor;
      expect([operation.path, found === "not-allowed"]).toEqual([operation.path, !isAllowed]);
    }
    await client.close();
  });
});
