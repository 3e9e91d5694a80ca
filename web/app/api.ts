import type { z } from "zod";
import { problemSchema, type ProblemCode } from "#contract/problem.ts";

/** A problem the server told of, or that it could not be reached at all. */
export class ApiProblem extends Error {
  constructor(
    readonly code: ProblemCode | "unreachable",
    message: string,
  ) {
    super(message);
  }

  /** Whether waiting may help: the server or its database is away for the moment. */
  get isPassing(): boolean {
    return this.code === "unreachable" || this.code === "database-unavailable" || this.code === "internal";
  }
}

/** Calls the API and reads the answer by its schema. Throws an `ApiProblem`. */
export async function callApi<T>(
  path: string,
  schema: z.ZodType<T> | null,
  {
    method = "GET",
    body,
    file,
    signal,
  }: {
    method?: "GET" | "POST" | "PUT" | "DELETE";
    body?: unknown;
    /** A text sent as it is rather than as JSON. */
    file?: string;
    signal?: AbortSignal;
  } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
      ...(file === undefined ? {} : { headers: { "content-type": "text/csv" }, body: file }),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiProblem(
      "unreachable",
      "The Hackle server does not answer. The page tries again by itself; check that it is running.",
    );
  }
  if (response.ok) return schema ? schema.parse(await response.json()) : (undefined as T);
  throw problemOf(response.status, await response.json().catch(() => undefined));
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
  if (problem.success) return new ApiProblem(problem.data.code, problem.data.detail);
  return new ApiProblem(
    "unreachable",
    `The server answered with status ${status} and no explanation. The page tries again by itself.`,
  );
}

/** An address with its query; what is undefined is left out. */
export function withQuery(path: string, query: Readonly<Record<string, string | number | undefined>>): string {
  const params = new URLSearchParams();
  for (const [key, value] of Object.entries(query)) if (value !== undefined) params.set(key, String(value));
  const text = params.toString();
  return text ? `${path}?${text}` : path;
}
