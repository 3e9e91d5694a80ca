import { PROBLEM_STATUS, type ProblemCode, type ProblemDocument } from "#contract/problem.ts";

/** What two people made of one thing: what is kept now, and what the one who is told wanted. */
export interface BothVersions {
  /** The name of what is changed both ways, where it is one of several. */
  readonly record?: string;
  readonly current: unknown;
  readonly yours: unknown;
}

/** The one error the server throws on purpose: a closed code and a sentence for the reader. */
export class ProblemError extends Error {
  /** Of a conflict, both versions. */
  readonly both: BothVersions | undefined;

  constructor(
    readonly code: ProblemCode,
    detail: string,
    { both, ...options }: ErrorOptions & { readonly both?: BothVersions } = {},
  ) {
    super(detail, options);
    this.name = "ProblemError";
    this.both = both;
  }
}

const TITLES: Readonly<Record<ProblemCode, string>> = {
  "invalid-request": "The request cannot be read",
  "not-signed-in": "Not signed in",
  "wrong-password": "Sign-in refused",
  "not-allowed": "Not allowed",
  "not-found": "Not found",
  "unknown-period": "Unknown as-of period",
  "unknown-span": "Unknown span",
  "unknown-basis": "Unknown basis",
  "unknown-scope": "Unknown scope",
  "unknown-unit": "Unknown unit",
  "unknown-kpi": "Unknown KPI",
  "unreadable-file": "The file cannot be read",
  "cannot-post": "The file cannot be posted yet",
  "invalid-change": "This change is not possible",
  "changed-meanwhile": "Changed meanwhile",
  "in-use": "Still in use",
  "someone-posting": "Someone else is posting",
  "file-too-large": "The file is too large",
  "feed-failed": "The feed did not deliver",
  "disk-full": "The disk is full",
  "too-many-requests": "Too many attempts",
  busy: "Busy at the moment",
  "database-unavailable": "The database does not answer",
  internal: "Something went wrong in Hackle",
};

/** The problem document of an error, as it goes over the wire. */
export function problemDocument(error: ProblemError): ProblemDocument {
  return {
    type: `/problems/${error.code}`,
    title: TITLES[error.code],
    status: PROBLEM_STATUS[error.code],
    code: error.code,
    detail: error.message,
    ...(error.both ? { both: error.both } : {}),
  };
}
