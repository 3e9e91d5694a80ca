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
    signal,
  }: {
    method?: "GET" | "POST" | "DELETE";
    body?: unknown;
    signal?: AbortSignal;
  } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(signal ? { signal } : {}),
      ...(body === undefined ? {} : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new ApiProblem(
      "unreachable",
      "The Hackle server does not answer. The page tries again by itself; check that it is running.",
    );
  }
  if (response.ok) return schema ? schema.parse(await response.json()) : (undefined as T);
  const problem = problemSchema.safeParse(await response.json().catch(() => undefined));
  if (problem.success) throw new ApiProblem(problem.data.code, problem.data.detail);
  throw new ApiProblem(
    "unreachable",
    `The server answered with status ${response.status} and no explanation. The page tries again by itself.`,
  );
}

/** An address with its query; what is undefined is left out. */
export function withQuery(path: string, query: Readonly<Record<string, string | number | undefined>>): string {
  const params = new URLSearchParams();
  for (const [key, value] of Object.entries(query)) if (value !== undefined) params.set(key, String(value));
  const text = params.toString();
  return text ? `${path}?${text}` : path;
}
