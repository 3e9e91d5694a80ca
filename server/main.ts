import cluster from "node:cluster";
import { pino } from "pino";
import { leadProcesses, readProcessCount } from "./lead-processes.ts";
import { serve } from "./serve.ts";

/** A server process: it serves, or leads several that do. All it needs to know comes from the environment. */
const logger = pino({ level: process.env["LOG_LEVEL"] ?? "info" });
const onListening = () => process.send?.("listening");

// What nobody waits for is no reason to end for everybody else: it is told, so that it is found.
process.on("unhandledRejection", (error) =>
  logger.error({ err: error }, "something went wrong that nobody waited for"),
);

try {
  const processes = readProcessCount(process.env["HACKLE_PROCESSES"]);
  const running =
    processes > 1 && cluster.isPrimary
      ? leadProcesses(processes, { logger, onListening, onGivenUp: () => process.exit(1) })
      : serve({ logger, processes, onListening });
  const stop = () => void running.stop().then(() => process.exit(0));
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, stop);
  // The launcher holds the other end: when it dies, however it dies, the server goes too.
  process.once("disconnect", stop);
} catch (error) {
  // What cannot be read of the environment is named in a sentence; where in the program that was helps nobody.
  logger.fatal(error instanceof Error ? error.message : String(error));
  process.exit(1);
}
