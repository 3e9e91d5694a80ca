import type { z } from "zod";
import { operationPath, type AnswerOf, type ArgumentsOf, type Named } from "#contract/operations/operation.ts";
import { problemSchema, type ProblemCode, type ProblemDocument } from "#contract/problem.ts";

/** A problem the server told of, or that it could not be reached at all. */
export class ApiProblem extends Error {
  constructor(
    readonly code: ProblemCode | "unreachable",
    message: string,
    /** Of a conflict: what is kept now, and what was asked for. */
    readonly both?: ProblemDocument["both"],
  ) {
    super(message);
  }

  /** Whether the same is worth sending again: nobody took it, since the server or its database is away or has too much to do. */
  get isUntaken(): boolean {
    return isAway(this.code);
  }

  /** Whether waiting may help. */
  get isPassing(): boolean {
    return isAway(this.code) || this.code === "internal";
  }
}

function isAway(code: ApiProblem["code"]): boolean {
  return code === "unreachable" || code === "database-unavailable" || code === "busy";
}

/** What may be said of a call besides its arguments. */
interface CallOptions {
  readonly signal?: AbortSignal;
  /** A text sent as it is rather than as JSON. */
  readonly file?: string;
}

/** An operation's arguments, left out where it needs none. */
export type CallArguments<O extends Named> =
  object extends ArgumentsOf<O> ? [args?: ArgumentsOf<O>] : [args: ArgumentsOf<O>];

/** Calls an operation of the API and reads its answer by the contract. Throws an `ApiProblem`. */
export async function call<O extends Named>(
  operation: O,
  ...[args, options = {}]: [...CallArguments<O>, options?: CallOptions]
): Promise<AnswerOf<O>> {
  const { params, query, body } = (args ?? {}) as { params?: object; query?: object; body?: unknown };
  const { method, answer } = operation;
  const { signal, file } = options as CallOptions;
  const path = operationPath(operation, { params: params as never, query: query as never });
  const response = await fetchAnswer(path, {
    method: method.toUpperCase(),
    ...(signal ? { signal } : {}),
    ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
    ...(file === undefined ? {} : { headers: { "content-type": "text/csv" }, body: file }),
  });
  return (
    answer === null || typeof answer === "string" ? undefined : answer.parse(await response.json())
  ) as AnswerOf<O>;
}

/** Fetches what is answered with success. Throws an `ApiProblem`. */
export async function fetchAnswer(path: string, request: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, request);
  } catch (error) {
    if (request.signal?.aborted) throw error;
    throw new ApiProblem(
      "unreachable",
      "The Hackle server does not answer. The page tries again by itself; check that it is running.",
    );
  }
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => undefined));
  return response;
}

/** A problem as the server words it. */
export function problemFrom({ code, detail, both }: ProblemDocument): ApiProblem {
  return new ApiProblem(code, detail, both);
}

/** Sends a file, telling how much of it has gone. Throws an `ApiProblem`. */
export async function sendFile<T>(
  path: string,
  schema: z.ZodType<T>,
  { file, onProgress, signal }: { file: File; onProgress: (share: number) => void; signal: AbortSignal },
): Promise<T> {
  // Only this older interface of the browser tells how far an upload has come.
  const request = new XMLHttpRequest();
  return new Promise((resolve, reject) => {
    request.open("POST", path);
    request.setRequestHeader("content-type", "application/octet-stream");
    request.upload.onprogress = (event) => onProgress(event.total > 0 ? event.loaded / event.total : 0);
    request.onload = () => {
      let body: unknown;
      try {
        body = JSON.parse(request.responseText);
      } catch {
        body = undefined;
      }
      const parsed = request.status === 200 ? schema.safeParse(body) : undefined;
      if (parsed?.success) resolve(parsed.data);
      else reject(problemOf(request.status, body));
    };
    request.onerror = () =>
      reject(
        new ApiProblem(
          "unreachable",
          `The connection broke off while ${file.name} was sent. Nothing was loaded; send it again.`,
        ),
      );
    request.onabort = () => reject(new ApiProblem("unreachable", `Sending ${file.name} was cancelled.`));
    signal.addEventListener("abort", () => request.abort(), { once: true });
    request.send(file);
  });
}

function problemOf(status: number, body: unknown): ApiProblem {
  const problem = problemSchema.safeParse(body);
  if (problem.success) return problemFrom(problem.data);
  return new ApiProblem(
    "unreachable",
    `The server answered with status ${status} and no explanation. The page tries again by itself.`,
  );
}
