import { createServer, type Server } from "node:http";
import { availableParallelism, tmpdir, totalmem } from "node:os";
import { join } from "node:path";
import { pino } from "pino";
import { connect } from "./db/connect.ts";
import { createApp } from "./http/app.ts";
import { servedHosts } from "./http/guards/origin.ts";
import { readMemoryBudget } from "./facts/memory/memory-budget.ts";
import { readEngineCount } from "./engine/engine-count.ts";
import { readLimits } from "./intake/limits.ts";

/** Where the server listens and what it serves; all of it comes from the environment. */
const port = Number(process.env["PORT"] ?? 4180);
const host = process.env["HOST"] ?? "127.0.0.1";
const databaseUrl = process.env["DATABASE_URL"];
if (!databaseUrl) throw new Error("DATABASE_URL is not set. Start Hackle with npm start, which sets it.");

const logger = pino({ level: process.env["LOG_LEVEL"] ?? "info" });
const knex = connect(databaseUrl);
const webFolder = process.env["HACKLE_WEB"];
const store = { folder: process.env["HACKLE_FILES"] ?? join(tmpdir(), "hackle-files"), limits: readLimits() };
const application = createApp({
  knex,
  logger,
  databaseUrl,
  store,
  hosts: servedHosts(),
  memoryBudget: readMemoryBudget(process.env["HACKLE_MEMORY"], totalmem()),
  engineCount: readEngineCount(process.env["HACKLE_ENGINES"], availableParallelism()),
  isOneClickOpen: process.env["HACKLE_ONE_CLICK"] === "on",
  ...(webFolder ? { webFolder } : {}),
});
const server = createServer(application.app);
server.listen(port, host, () => {
  logger.info({ host, port }, "listening");
  process.send?.("listening");
});
server.on("error", (error) => {
  logger.fatal({ err: error }, "cannot listen");
  process.exitCode = 1;
});

for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => void stop(server));
// The launcher holds the other end: when it dies, however it dies, the server goes too.
process.once("disconnect", () => void stop(server));

async function stop(running: Server): Promise<void> {
  running.closeIdleConnections();
  const closed = new Promise((resolve) => running.close(resolve));
  await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 2000))]);
  await application.close();
  await knex.destroy();
  process.exit(0);
}
