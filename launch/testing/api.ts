import { once } from "node:events";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import type { Knex } from "knex";
import { pino } from "pino";
import { createApp } from "#server/http/app.ts";

/** A client of a server that runs in the test's own process. */
export interface ApiClient {
  readonly origin: string;
  get(path: string): Promise<{ status: number; body: unknown; headers: Headers }>;
  send(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: unknown; headers: Headers }>;
  signIn(email: string): Promise<void>;
  close(): Promise<void>;
}

/** Serves the application on a free port. */
export async function serveApi(knex: Knex, { signInLimit = 1000 }: { signInLimit?: number } = {}): Promise<ApiClient> {
  const server = createServer(createApp({ knex, logger: pino({ level: "silent" }), signInLimit }));
  server.listen(0, "127.0.0.1");
  await once(server, "listening");
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  let cookie = "";
  const send: ApiClient["send"] = async (method, path, body, headers = {}) => {
    const response = await fetch(origin + path, {
      method,
      headers: { cookie, ...(body === undefined ? {} : { "content-type": "application/json" }), ...headers },
      ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const set = response.headers.get("set-cookie");
    if (set) cookie = set.split(";")[0]!;
    const isJson = response.headers.get("content-type")?.includes("json");
    return { status: response.status, body: isJson ? (JSON.parse(text) as unknown) : text, headers: response.headers };
  };
  return {
    origin,
    send,
    get: (path) => send("GET", path),
    signIn: async (email) => {
      const { status } = await send("POST", "/api/session/sample", { email });
      if (status !== 200) throw new Error(`sign-in answered ${status}`);
    },
    close: () =>
      new Promise((resolve) => {
        server.closeAllConnections();
        server.close(() => resolve());
      }),
  };
}

/** People of the sample company. */
export const ANALYST = "maren.holt@quillhaven.example";
export const SKERRY_MANAGER = "tomas.reyl@quillhaven.example";
