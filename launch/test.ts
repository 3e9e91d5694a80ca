import { spawn } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { openHome, PROJECT } from "./home.ts";
import { installDebianPackages } from "./postgres/binaries.ts";
import { freePort } from "./postgres/cluster.ts";
import { LaunchError, runProgram, step } from "./progress.ts";
import { startServer } from "./server-process.ts";
import { copySample, openTestCluster } from "#testing/sample-database.ts";
import { buildWeb } from "./web-build.ts";

const SOURCES = ["core", "contract", "server", "web", "launch", "demo", "testing", "e2e", "bench"];
const CHROMIUM = process.env["CHROMIUM"] ?? "/usr/bin/chromium";

/**
 * Types, lint, formatting, unit and database tests, browser tests: each must pass, and the last line counts them.
 * With `browser` only the browser tests run; further arguments go to them.
 */
runProgram(async () => {
  process.stdout.write("\n  Hackle: tests\n\n");
  const home = openHome();
  const [only, ...filters] = process.argv.slice(2);
  if (only === undefined) await checkSource();
  await step("Chromium", () => ({ value: undefined, said: ensureChromium() }));
  const cluster = await step("Test database", async () => {
    const opened = await openTestCluster();
    return { value: opened, said: `${opened.said}, sample company loaded` };
  });
  // Vitest's setup uses it too; it is ours to stop.
  process.env["HACKLE_TEST_CLUSTER"] = cluster.url;
  let passed = 0;
  let failed = 0;
  try {
    const unitReport = join(home, "unit.json");
    const browserReport = join(home, "e2e.json");
    for (const file of [unitReport, browserReport]) rmSync(file, { force: true });
    if (only === undefined) {
      const unitOk = await runVisibly("npx", [
        "vitest",
        "run",
        "--project=!sweep",
        "--reporter=default",
        "--reporter=json",
        `--outputFile.json=${unitReport}`,
      ]);
      const unit = readReport<{ numPassedTests: number; numFailedTests: number; numFailedTestSuites: number }>(
        unitReport,
      );
      passed += unit?.numPassedTests ?? 0;
      failed += unit ? unit.numFailedTests : 1;
      if (!unitOk && failed === 0) failed += 1;
    }

    const webFolder = await buildWeb();
    const port = await freePort();
    const server = await startServer({
      databaseUrl: await copySample(cluster.url, "e2e"),
      port,
      webFolder,
      filesFolder: join(home, "files"),
      quiet: true,
      logLevel: "fatal",
    });
    const browserOk = await runVisibly("npx", ["playwright", "test", ...filters], {
      HACKLE_ORIGIN: `http://127.0.0.1:${port}`,
      HACKLE_E2E_REPORT: browserReport,
      HACKLE_TEST_HOME: cluster.home,
    });
    await server.stop();
    const browser = readReport<{ stats: { expected: number; unexpected: number; flaky: number } }>(browserReport);
    passed += browser?.stats.expected ?? 0;
    failed += browser ? browser.stats.unexpected + browser.stats.flaky : 1;
    if (!browserOk && failed === 0) failed += 1;
  } finally {
    cluster.stop();
  }
  process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
  if (failed > 0) process.exitCode = 1;
});

/** Checks the source on both cores: the linter takes as long as all the others. */
async function checkSource(): Promise<void> {
  await Promise.all([
    step("Types", () =>
      run("npx", ["tsc", "-p", "core"])
        .then(() => run("npx", ["tsc", "-p", "."]))
        .then(() => run("npx", ["depcruise", "--config", ".dependency-cruiser.js", ...SOURCES]))
        .then(() => run("npx", ["prettier", "--check", "--log-level", "warn", "."]))
        .then(() => ({ value: undefined, said: "sound; no circles; formatted as agreed" })),
    ),
    step("Lint", () => run("npx", ["eslint", "."]).then(() => ({ value: undefined, said: "clean" }))),
  ]);
}

function ensureChromium(): string {
  if (existsSync(CHROMIUM)) return `found at ${CHROMIUM}`;
  if (process.getuid?.() !== 0 || !existsSync("/usr/bin/apt-get")) {
    throw new LaunchError(
      `The browser tests need Chromium at ${CHROMIUM}. Install it with:\n\n    sudo apt-get update && sudo apt-get install -y --no-install-recommends chromium\n\n  or name another one: CHROMIUM=/path/to/chromium npm test`,
    );
  }
  installDebianPackages(["chromium"]);
  return "Debian's package installed";
}

/** Runs a check; its output is shown only when it fails. */
function run(command: string, args: readonly string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: PROJECT, stdio: ["ignore", "pipe", "pipe"] });
    let output = "";
    for (const stream of [child.stdout, child.stderr])
      stream.on("data", (chunk: Buffer) => (output += chunk.toString()));
    child.on("error", reject);
    child.on("exit", (code) =>
      code === 0 ? resolve() : reject(new LaunchError(`${[command, ...args].join(" ")} found something:\n\n${output}`)),
    );
  });
}

function runVisibly(command: string, args: readonly string[], env: Record<string, string> = {}): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: PROJECT,
      stdio: ["ignore", "inherit", "inherit"],
      env: { ...process.env, ...env },
    });
    child.on("error", reject);
    child.on("exit", (code) => resolve(code === 0));
  });
}

function readReport<T>(file: string): T | undefined {
  return existsSync(file) ? (JSON.parse(readFileSync(file, "utf8")) as T) : undefined;
}
