import { existsSync } from "node:fs";
import { join } from "node:path";
import express, { type Express } from "express";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Serves the built web client: its files by their names, its page for every address of it. */
export function serveWeb(app: Express, folder: string): void {
  app.use("/assets", express.static(join(folder, "assets"), { immutable: true, maxAge: "1y", fallthrough: true }));
  app.use(express.static(folder, { index: false }));
  app.get(/^(?!\/assets\/).*/, (_req, res) => {
    const index = join(folder, "index.html");
    if (!existsSync(index))
      throw new ProblemError("not-found", "The web client is not built. Start Hackle with npm start.");
    res.setHeader("Cache-Control", "no-cache");
    res.sendFile(index);
  });
}
