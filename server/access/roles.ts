import { ProblemError } from "#server/problems/problem-error.ts";
import type { Reader } from "./reader.ts";

/** Lets through who may bring data and change the structure. */
export function requireEditor(reader: Reader): Reader {
  if (reader.role === "analyst" || reader.role === "administrator") return reader;
  throw new ProblemError(
    "not-allowed",
    "Loading files and changing the structure is for analysts and administrators. Ask one of them, or for the role.",
  );
}

/** Lets through who sees to the company and its people. */
export function requireAdministrator(reader: Reader): Reader {
  if (reader.role === "administrator") return reader;
  throw new ProblemError(
    "not-allowed",
    "The company and its people are for administrators to change. Ask one of them.",
  );
}
