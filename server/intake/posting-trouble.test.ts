import { lock } from "#server/db/locks.ts";
import { connect as openSocket } from "node:net";
import { Readable } from "node:stream";
import { tmpdir } from "node:os";
import { existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import type { Draft, Job } from "#contract/intake.ts";
import { hasEnded } from "#core/checks/job-state.ts";
import type { LoadList } from "#contract/loads.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { storeFile } from "#server/intake/file-store.ts";
import { readLimits } from "#server/intake/limits.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

let database: OwnDatabase;
const servers: ApiClient[] = [];
const clients: IntakeClient[] = [];
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "trouble");
  const files = mkdtempSync(join(tmpdir(), "hackle-shared-"));
  for (let i = 0; i < 2; i += 1) {
    const server = await serveApi(database.knex, { files });
    await server.signIn(ANALYST);
    servers.push(server);
    clients.push(intakeClient(server));
  }
});
afterAll(async () => {
  for (const server of servers) await server.close();
  await database.drop();
});

const [LINES, COST] = [400, 12.5];
const file = (month: string, mark: string) =>
  [
    "Period,Account,Route,Amount,Document",
    ...Array.from({ length: LINES }, (_, i) => `${month},Repairs,Tarn Point–Osk,-${COST},${mark}${i}`),
  ].join("\n");
const factCount = async () => Number((await database.knex("fact").count("* as n").first())?.["n"]);

async function ready(client: IntakeClient, month: string, mark: string): Promise<Draft> {
  const draft = await client.upload(`${mark}.csv`, file(month, mark));
  expect(draft.report?.mayPost, JSON.stringify(draft.report?.findings)).toBe(true);
  return draft;
}

describe("two people who post at once", () => {
  it("wait for each other: the second comes in after the first has ended", async () => {
    const draft = await ready(clients[0]!, "2026-11", "first");
    const before = await factCount();
    const other = await database.knex.transaction();
    await lock(other, "dataset", { of: "management-accounts" });
    const posting = clients[0]!.post(draft);
    const gathered = async () => {
      const { rows } = await database.knex.raw<{ rows: { n: string }[] }>(
        "select count(*) as n from pg_locks where locktype = 'advisory' and not granted",
      );
      return Number(rows[0]!.n);
    };
    await expect.poll(gathered, { timeout: 20_000 }).toBe(1);
    expect(await factCount()).toBe(before);
    await other.rollback();
    expect((await posting).state).toBe("done");
    expect(await factCount()).toBe(before + LINES);
    const { rows: left } = await database.knex.raw<{ rows: unknown[] }>(
      "select 1 from pg_class where relname like 'fact\\_staged%'",
    );
    expect(left).toEqual([]);
  });

  it("on two servers, with files for the same month, never both get in unasked", async () => {
    const drafts = [await ready(clients[0]!, "2026-12", "left"), await ready(clients[1]!, "2026-12", "right")] as const;
    const before = await factCount();
    const jobs = await Promise.all(drafts.map((draft, i) => clients[i]!.post(draft)));
    expect(jobs.map((job) => job.state).sort()).toEqual(["done", "failed"]);
    expect(jobs.find((job) => job.state === "failed")?.message).toMatch(
      /is being posted to this dataset|was posted for the same months meanwhile/,
    );
    expect(await factCount()).toBe(before + LINES);
    const { loads } = await clients[0]!.get<LoadList>("/api/loads");
    expect(loads.filter((l) => l.fileName === "left.csv" || l.fileName === "right.csv")).toHaveLength(1);
  });
});

describe("a full disk", () => {
  it("under the database in the middle of a posting leaves nothing of it, says so, and lets it be posted later", async () => {
    const draft = await ready(clients[0]!, "2027-01", "full");
    const before = await factCount();
    // What PostgreSQL raises when a file cannot grow, after some of the rows are in.
    await database.knex.raw(`
      create function no_room() returns trigger language plpgsql as $$
      begin
        if new.line > ${LINES / 2} then
          raise exception 'could not extend file: No space left on device' using errcode = '53100';
        end if;
        return new;
      end $$;
      create trigger no_room before insert on fact for each row execute function no_room();
    `);
    const failed = await clients[0]!.post(draft);
    expect(failed).toMatchObject({ state: "failed", loadId: null });
    expect(failed.message).toBe(
      "There is no room left on the database's disk. Nothing was posted; free some room and post again.",
    );
    expect(await factCount()).toBe(before);
    expect((await clients[0]!.get<LoadList>("/api/loads")).broken[0]).toMatchObject({
      fileName: "full.csv",
      draftId: draft.id,
    });
    await database.knex.raw("drop trigger no_room on fact; drop function no_room()");
    expect((await clients[0]!.post(draft)).state).toBe("done");
    expect(await factCount()).toBe(before + LINES);
  });

  it("under the uploaded files names the file and leaves no part of it", async () => {
    const folder = mkdtempSync(join(tmpdir(), "hackle-full-"));
    // As the write of the second block would fail.
    const full = Object.assign(new Error("ENOSPC: no space left on device, write"), { code: "ENOSPC" });
    let blocks = 0;
    const stream = new Readable({
      read() {
        blocks += 1;
        if (blocks === 1) this.push("Period,Account\n");
        else this.destroy(full);
      },
    });
    const refused = storeFile(
      database.knex,
      { folder, limits: readLimits({}) },
      { stream, name: "november.csv", person: "Maren Holt" },
    );
    await expect(refused).rejects.toThrow("There is no room left on the server's disk for november.csv.");
    await expect(refused).rejects.toBeInstanceOf(ProblemError);
    expect(readdirSync(folder)).toEqual([]);
    rmSync(folder, { recursive: true });
  });
});

describe("a connection that breaks off in the middle of an upload", () => {
  it("leaves no draft, no file and a server that goes on", async () => {
    const [server, client] = [servers[0]!, clients[0]!];
    const drafts = async () => (await client.get<unknown[]>("/api/drafts")).length;
    const before = await drafts();
    const kept = existsSync(server.files) ? readdirSync(server.files).sort() : [];
    const { hostname, port } = new URL(server.origin);
    const socket = openSocket(Number(port), hostname);
    await new Promise<void>((resolve) => socket.once("connect", resolve));
    socket.write(
      `POST /api/drafts?name=cut.csv HTTP/1.1\r\nHost: ${hostname}\r\nCookie: ${server.cookie()}\r\n` +
        `Content-Type: application/octet-stream\r\nContent-Length: 5000000\r\n\r\nPeriod,Account,Amount\n2027-02,Repairs,1\n`,
    );
    await expect.poll(() => readdirSync(server.files).some((name) => name.startsWith("upload-"))).toBe(true);
    socket.destroy();
    await expect.poll(() => readdirSync(server.files).sort()).toEqual(kept);
    expect(await drafts()).toBe(before);
    expect((await server.get("/api/loads")).status).toBe(200);
  });
});

describe("a posting that is asked for twice", () => {
  it("is done once", async () => {
    const draft = await ready(clients[0]!, "2027-02", "twice");
    const before = await factCount();
    const ask = () => servers[0]!.send("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
    const answers = await Promise.all([ask(), ask()]);
    const ids = new Set(answers.filter((a) => a.status === 200).map((a) => (a.body as Job).id));
    await Promise.all(
      [...ids].map((id) =>
        expect
          .poll(async () => hasEnded(await clients[0]!.get<Job>(`/api/jobs/${id}`)), { timeout: 60_000 })
          .toBe(true),
      ),
    );
    expect(await factCount()).toBe(before + LINES);
  });
});
