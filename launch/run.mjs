// Runs one of the launch programs (start, test, reset …) on a machine that may have nothing but
// Node.js: installs the npm packages when they are missing or out of date, then hands over.
import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import { ensurePackages } from "./packages.mjs";

const root = fileURLToPath(new URL("..", import.meta.url));
const program = process.argv[2] ?? "start";

try {
  await ensurePackages(root);
} catch (error) {
  console.error(`\n  ${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
}

const child = spawn(process.execPath, ["--import", "tsx", `launch/${program}.ts`, ...process.argv.slice(3)], {
  cwd: root,
  stdio: "inherit",
});
// Ctrl-C reaches the child by itself; this process only waits for it to finish its work.
process.on("SIGINT", () => {});
process.on("SIGTERM", () => child.kill("SIGTERM"));
process.on("SIGHUP", () => child.kill("SIGTERM"));
child.on("exit", (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
