import type { z, ZodError } from "zod";
import { QuestionRefused } from "#core/frame/question-refused.ts";
import { UnreadableFile } from "./unreadable-file.ts";
import { ProblemError } from "./problem-error.ts";
import { listed } from "#core/formats/listed.ts";

/** SQLSTATE classes and codes that mean "the server is not there (any more)", and Node's words for the same. */
const CONNECTION_LOST = /^(08...|57P0[123]|53300|ECONNREFUSED|ECONNRESET|EPIPE|ENOENT|ETIMEDOUT)$/;
// "aborted": the pool was closed while a connection was waited for, as when a server stops.
const CONNECTION_LOST_MESSAGE =
  /^aborted$|Connection terminated|timeout exceeded when trying to connect|Connection ended unexpectedly|Client has encountered a connection error|conflict with recovery/i;

/** The funnel from anything thrown to a problem. What nobody foresaw becomes "internal" and keeps its cause for the log. */
export function toProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof QuestionRefused) return new ProblemError(error.code, error.message, { cause: error });
  if (error instanceof UnreadableFile) return new ProblemError("unreadable-file", error.message, { cause: error });
  if (
    (error as NodeJS.ErrnoException | null)?.code === "53100" ||
    (error as NodeJS.ErrnoException | null)?.code === "ENOSPC"
  ) {
    return new ProblemError(
      "disk-full",
      "There is no room left on the database's disk. Nothing was posted; free some room and post again.",
      { cause: error },
    );
  }
  const busy = busyWords(error);
  if (busy !== undefined) return new ProblemError("busy", busy, { cause: error });
  if (isConnectionLoss(error)) {
    return new ProblemError(
      "database-unavailable",
      "The database does not answer at the moment. Nothing is lost; the page tries again by itself.",
      { cause: error },
    );
  }
  const status = (error as { status?: unknown } | null)?.status;
  if (typeof status === "number" && status >= 400 && status < 500) {
    const detail =
      status === 413
        ? "The request is larger than this operation takes."
        : "The request's body or address could not be read: send well-formed JSON and a well-formed address.";
    return new ProblemError("invalid-request", detail, { cause: error });
  }
  return new ProblemError(
    "internal",
    "Hackle could not answer because of an internal error. It is in the server's log; trying again may help.",
    { cause: error },
  );
}

/** PostgreSQL: a lock was waited for too long; a statement took too long. */
const LOCK_KEPT = "55P03";
const GIVEN_UP = "57014";

/** What is said where nothing is wrong but that others are faster, or too slow. */
function busyWords(error: unknown): string | undefined {
  if (!(error instanceof Error)) return undefined;
  const { code } = error as NodeJS.ErrnoException;
  if (code === LOCK_KEPT)
    return "Someone else is changing this at the moment. Nothing was changed; try again in a few seconds.";
  if (code === GIVEN_UP)
    return "This took longer than a minute and was stopped. Narrow the question, or try again later.";
  if (/Timeout acquiring a connection/.test(error.message))
    return "All connections to the database are in use at the moment. Nothing is lost; the page tries again by itself.";
  return undefined;
}

/** Whether an error means that PostgreSQL is out of reach. */
export function isConnectionLoss(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = (error as NodeJS.ErrnoException).code ?? "";
  if (CONNECTION_LOST.test(code) || CONNECTION_LOST_MESSAGE.test(error.message)) return true;
  return error instanceof AggregateError && error.errors.some(isConnectionLoss);
}

/** Reads what a request brought by its contract. Throws a problem that names the place of what does not fit. */
export function readRequest<T extends z.ZodType>(schema: T, given: unknown): z.infer<T> {
  const read = schema.safeParse(given, { reportInput: true });
  if (read.success) return read.data;
  throw new ProblemError("invalid-request", zodSentence(read.error), { cause: read.error });
}

function zodSentence(error: ZodError): string {
  const issue = error.issues[0];
  const place = issue && issue.path.length > 0 ? `"${issue.path.join(".")}"` : "the request";
  if (issue?.code === "invalid_value" && typeof issue.input === "string")
    return `${place} is "${issue.input}"; it can be ${listed(issue.values.map(String), "or")}.`;
  return `In ${place}: ${issue?.message ?? "not as the contract says"}.`;
}
