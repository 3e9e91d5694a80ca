import { newTokenSchema, tokenCreateSchema, tokenListSchema } from "../tokens.ts";
import { idSchema, operations } from "./operation.ts";

/** Personal tokens for other programs. */
export const TOKENS = operations({
  tokens: {
    method: "get",
    path: "/api/tokens",
    access: "reader",
    summary: "Your API tokens",
    answer: tokenListSchema,
  },
  createToken: {
    method: "post",
    path: "/api/tokens",
    access: "reader",
    summary: "Create an API token; it is shown once",
    body: tokenCreateSchema,
    answer: newTokenSchema,
  },
  revokeToken: {
    method: "delete",
    path: "/api/tokens/:token",
    access: "reader",
    params: { token: idSchema },
    summary: "Revoke an API token",
    answer: null,
  },
});
