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

const CHROMIUM = process.env["CHROMIUM"] ?? "/usr/bin/chromium";

/**
 * Unit, page and database tests, browser tests, and the source itself, all at once since each waits for much: all must
 * pass, and the last line counts them. With `browser` only the browser tests run; further arguments go to them.
 */
runProgram(async () => {
  process.stdout.write("\n  Hackle: tests\n\n");
  const home = openHome();
  const [only, ...filters] = process.argv.slice(2);
  await step("Chromium", () => ({ value: undefined, said: ensureChromium() }));
  const isAll = only === undefined;
  const counts = await Promise.all([
    runBrowserTests(home, filters, isAll),
    ...(isAll ? [runVitest(home), checkSource()] : []),
  ]);
  const passed = counts.reduce((sum, count) => sum + count.passed, 0);
  const failed = counts.reduce((sum, count) => sum + count.failed, 0);
  const atSecondTry = counts.reduce((sum, count) => sum + (count.atSecondTry ?? 0), 0);
  process.stdout.write(
    `\n${passed} passed${atSecondTry > 0 ? ` (${atSecondTry} at the second try: to be looked into)` : ""}, ${failed} failed\n`,
  );
  if (failed > 0) process.exitCode = 1;
});

interface Counted {
  readonly passed: number;
  readonly failed: number;
  /** Of those passed: the browser tests that failed first. */
  readonly atSecondTry?: number;
}

/** Everything that needs no browser, on a cluster of its own. */
async function runVitest(home: string): Promise<Counted> {
  const report = join(home, "unit.json");
  rmSync(report, { force: true });
  const isOk = await runVisibly("npx", [
    "vitest",
    "run",
    "--project=!sweep",
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${report}`,
  ]);
  const found = readReport<{ numPassedTests: number; numFailedTests: number }>(report);
  return counted(isOk, found && { passed: found.numPassedTests, failed: found.numFailedTests });
}

/**
 * The browser tests, on a cluster of their own, which one of them stops and starts. What they say is held back while
 * other tests speak, so that neither breaks into the other.
 */
async function runBrowserTests(home: string, filters: readonly string[], isHeldBack: boolean): Promise<Counted> {
  const report = join(home, "e2e.json");
  rmSync(report, { force: true });
  const cluster = await step("Test database", async () => {
    const opened = await openTestCluster();
    return { value: opened, said: `${opened.said}, sample company loaded` };
  });
  try {
    const webFolder = await buildWeb();
    const port = await freePort();
    const server = await startServer({
      databaseUrl: await copySample(cluster.url, "e2e"),
      port,
      webFolder,
      filesFolder: join(home, "files"),
      quiet: true,
      logLevel: "fatal",
      // What tests ask is made when they ask it: making months of reviews ready would take the processors from them.
      environment: { HACKLE_READY_MONTHS: "0" },
    });
    const env = {
      HACKLE_ORIGIN: `http://127.0.0.1:${port}`,
      HACKLE_E2E_REPORT: report,
      HACKLE_TEST_HOME: cluster.home,
    };
    const isOk = await runVisibly("npx", ["playwright", "test", ...filters], { env, isHeldBack });
    await server.stop();
    const found = readReport<{ stats: { expected: number; unexpected: number; flaky: number } }>(report);
    return counted(
      isOk,
      found && {
        passed: found.stats.expected + found.stats.flaky,
        failed: found.stats.unexpected,
        atSecondTry: found.stats.flaky,
      },
    );
  } finally {
    cluster.stop();
  }
}

/** A run that ended badly has failed, also where its report does not say so or is missing. */
function counted(isOk: boolean, report: Counted | undefined): Counted {
  if (!report) return { passed: 0, failed: 1 };
  return isOk || report.failed > 0 ? report : { ...report, failed: 1 };
}

/** Formatting, types and lint, one after the other; each that finds something counts as failed, and says what. */
async function checkSource(): Promise<Counted> {
  let failed = 0;
  const check = (name: string, said: string, ...command: string[]) =>
    step(name, () => run("npx", command).then(() => ({ value: undefined, said }))).catch((error: unknown) => {
      failed += 1;
      process.stdout.write(`\n${error instanceof LaunchError ? error.message : String(error)}\n`);
    });
  await check("Formatting", "as agreed", "oxfmt", "--check", ".");
  await check("Types of core", "sound without DOM and Node.js", "tsc", "-p", "core");
  await check("Types and lint", "clean, and no circles", "oxlint", "-c", "oxlint.config.mjs");
  return { passed: 0, failed };
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

/** Runs a command whose output is for the reader: as it comes, or all of it once the command has ended. */
function runVisibly(
  command: string,
  args: readonly string[],
  { env = {}, isHeldBack = false }: { env?: Record<string, string>; isHeldBack?: boolean } = {},
): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd: PROJECT,
      stdio: ["ignore", isHeldBack ? "pipe" : "inherit", isHeldBack ? "pipe" : "inherit"],
      env: { ...process.env, ...env },
    });
    const held: Buffer[] = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on("data", (chunk: Buffer) => held.push(chunk));
    child.on("error", reject);
    child.on("exit", (code) => {
      process.stdout.write(Buffer.concat(held));
      resolve(code === 0);
    });
  });
}

function readReport<T>(file: string): T | undefined {
  return existsSync(file) ? (JSON.parse(readFileSync(file, "utf8")) as T) : undefined;
}
