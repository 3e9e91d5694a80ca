import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, writeFileSync } from "node:fs";
import { delimiter, join } from "node:path";
import { LaunchError } from "../progress.ts";

const DEBIAN_FOLDER = "/usr/lib/postgresql";

/** The folder of initdb, pg_ctl and postgres; of the given major version where one is asked for. */
export function findBinaries(major?: string): string | undefined {
  const versions = existsSync(DEBIAN_FOLDER) ? readdirSync(DEBIAN_FOLDER).sort((a, b) => Number(b) - Number(a)) : [];
  const debian = versions.filter((v) => major === undefined || v === major).map((v) => join(DEBIAN_FOLDER, v, "bin"));
  const onPath = (process.env["PATH"] ?? "").split(delimiter);
  return [...debian, ...onPath].find((folder) => {
    if (!["initdb", "pg_ctl", "postgres"].every((name) => existsSync(join(folder, name)))) return false;
    return major === undefined || majorOf(folder) === major;
  });
}

/** The major version of the PostgreSQL in a folder. */
export function majorOf(folder: string): string | undefined {
  const result = spawnSync(join(folder, "postgres"), ["--version"], { encoding: "utf8" });
  return /(\d+)(\.\d+)?/.exec(result.stdout ?? "")?.[1];
}

/** Finds PostgreSQL, or installs Debian's package when we are root; otherwise says the exact command. */
export function requireBinaries(): { folder: string; installed: boolean } {
  const found = findBinaries();
  if (found) return { folder: found, installed: false };
  if (!existsSync("/usr/bin/apt-get")) {
    throw new LaunchError(
      "PostgreSQL is not installed and this is not Debian. Install PostgreSQL 13 or newer, or point DATABASE_URL at one.",
    );
  }
  if (process.getuid?.() !== 0) {
    throw new LaunchError(
      "PostgreSQL is not installed. Install it with:\n\n    sudo apt-get update && sudo apt-get install -y --no-install-recommends postgresql\n\n  or point DATABASE_URL at one.",
    );
  }
  // Debian would start a cluster of its own; Hackle brings its own.
  if (!existsSync("/etc/postgresql-common/createcluster.conf")) {
    mkdirSync("/etc/postgresql-common", { recursive: true });
    writeFileSync("/etc/postgresql-common/createcluster.conf", "create_main_cluster = false\n");
  }
  installDebianPackages(["postgresql"]);
  const folder = findBinaries();
  if (!folder)
    throw new LaunchError(`Debian's package postgresql was installed, but no initdb is below ${DEBIAN_FOLDER}.`);
  return { folder, installed: true };
}

/** Installs Debian packages as root. Throws with apt's own last words when that fails. */
export function installDebianPackages(packages: readonly string[]): void {
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  const commands = [
    ["update", "-qq"],
    ["install", "-y", "-qq", "--no-install-recommends", "-o", "Dpkg::Options::=--force-confold", ...packages],
  ];
  for (const args of commands) {
    const result = spawnSync("apt-get", args, { env, encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] });
    if (result.status !== 0) {
      throw new LaunchError(
        `apt-get ${args.join(" ")} failed:\n${(result.stderr || result.stdout || "").trim().split("\n").slice(-4).join("\n")}`,
      );
    }
  }
}
