import type { Knex } from "knex";
import type { TOKENS } from "#contract/operations/tokens.ts";
import { createToken, listTokens, revokeToken } from "#server/access/api-tokens.ts";
import type { RegisteredCompany } from "#server/companies/registry.ts";
import type { Routes } from "../serve-operations.ts";

/** Personal tokens for other programs. */
export function tokenRoutes(knex: Knex, registered: Pick<RegisteredCompany, "key">): Routes<typeof TOKENS> {
  return {
    tokens: ({ reader }) => listTokens(knex, reader),
    createToken: ({ reader, body }) => createToken(knex, registered, reader, body.name),
    revokeToken: ({ reader, params }) => revokeToken(knex, reader, params.token),
  };
}
