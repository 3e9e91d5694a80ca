import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";

/** Whom PostgreSQL runs as. `undefined` ids mean: as ourselves, who are not root. */
export interface ServerUser {
  readonly name: string;
  readonly uid?: number;
  readonly gid?: number;
}

/** PostgreSQL refuses to run as root: then Debian's "postgres", or "nobody" where that is missing. */
export function serverUser(): ServerUser {
  if (process.getuid?.() !== 0) return { name: process.env["USER"] ?? "you" };
  const users = readFileSync("/etc/passwd", "utf8")
    .split("\n")
    .map((line) => line.split(":"));
  const user = users.find(([name]) => name === "postgres") ?? users.find(([name]) => name === "nobody");
  return { name: user?.[0] ?? "nobody", uid: Number(user?.[2] ?? 65534), gid: Number(user?.[3] ?? 65534) };
}

/** Whether the user can reach a folder, all folders above it included. */
export function canReach(user: ServerUser, folder: string): boolean {
  return (
    spawnSync("/bin/sh", ["-c", 'cd -- "$1"', "sh", folder], { cwd: "/", stdio: "ignore", ...idsOf(user) }).status === 0
  );
}

/** The part of spawn options that makes a child run as the user. */
export function idsOf({ uid, gid }: ServerUser): { uid?: number; gid?: number } {
  return uid === undefined || gid === undefined ? {} : { uid, gid };
}
