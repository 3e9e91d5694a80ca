import { watch } from "node:fs";
import { join } from "node:path";
import { createServer as createVite } from "vite";
import { openHome, PROJECT } from "./home.ts";
import { readPort, refuseTakenPort } from "./port.ts";
import { freePort } from "./postgres/cluster.ts";
import { bringUpData, Running } from "./product.ts";
import { runProgram } from "./progress.ts";
import { lockHome } from "./running.ts";
import { startServer, type ServerProcess } from "./server-process.ts";

const SERVER_SOURCES = ["core", "contract", "server"];
/** Editors write a file in several steps. */
const SETTLE_MS = 200;

/** The product for who works on it: the client follows each change by itself, the server starts again on each. */
runProgram(async () => {
  const port = readPort();
  process.stdout.write("\n  Hackle, for its developers\n\n");
  const home = openHome();
  await refuseTakenPort("127.0.0.1", port);
  const unlock = lockHome(home);
  const running = new Running();
  running.add(unlock);
  try {
    const database = await bringUpData(home, running);
    const serverPort = await freePort();
    const server = restartingServer(() =>
      startServer({
        databaseUrl: database.url,
        port: serverPort,
        webFolder: "",
        filesFolder: join(home, "files"),
        program: "sources",
      }),
    );
    running.add(() => server.stop());
    await server.restart();
    const watchers = SERVER_SOURCES.map((folder) =>
      watch(join(PROJECT, folder), { recursive: true }, (_event, file) => {
        if (file && file.endsWith(".ts") && !file.endsWith(".test.ts")) server.noteChange(`${folder}/${file}`);
      }),
    );
    running.add(() => watchers.forEach((watcher) => watcher.close()));
    const vite = await createVite({
      root: join(PROJECT, "web"),
      configFile: join(PROJECT, "vite.config.ts"),
      logLevel: "warn",
      server: {
        port,
        host: "127.0.0.1",
        strictPort: true,
        proxy: { "/api": { target: `http://127.0.0.1:${serverPort}`, changeOrigin: false } },
      },
    });
    await vite.listen();
    running.add(() => vite.close());
    process.stdout.write(`\n  Ready: http://127.0.0.1:${port}; changes are taken up by themselves.\n\n`);
  } catch (error) {
    await running.stop();
    throw error;
  }
});

/** A server that is started again after changes; one that does not start waits for the next change. */
function restartingServer(start: () => Promise<ServerProcess>) {
  let server: ServerProcess | undefined;
  let timer: NodeJS.Timeout | undefined;
  let work = Promise.resolve();
  const restart = (): Promise<void> =>
    (work = work.then(async () => {
      await server?.stop();
      server = undefined;
      const started = performance.now();
      try {
        server = await start();
        process.stdout.write(`  Server up (${((performance.now() - started) / 1000).toFixed(1)} s)\n`);
      } catch {
        process.stdout.write("  The server did not start; it is tried again after the next change.\n");
      }
    }));
  return {
    restart,
    noteChange: (file: string) => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        process.stdout.write(`  ${file} changed\n`);
        void restart();
      }, SETTLE_MS);
    },
    stop: async () => {
      clearTimeout(timer);
      await work;
      await server?.stop();
    },
  };
}
