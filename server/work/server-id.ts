import { randomBytes } from "node:crypto";
import { hostname } from "node:os";

/** A name for a server, or one of several in a process, by which others tell what it has claimed. */
export function newServerId(): string {
  return `${hostname()}:${process.pid}:${randomBytes(4).toString("hex")}`;
}

/** Whether a server of that name is known to be gone; of servers on other machines nothing is known. */
export function isGone(serverId: string): boolean {
  const [host, pid] = serverId.split(":");
  if (host !== hostname()) return false;
  try {
    process.kill(Number(pid), 0);
    return false;
  } catch {
    return true;
  }
}
