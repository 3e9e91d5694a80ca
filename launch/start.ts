import { join } from "node:path";
import { openHome } from "./home.ts";
import { readPort, refuseTakenPort } from "./port.ts";
import { offersSample } from "./prepare.ts";
import { bringUpData, Running } from "./product.ts";
import { runProgram, step } from "./progress.ts";
import { lockHome } from "./running.ts";
import { startServer } from "./server-process.ts";
import { superviseServer } from "./supervised-server.ts";
import { buildWeb } from "./web-build.ts";

/** Brings the product up, from a bare machine to an address to open; Ctrl-C stops all of it. */
runProgram(async () => {
  const port = readPort();
  const host = process.env["HOST"] ?? "127.0.0.1";
  process.stdout.write("\n  Hackle\n\n");
  const home = openHome();
  await refuseTakenPort(host, port);
  const unlock = lockHome(home);
  const running = new Running();
  running.add(unlock);
  try {
    const database = await bringUpData(home, running);
    const webFolder = await buildWeb();
    const server = await step("Server", async () => ({
      value: await superviseServer(
        () => startServer({ databaseUrl: database.url, port, webFolder, filesFolder: join(home, "files") }),
        {
          say: (sentence) => void process.stdout.write(`  ${sentence}\n`),
          onGivenUp: () => void running.stop().then(() => process.exit(1)),
        },
      ),
      said: `listening on port ${port}`,
    }));
    running.add(() => server.stop());
    process.stdout.write(
      `\n  Ready: http://${host}:${port}\n  ${offersSample() ? "Look around in the sample company with one click, or start your own." : "Start your own company there."} Ctrl-C stops everything.\n\n`,
    );
  } catch (error) {
    await running.stop();
    throw error;
  }
});
