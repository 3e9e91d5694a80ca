import { mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
import { sweepDownloads } from "./downloads.ts";

it("what killed servers left of downloads goes, and nothing else", async () => {
  const folder = mkdtempSync(join(tmpdir(), "hackle-sweep-"));
  const now = Date.now();
  const put = (name: string, hoursAgo: number) => {
    mkdirSync(join(folder, name));
    writeFileSync(join(folder, name, "file"), "x");
    const at = new Date(now - hoursAgo * 3_600_000);
    utimesSync(join(folder, name), at, at);
  };
  put("hackle-download-left", 3);
  put("hackle-download-going-on", 1);
  put("somebody-elses", 300);
  await sweepDownloads(folder, now);
  expect(readdirSync(folder).sort()).toEqual(["hackle-download-going-on", "somebody-elses"]);
  await sweepDownloads(join(folder, "there-is-none"), now);
  rmSync(folder, { recursive: true });
});
