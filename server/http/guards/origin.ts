import { isIP } from "node:net";
import type { Request, RequestHandler } from "express";
import { ProblemError } from "#server/problems/problem-error.ts";

const LOOPBACK = new Set(["localhost", "127.0.0.1", "::1"]);
const CHANGING = new Set(["POST", "PUT", "PATCH", "DELETE"]);

/**
 * The host names the server answers for: loopback, the address it listens on, and those of HACKLE_HOSTS
 * (separated by commas, without port).
 */
export function servedHosts(env: NodeJS.ProcessEnv = process.env): ReadonlySet<string> {
  const listens = env["HOST"] ?? "";
  const isEvery = listens === "" || listens === "0.0.0.0" || listens === "::";
  const named = (env["HACKLE_HOSTS"] ?? "").split(",").map((name) => name.trim().toLowerCase());
  return new Set([...LOOPBACK, ...(isEvery ? [] : [listens.toLowerCase()]), ...named].filter((name) => name !== ""));
}

/** Answers only for hosts it was told to serve: another site that points its own name here reads nothing. */
export function refuseOtherHosts(hosts: ReadonlySet<string>): RequestHandler {
  return (req, _res, next) => {
    const host = hostName(req.get("host"));
    if (host === undefined || !hosts.has(host))
      throw new ProblemError(
        "not-allowed",
        `This server does not answer for the host "${host ?? ""}". If it is to, start it with HACKLE_HOSTS=${host ?? "its-name"}.`,
      );
    next();
  };
}

/**
 * Takes changes only from the product's own pages. A browser names the page a request comes from; programs that are no
 * browser name none, and bring no cookie of somebody else either.
 */
export function refuseOtherOrigins(hosts: ReadonlySet<string>): RequestHandler {
  return (req, _res, next) => {
    if (CHANGING.has(req.method) && !isOwn(req, hosts))
      throw new ProblemError(
        "not-allowed",
        `A change was asked for by another site (${req.get("origin") ?? "not named"}). Changes are taken from Hackle's own pages only; nothing was changed.`,
      );
    next();
  };
}

function isOwn(req: Request, hosts: ReadonlySet<string>): boolean {
  const origin = req.get("origin");
  if (origin !== undefined) {
    const authority = /^https?:\/\/([^/]+)$/.exec(origin)?.[1];
    if (authority === undefined) return false;
    // Behind a proxy the host may have another port than the page; a name told to serve is the product's own.
    const name = hostName(authority);
    return authority === req.get("host") || (name !== undefined && !LOOPBACK.has(name) && hosts.has(name));
  }
  const site = req.get("sec-fetch-site");
  return site === undefined || site === "same-origin" || site === "none";
}

/** What a proxy adds to a request that it passes on. */
const PASSED_ON = ["forwarded", "via", "x-forwarded-for", "x-forwarded-host", "x-forwarded-proto", "x-real-ip"];

/**
 * Whether a request was made on this machine and by the machine's own name, with no proxy between. A proxy on the same
 * machine may look just like that: where the server is told of one, or of further names that it answers for, nobody counts
 * as near.
 */
export function nearness({ hosts, proxies }: { hosts: ReadonlySet<string>; proxies: readonly string[] }) {
  const isShared = proxies.length > 0 || [...hosts].some((name) => !LOOPBACK.has(name) && isIP(name) === 0);
  return (req: Request): boolean => {
    if (isShared) return false;
    const address = (req.socket.remoteAddress ?? "").replace(/^::ffff:/, "");
    const isHere = address === "::1" || (isIP(address) === 4 && address.startsWith("127."));
    return (
      isHere && LOOPBACK.has(hostName(req.get("host")) ?? "") && PASSED_ON.every((name) => req.get(name) === undefined)
    );
  };
}

/**
 * The proxies whose word is taken for where a request comes from: `HACKLE_PROXIES`, addresses or networks separated by
 * commas, such as "127.0.0.1, 10.0.0.0/8".
 */
export function readProxies(env: NodeJS.ProcessEnv = process.env): string[] {
  return (env["HACKLE_PROXIES"] ?? "")
    .split(",")
    .map((name) => name.trim())
    .filter((name) => name !== "");
}

/** The name in a Host header, without port and brackets. */
function hostName(authority: string | undefined): string | undefined {
  return /^\[([^\]]+)\](?::\d+)?$|^([^:]+)(?::\d+)?$/
    .exec(authority ?? "")
    ?.slice(1)
    .find(Boolean)
    ?.toLowerCase();
}
