import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { createMemoryRouter, RouterProvider } from "react-router";
import type { ReactNode } from "react";
import { vi } from "vitest";
import type { AnswerOf } from "#contract/operations/operation.ts";
import { OPERATIONS, type OperationName } from "#contract/operations/index.ts";
import type { Operation } from "#contract/operations/operation.ts";
import { PROBLEM_STATUS, type ProblemDocument } from "#contract/problem.ts";

/** What a request brought, as the page sent it. */
export interface Asked {
  readonly id: OperationName;
  readonly params: Readonly<Record<string, string>>;
  readonly query: URLSearchParams;
  readonly body: unknown;
}

/** The answer to an operation: as it is, or made from what was asked; a `Refusal` is sent as a problem document. */
export type Answers = {
  readonly [Id in OperationName]?:
    | AnswerOf<(typeof OPERATIONS)[Id]>
    | ((asked: Asked) => AnswerOf<(typeof OPERATIONS)[Id]> | Refusal);
};

/** A problem that the server answers with. */
export class Refusal {
  constructor(readonly problem: Pick<ProblemDocument, "code" | "detail" | "both">) {}
}

/** A page on screen, with what it asked the server. */
export interface RenderedPage {
  readonly user: ReturnType<typeof userEvent.setup>;
  /** Every request in the order in which it came. */
  readonly asked: readonly Asked[];
  /** Where the reader is led to. */
  address(): string;
}

/** Shows a page with a server that answers from a list; every answer is held against the contract. */
export function renderPage(
  page: ReactNode,
  { at = "/", path = "*", answers = {} }: { at?: string; path?: string; answers?: Answers } = {},
): RenderedPage {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", (address: string, init: RequestInit = {}) =>
    Promise.resolve(answer(address, init, answers, asked)),
  );
  const router = createMemoryRouter(
    [
      { path, element: page },
      { path: "*", element: <p>Elsewhere</p> },
    ],
    { initialEntries: [at] },
  );
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  const { location } = router.state;
  return {
    user: userEvent.setup(),
    asked,
    address: () => `${router.state.location.pathname}${router.state.location.search}` || location.pathname,
  };
}

function answer(address: string, init: RequestInit, answers: Answers, asked: Asked[]): Response {
  const url = new URL(address, "http://test");
  const method = (init.method ?? "get").toLowerCase();
  for (const [id, operation] of Object.entries<Operation>(OPERATIONS)) {
    if (operation.method !== method) continue;
    const names = [...operation.path.matchAll(/:(\w+)/g)].map((match) => match[1]!);
    const pattern = new RegExp(`^${operation.path.replaceAll(".", "\\.").replace(/:\w+/g, "([^/]+)")}$`);
    const found = pattern.exec(url.pathname);
    if (!found || !(id in answers)) continue;
    const request: Asked = {
      id: id as OperationName,
      params: Object.fromEntries(names.map((name, i) => [name, decodeURIComponent(found[i + 1]!)])),
      query: url.searchParams,
      body: typeof init.body === "string" ? (JSON.parse(init.body) as unknown) : undefined,
    };
    asked.push(request);
    const given: unknown = answers[id as OperationName];
    const result = typeof given === "function" ? (given as (asked: Asked) => unknown)(request) : given;
    if (result instanceof Refusal) return problem(result.problem);
    if (operation.answer && typeof operation.answer !== "string") operation.answer.parse(result);
    return new Response(JSON.stringify(result), { headers: { "content-type": "application/json" } });
  }
  return problem({ code: "not-found", detail: `${method} ${url.pathname} has no answer in this test.` });
}

function problem({ code, detail, both }: Refusal["problem"]): Response {
  const document: ProblemDocument = {
    type: `/problems/${code}`,
    title: code,
    status: PROBLEM_STATUS[code],
    code,
    detail,
    ...(both ? { both } : {}),
  };
  return new Response(JSON.stringify(document), {
    status: document.status,
    headers: { "content-type": "application/problem+json" },
  });
}
