import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/**
 * Installs the npm packages of the lockfile, unless they were installed from it already.
 * @param {string} root the project's folder
 */
export async function ensurePackages(root) {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major === undefined || minor === undefined || major < 20 || (major === 20 && minor < 19)) {
    throw new Error(`Hackle needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
  }
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  const mark = join(root, "node_modules", ".hackle-lock");
  if (existsSync(mark) && readFileSync(mark, "utf8") === lock) return;
  process.stdout.write("  npm packages … installing from the lockfile\n");
  const started = Date.now();
  const result = spawnSync("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"], {
    cwd: root,
    stdio: ["ignore", "ignore", "inherit"],
  });
  if (result.status !== 0)
    throw new Error(
      "npm ci did not succeed; its message is above. Check that the npm registry can be reached and start again.",
    );
  writeFileSync(mark, lock);
  process.stdout.write(`  npm packages … installed in ${((Date.now() - started) / 1000).toFixed(1)} s\n`);
}
