import { once } from "node:events";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import express, { Router } from "express";
import { pino } from "pino";
import { afterEach, describe, expect, it } from "vitest";
import { z } from "zod";
import { idSchema, operations } from "#contract/operations/operation.ts";
import type { Reader } from "#server/access/reader.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { answerProblem } from "./base-app.ts";
import { serveOperations, type Routes, type Serving } from "./serve-operations.ts";

/** A few operations of no product, one for each way to ask and to answer. */
const SHOP = operations({
  greet: {
    method: "get",
    path: "/api/greeting",
    access: "anyone",
    summary: "",
    answer: z.object({ text: z.string() }),
  },
  order: {
    method: "post",
    path: "/api/orders/:order/lines/:line",
    access: "editor",
    params: { order: idSchema },
    query: z.object({ times: z.coerce.number().int().default(1) }),
    body: z.object({ of: z.string().min(2) }),
    summary: "",
    answer: z.object({ order: z.number(), line: z.string(), of: z.string(), times: z.number(), by: z.string() }),
  },
  drop: {
    method: "delete",
    path: "/api/orders/:order",
    access: "editor",
    params: { order: idSchema },
    summary: "",
    answer: null,
  },
  list: { method: "get", path: "/api/orders.csv", access: "reader", summary: "", answer: "text/csv" },
  lines: { method: "get", path: "/api/orders/lines", access: "reader", summary: "", answer: "application/x-ndjson" },
  choose: { method: "put", path: "/api/password", access: "signed-in", summary: "", answer: null },
});

const PERSON: Reader = { id: 1, name: "Ada", email: "ada@x.example", title: "", role: "analyst", scope: {} };
let server: Server | undefined;
afterEach(() => server?.close());

/** Serves the shop for somebody; what is asked is noted. */
async function shop(
  reader: Reader | null,
  { isAnswerChecked = true, ...own }: Partial<Routes<typeof SHOP>> & { isAnswerChecked?: boolean } = {},
) {
  const asked: string[] = [];
  const routes: Routes<typeof SHOP> = {
    greet: () => ({ text: "hello" }),
    order: ({ params, query, body, reader: { name } }) => ({ ...params, ...query, ...body, by: name }),
    drop: ({ params }) => void asked.push(`dropped ${params.order}`),
    list: () => ({ fileName: "orders.csv", rows: ["a,b\r\n", "1,2\r\n"] }),
    lines: () => ({
      lines: (async function* () {
        yield await Promise.resolve('{"n":1}\n');
        yield '{"n":2}\n';
      })(),
    }),
    choose: () => undefined,
    ...own,
  };
  const serving: Serving = {
    readReader: () => {
      if (reader) return Promise.resolve(reader);
      throw new ProblemError("not-signed-in", "Sign in.");
    },
    sendDownload: () => Promise.resolve(),
    isAnswerChecked,
  };
  const app = express();
  app.use(express.json());
  const router = Router();
  serveOperations(router, SHOP, routes, serving);
  app.use(router, answerProblem(pino({ level: "silent" })));
  server = createServer(app).listen(0, "127.0.0.1");
  await once(server, "listening");
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const ask = async (method: string, path: string, body?: unknown) => {
    const response = await fetch(origin + path, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { "content-type": "application/json" } }),
    });
    const text = await response.text();
    const isJson = /[/+]json\b/.test(response.headers.get("content-type") ?? "");
    return { status: response.status, text, json: isJson ? (JSON.parse(text) as unknown) : null };
  };
  return { ask, asked };
}

describe("an operation that is served", () => {
  it("gives its use case all of a request, parsed, and who asks", async () => {
    const { ask } = await shop(PERSON);
    const { status, json } = await ask("POST", "/api/orders/7/lines/a%20b?times=3", { of: "rope", more: 1 });
    expect([status, json]).toEqual([200, { order: 7, line: "a b", of: "rope", times: 3, by: "Ada" }]);
    expect((await ask("POST", "/api/orders/7/lines/x", { of: "rope" })).json).toMatchObject({ times: 1 });
  });
  it("names what does not fit, and where", async () => {
    const { ask } = await shop(PERSON);
    for (const [path, body, place] of [
      ["/api/orders/zero/lines/x", { of: "rope" }, '"order"'],
      ["/api/orders/7/lines/x?times=often", { of: "rope" }, '"times"'],
      ["/api/orders/7/lines/x", { of: "r" }, '"of"'],
      ["/api/orders/7/lines/x", undefined, "the request"],
    ] as const) {
      const { status, json } = await ask("POST", path, body);
      expect([status, (json as { detail: string }).detail]).toEqual([400, expect.stringContaining(place)]);
    }
  });
  it("lets through by role, before anything of the request is read", async () => {
    const asking = async (reader: Reader | null) => {
      const { ask } = await shop(reader);
      const order = await ask("POST", "/api/orders/zero/lines/x", {});
      const list = await ask("GET", "/api/orders.csv");
      const greeting = await ask("GET", "/api/greeting");
      server?.close();
      return [order.status, list.status, greeting.status];
    };
    expect(await asking(null)).toEqual([401, 401, 200]);
    expect(await asking({ ...PERSON, role: "executive" })).toEqual([403, 200, 200]);
    expect(await asking(PERSON)).toEqual([400, 200, 200]);
    expect(await asking({ ...PERSON, mustChoosePassword: true })).toEqual([403, 403, 200]);
  });
  it("lets who has yet to choose a password do so", async () => {
    const { ask } = await shop({ ...PERSON, mustChoosePassword: true });
    expect((await ask("PUT", "/api/password")).status).toBe(204);
  });
  it("answers with nothing, a file or lines where it says so", async () => {
    const { ask, asked } = await shop(PERSON);
    expect((await ask("DELETE", "/api/orders/9")).status).toBe(204);
    expect(asked).toEqual(["dropped 9"]);
    expect((await ask("GET", "/api/orders.csv")).text).toBe("a,b\r\n1,2\r\n");
    expect((await ask("GET", "/api/orders/lines")).text).toBe('{"n":1}\n{"n":2}\n');
  });
  it("is not answered otherwise than its schema says, where that is checked", async () => {
    const wrong = { greet: () => ({ text: 7 }) as unknown as { text: string } };
    expect((await (await shop(PERSON, wrong)).ask("GET", "/api/greeting")).status).toBe(500);
    server?.close();
    const { ask } = await shop(PERSON, { ...wrong, isAnswerChecked: false });
    expect((await ask("GET", "/api/greeting")).json).toEqual({ text: 7 });
  });
  it("passes what stands before it first", async () => {
    const { ask } = await shop(null, {
      greet: {
        before: [
          () => {
            throw new ProblemError("too-many-requests", "Wait.");
          },
        ],
        run: () => ({ text: "never" }),
      },
    });
    expect((await ask("GET", "/api/greeting")).status).toBe(429);
  });
});
