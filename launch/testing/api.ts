import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { AddressInfo } from "node:net";
import type { Knex } from "knex";
import { pino } from "pino";
import { createApp } from "#server/http/app.ts";
import { readLimits, type Limits } from "#server/intake/limits.ts";

/** A client of a server that runs in the test's own process. */
export interface ApiClient {
  readonly origin: string;
  /** Where uploaded files are kept. */
  readonly files: string;
  /** The cookie of whoever is signed in. */
  cookie(): string;
  get(path: string): Promise<{ status: number; body: unknown; headers: Headers }>;
  send(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: unknown; headers: Headers }>;
  upload(name: string, content: string | Uint8Array<ArrayBuffer>): Promise<{ status: number; body: unknown }>;
  signIn(email: string): Promise<void>;
  close(): Promise<void>;
}

/** Serves the application on a free port. */
export async function serveApi(
  knex: Knex,
  {
    signInLimit = 1000,
    limits = readLimits({}),
    files = mkdtempSync(join(tmpdir(), "hackle-files-")),
  }: { signInLimit?: number; limits?: Limits; files?: string } = {},
): Promise<ApiClient> {
  const application = createApp({
    knex,
    logger: pino({ level: "silent" }),
    databaseUrl: (knex.client as { config: { connection: { connectionString: string } } }).config.connection
      .connectionString,
    store: { folder: files, limits },
    signInLimit,
  });
  const server = createServer(application.app);
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
    files,
    cookie: () => cookie,
    send,
    get: (path) => send("GET", path),
    signIn: async (email) => {
      const { status } = await send("POST", "/api/session/sample", { email });
      if (status !== 200) throw new Error(`sign-in answered ${status}`);
    },
    upload: async (name, content) => {
      const response = await fetch(`${origin}/api/drafts?name=${encodeURIComponent(name)}`, {
        method: "POST",
        headers: { cookie, "content-type": "application/octet-stream" },
        body: content,
      });
      return { status: response.status, body: await response.json() };
    },
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await application.close();
      rmSync(files, { recursive: true, force: true });
    },
  };
}

/** People of the sample company. */
export const ANALYST = "maren.holt@quillhaven.example";
export const SKERRY_MANAGER = "tomas.reyl@quillhaven.example";
