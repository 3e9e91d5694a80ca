import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { randomUUID } from "node:crypto";
import { createServer } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { AddressInfo } from "node:net";
import type { Knex } from "knex";
import { pino } from "pino";
import { healthSchema } from "#contract/health.ts";
import { HEALTH } from "#contract/operations/health.ts";
import { diffRecords, type Records } from "#core/history/records-diff.ts";
import type { Place } from "#core/layout/place.ts";
import type { Pack } from "#contract/pack.ts";
import { recordName, recordsOfPack, type PanelRecord } from "#contract/pack-records.ts";
import { PANEL_SCHEMAS, type PanelDefinition } from "#core/panels/schemas.ts";
import { storePanel } from "#contract/stored-panel.ts";
import { problemSchema } from "#contract/problem.ts";
import { createApp, type AppOptions } from "#server/http/app.ts";
import { readLimits, type Limits } from "#server/intake/limits.ts";

/** Room for all facts of the sample company, for suites that read them from memory. */
export const IN_MEMORY = { memoryBudget: 2 ** 30 } as const;

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
  upload(
    name: string,
    content: string | Uint8Array<ArrayBuffer>,
    to?: string,
  ): Promise<{ status: number; body: unknown }>;
  /** Edits a pack: what `change` makes of its records is sent as a difference. */
  edit(pack: string, change: (records: Records) => Records): Promise<{ status: number; body: unknown }>;
  /** Puts a panel on a page, by the address of its panels; below all others where no place is said. */
  putOn(path: string, panel: PanelDefinition, place?: Place): Promise<{ status: number; body: unknown }>;
  /** Arranges a panel, by its address, as it is now. */
  arrange(path: string, panel: object): Promise<{ status: number; body: unknown }>;
  /** Takes a panel, by its address, off its page as it is now. */
  takeOff(path: string): Promise<{ status: number; body: unknown }>;
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
    ...options
  }: { limits?: Limits; files?: string } & Pick<
    AppOptions,
    "signInLimit" | "startLimit" | "hosts" | "proxies" | "isOneClickOpen" | "memoryBudget" | "engineCount" | "replica"
  > = {},
): Promise<ApiClient> {
  const application = createApp({
    knex,
    logger: pino({ level: "silent" }),
    databaseUrl: (knex.client as { config: { connection: { connectionString: string } } }).config.connection
      .connectionString,
    store: { folder: files, limits },
    signInLimit,
    startLimit: 1000,
    isAnswerChecked: true,
    ...options,
  });
  const server = createServer(application.app);
  // A connection that a slow test left idle is not closed under its next request.
  server.keepAliveTimeout = 300_000;
  server.listen(0, "127.0.0.1");
  await once(server, "listening");
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  // A suite that asks for memory means it: until then answers would come from the database.
  if (options.memoryBudget !== undefined) await inMemory(origin);
  // As a browser keeps them: by name.
  const jar = new Map<string, string>();
  const cookie = () => [...jar].map(([name, value]) => `${name}=${value}`).join("; ");
  const send: ApiClient["send"] = async (method, path, body, headers = {}) => {
    const response = await fetch(origin + path, {
      method,
      headers: { cookie: cookie(), ...(body === undefined ? {} : { "content-type": "application/json" }), ...headers },
      ...(body === undefined ? {} : { body: typeof body === "string" ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    for (const set of response.headers.getSetCookie()) {
      const [, name = "", value = ""] = /^([^=]+)=([^;]*)/.exec(set) ?? [];
      if (value === "") jar.delete(name);
      else jar.set(name, value);
    }
    const isJson = /[/+]json\b/.test(response.headers.get("content-type") ?? "");
    const answer = isJson ? (JSON.parse(text) as unknown) : text;
    if (response.status >= 400 && path !== HEALTH.health.path) problemSchema.parse(answer);
    return { status: response.status, body: answer, headers: response.headers };
  };
  const edit: ApiClient["edit"] = async (pack, change) => {
    const { body } = await send("GET", `/api/packs/${pack}`);
    const before = recordsOfPack(body as Pack);
    const diff = diffRecords(before, change(before));
    return send("POST", `/api/packs/${pack}/edits`, { edit: randomUUID(), diff });
  };
  /** Edits the record of a panel that an address names. */
  const editPanel = (
    path: string,
    key: string | undefined,
    change: (panel: PanelRecord | undefined, own: PanelRecord[]) => unknown,
  ) => {
    const [, pack = "", page = "", panel = ""] =
      /^\/api\/packs\/([^/]+)\/pages\/([^/]+)\/panels\/?([^/?]*)/.exec(path) ?? [];
    const name = recordName({ kind: "panel", pack, page, panel: key ?? panel });
    return edit(pack, (records) => {
      const { [name]: own, ...others } = records;
      const onPage = Object.entries(records).filter(([other]) => other.startsWith(`panel/${pack}/${page}/`));
      const next = change(
        own as PanelRecord | undefined,
        onPage.map(([, record]) => record as PanelRecord),
      );
      return next === undefined ? others : { ...others, [name]: next };
    });
  };
  return {
    origin,
    files,
    cookie,
    send,
    get: (path) => send("GET", path),
    edit,
    putOn: (path, panel, place) =>
      editPanel(path, panel.key, (_, others) => {
        const below = Math.max(0, ...others.map((other) => other.place.y + other.place.h));
        const { w, h } = PANEL_SCHEMAS[panel.kind].size;
        return { definition: storePanel(panel), place: place ?? { x: 0, y: below, w, h } };
      }),
    arrange: (path, panel) =>
      editPanel(path, undefined, (own) => ({
        place: own?.place ?? { x: 0, y: 0, w: 24, h: 40 },
        definition: storePanel(panel as PanelDefinition),
      })),
    takeOff: (path) => editPanel(path, undefined, () => undefined),
    signIn: async (email) => {
      const { status } = await send("POST", "/api/session/sample", { email });
      if (status !== 200) throw new Error(`sign-in answered ${status}`);
    },
    upload: async (name, content, to = "/api/drafts") => {
      const response = await fetch(`${origin}${to}?name=${encodeURIComponent(name)}`, {
        method: "POST",
        headers: { cookie: cookie(), "content-type": "application/octet-stream" },
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

/** Waits until a server keeps all facts in memory. */
export async function inMemory(origin: string): Promise<void> {
  for (let attempt = 0; ; attempt += 1) {
    const { memory } = healthSchema.parse(await (await fetch(`${origin}/api/health`)).json());
    if (memory.is === "ready") return;
    if (attempt > 600) throw new Error(`the facts did not come into memory: ${JSON.stringify(memory)}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
