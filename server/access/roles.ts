import type { Access } from "#contract/operations/operation.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { Reader } from "./reader.ts";

type Asked = Exclude<Access, "anyone">;

/** Which roles may do what an operation asks for. */
const ROLES: Record<Asked, readonly Reader["role"][] | "all"> = {
  "signed-in": "all",
  reader: "all",
  editor: ["analyst", "administrator"],
  administrator: ["administrator"],
};

/** What somebody is told who may not. */
const REFUSALS: Record<Asked, string> = {
  "signed-in": "Sign in first.",
  reader: "Sign in first.",
  editor: "Only analysts and administrators can do this. Ask one of them, or ask for the role.",
  administrator: "Only administrators can change the company and its people. Ask one of them.",
};

/** Whether a reader may do what an operation asks for. */
export function may(access: Asked, { role }: Pick<Reader, "role">): boolean {
  const roles = ROLES[access];
  return roles === "all" || roles.includes(role);
}

/** Lets a reader through who may do what an operation asks for. Throws a `ProblemError` "not-allowed" naming who may. */
export function requireAccess(access: Asked, reader: Reader): void {
  if (reader.mustChoosePassword && access !== "signed-in")
    throw new ProblemError("not-allowed", "Change your initial password first.");
  if (!may(access, reader)) throw new ProblemError("not-allowed", REFUSALS[access]);
}
