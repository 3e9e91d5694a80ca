import { once } from "node:events";
import { writeFile } from "node:fs/promises";
import { createServer, type Server } from "node:http";
import { connect, type AddressInfo, type Socket } from "node:net";
import express from "express";
import { afterEach, expect, it } from "vitest";
import { answerProblem } from "#server/http/base-app.ts";
import { pino } from "pino";
import { Downloads } from "./downloads.ts";

const LARGE = Buffer.alloc(24 * 2 ** 20, "x");
let server: Server;
const sockets: Socket[] = [];
afterEach(async () => {
  for (const socket of sockets.splice(0)) socket.destroy();
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
});

/** Serves downloads of 24 MB, and counts how many are being made. */
async function serve(limits: { makingMs: number; takingMs: number }) {
  const making = { now: 0, most: 0 };
  const downloads = new Downloads(limits);
  const app = express();
  app.get("/file/:person", (req, res) =>
    downloads.send(res, {
      fileName: "large.csv",
      type: "text/csv",
      person: req.params.person,
      write: async (path, signal) => {
        making.most = Math.max(making.most, (making.now += 1));
        try {
          await writeFile(path, LARGE, { signal });
        } finally {
          making.now -= 1;
        }
      },
    }),
  );
  app.use(answerProblem(pino({ level: "silent" })));
  server = createServer(app).listen(0, "127.0.0.1");
  await once(server, "listening");
  const { port } = server.address() as AddressInfo;
  /** Asks and reads nothing of what comes. */
  const askUnread = async (person: string) => {
    const socket = connect(port, "127.0.0.1");
    sockets.push(socket);
    socket.pause();
    await once(socket, "connect");
    socket.write(`GET /file/${person} HTTP/1.1\r\nHost: localhost\r\n\r\n`);
    return socket;
  };
  return { making, askUnread, ask: (person: string) => fetch(`http://127.0.0.1:${port}/file/${person}`) };
}

it("downloads that nobody reads hold up nobody, and are closed in the end", async () => {
  const { making, askUnread, ask } = await serve({ makingMs: 60_000, takingMs: 400 });
  const unread = await Promise.all(Array.from({ length: 9 }, (_, i) => askUnread(`p${i}`)));
  const read = await ask("somebody");
  expect([read.status, (await read.arrayBuffer()).byteLength]).toEqual([200, LARGE.length]);
  expect(making.most).toBeLessThanOrEqual(2);
  await Promise.all(unread.map((socket) => (socket.destroyed ? undefined : (socket.resume(), once(socket, "close")))));
});

it("one person has a few at a time, and more once those are done", async () => {
  const { askUnread, ask } = await serve({ makingMs: 60_000, takingMs: 600 });
  for (let i = 0; i < 3; i += 1) await askUnread("ida");
  await new Promise((resolve) => setTimeout(resolve, 100));
  const refused = await ask("ida");
  expect([refused.status, ((await refused.json()) as { detail: string }).detail]).toEqual([
    429,
    expect.stringContaining("You have 3 downloads in progress."),
  ]);
  expect((await ask("rolf")).status).toBe(200);
  await expect.poll(async () => (await ask("ida")).status, { timeout: 10_000 }).toBe(200);
});

it("one that takes too long to make is given up, and says so", async () => {
  const downloads = new Downloads({ makingMs: 50, takingMs: 1000 });
  const app = express();
  app.get("/", (_req, res) =>
    downloads.send(res, {
      fileName: "never.csv",
      type: "text/csv",
      person: "ida",
      write: (_path, signal) =>
        new Promise((_, reject) => signal.addEventListener("abort", () => reject(signal.reason as Error))),
    }),
  );
  app.use(answerProblem(pino({ level: "silent" })));
  server = createServer(app).listen(0, "127.0.0.1");
  await once(server, "listening");
  const answer = await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
  expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([503, "busy"]);
});
