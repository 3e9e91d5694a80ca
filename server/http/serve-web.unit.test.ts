import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express from "express";
import { pino } from "pino";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { answerProblem } from "./base-app.ts";
import { serveWeb } from "./serve-web.ts";

const folder = mkdtempSync(join(tmpdir(), "hackle-web-"));
let server: Server;
let origin = "";
beforeAll(async () => {
  writeFileSync(join(folder, "index.html"), "<!doctype html><title>Hackle</title>");
  const app = express();
  serveWeb(app, folder);
  app.use(answerProblem(pino({ level: "silent" })));
  server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve));
  rmSync(folder, { recursive: true });
});
const linksOf = async (path: string) => {
  const { status, headers } = await fetch(origin + path);
  return { status, links: headers.get("link") ?? "" };
};

describe("the document of a view", () => {
  it("is served without word of its code where the build wrote none", async () => {
    const { status, links } = await linksOf("/packs/monthly-review/cover");
    expect(status).toBe(200);
    expect(links).toContain("</api/packs/monthly-review/pages/cover/answers>; rel=preload; as=fetch; crossorigin");
  });

  it("names the view's code and the answers in the address's frame, in a header that proxies take", async () => {
    writeFileSync(
      join(folder, "pieces.json"),
      JSON.stringify({
        pieces: { entry: ["assets/a.js"], "packs/pack-page.tsx": ["assets/a.js", "assets/b.js"] },
        fonts: [],
      }),
    );
    const app = express();
    serveWeb(app, folder);
    const other = createServer(app);
    await new Promise<void>((resolve) => other.listen(0, "127.0.0.1", resolve));
    const at = `http://127.0.0.1:${(other.address() as AddressInfo).port}/packs/p/q`;
    const linked = async (search: string) => (await fetch(at + search)).headers.get("link") ?? "";
    expect(await linked("?span=month&scope=route%3Aa")).toContain("/answers?span=month&scope=route%3Aa>");
    // What is picked or chosen reaches some panels and not others: only the page knows which.
    expect(await linked("?narrow=route%3Aa")).not.toContain("/answers");
    const long = await linked(`?scope=route:${"a".repeat(3000)}`);
    expect(long.length).toBeLessThanOrEqual(2000);
    expect(long).toContain("</assets/b.js>; rel=modulepreload");
    expect(long.match(/a\.js/g)).toHaveLength(1);
    await new Promise((resolve) => other.close(resolve));
  });

  it("is no fault of the server where an address cannot be read", async () => {
    expect((await linksOf("/packs/%E0%A4%A/cover")).status).toBeLessThan(500);
    expect(await linksOf("/nowhere")).toEqual({ status: 200, links: "" });
  });
});
