import { createServer, type Server } from "node:http";
import { availableParallelism, tmpdir, totalmem } from "node:os";
import { join } from "node:path";
import type { Logger } from "pino";
import { connect } from "./db/connect.ts";
import { readEngineCount, readWorkerCount } from "./engine/engine-count.ts";
import { readReadyMonths } from "./engine/make-ready.ts";
import { createApp } from "./http/app.ts";
import { readProxies, servedHosts } from "./http/guards/origin.ts";
import { readMemoryBudget } from "./facts/memory/memory-budget.ts";
import { readLimits } from "./intake/limits.ts";

/** An idle connection is kept so long. */
const KEEP_ALIVE_MS = 65_000;
/** Requests under way are given so long when the server stops. */
const STOP_MS = 2000;

/** Serves by what the environment says, as one of several processes on this machine. Returns how to stop. */
export function serve({
  logger,
  processes,
  onListening,
}: {
  logger: Logger;
  processes: number;
  onListening: () => void;
}): { stop(): Promise<void> } {
  const port = Number(process.env["PORT"] ?? 4180);
  const host = process.env["HOST"] ?? "127.0.0.1";
  const databaseUrl = process.env["DATABASE_URL"];
  if (!databaseUrl) throw new Error("DATABASE_URL is not set. Start Hackle with npm start, which sets it.");
  const knex = connect(databaseUrl, { poolSize: 10, patience: "requests" });
  const readUrl = process.env["DATABASE_READ_URL"];
  const replica = readUrl ? connect(readUrl, { patience: "requests" }) : null;
  const webFolder = process.env["HACKLE_WEB"];
  const application = createApp({
    knex,
    replica,
    logger,
    databaseUrl,
    store: { folder: process.env["HACKLE_FILES"] ?? join(tmpdir(), "hackle-files"), limits: readLimits() },
    hosts: servedHosts(),
    proxies: readProxies(),
    // Each process keeps facts of its own: together they keep within what they may.
    memoryBudget: readMemoryBudget(process.env["HACKLE_MEMORY"], totalmem()) / processes,
    workerCount: readWorkerCount(process.env["HACKLE_WORKERS"]),
    engineCount: readEngineCount(process.env["HACKLE_ENGINES"], Math.ceil(availableParallelism() / processes)),
    readyMonths: readReadyMonths(process.env["HACKLE_READY_MONTHS"]),
    hasSample: process.env["HACKLE_SAMPLE"] !== "off",
    isOneClickOpen: process.env["HACKLE_ONE_CLICK"] === "on",
    ...(webFolder ? { webFolder } : {}),
  });
  const server = createServer(application.app);
  // Balancers keep connections for a minute: one that is closed here first is closed just when it is used again.
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.listen(port, host, () => {
    logger.info({ host, port }, "listening");
    onListening();
  });
  server.on("error", (error) => {
    logger.fatal({ err: error }, "cannot listen");
    process.exitCode = 1;
  });
  return {
    stop: async () => {
      await close(server);
      await application.close();
      await Promise.all([knex.destroy(), replica?.destroy()]);
    },
  };
}

async function close(server: Server): Promise<void> {
  server.closeIdleConnections();
  const closed = new Promise((resolve) => server.close(resolve));
  await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, STOP_MS))]);
}
