import { z } from "zod";

/**
 * What can go wrong, closed: the code is what programs go by, the sentence what
 * people read. The HTTP status follows from the code.
 */
export const PROBLEM_STATUS = {
  "invalid-request": 400,
  "not-signed-in": 401,
  "wrong-password": 401,
  "not-allowed": 403,
  "not-found": 404,
  "unknown-period": 422,
  "unknown-span": 422,
  "unknown-basis": 422,
  "unknown-scope": 422,
  "unknown-unit": 422,
  "unknown-kpi": 422,
  "unreadable-file": 422,
  "cannot-post": 422,
  "invalid-change": 422,
  "changed-meanwhile": 409,
  "in-use": 409,
  "someone-posting": 409,
  "file-too-large": 413,
  "feed-failed": 502,
  "disk-full": 507,
  "too-many-requests": 429,
  busy: 503,
  "database-unavailable": 503,
  internal: 500,
} as const satisfies Record<string, number>;

export type ProblemCode = keyof typeof PROBLEM_STATUS;

const codes = Object.keys(PROBLEM_STATUS) as [ProblemCode, ...ProblemCode[]];

/** A problem document (RFC 9457). `detail` is a sentence a person can act on. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  code: z.enum(codes),
  detail: z.string(),
  /** Of a conflict: what is kept now, and what was asked for. */
  both: z.object({ record: z.string().optional(), current: z.unknown(), yours: z.unknown() }).optional(),
});

export type ProblemDocument = z.infer<typeof problemSchema>;
