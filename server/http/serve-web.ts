import { existsSync } from "node:fs";
import { join } from "node:path";
import express, { type Express, type Response } from "express";
import expressStaticGzip from "express-static-gzip";
import { VIEWS } from "#contract/views.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readPieces, viewLinks } from "./view-links.ts";

/**
 * Serves the built web client: its files by their names, as they were packed when it was built, and its page for every
 * address of it, with word of what a browser will need there.
 */
export function serveWeb(app: Express, folder: string): void {
  app.use(
    "/assets",
    expressStaticGzip(join(folder, "assets"), {
      enableBrotli: true,
      orderPreference: ["br"],
      serveStatic: { immutable: true, maxAge: "1y" },
    }),
  );
  app.use(express.static(folder, { index: false }));
  const index = join(folder, "index.html");
  const sendDocument = (res: Response) => {
    if (!existsSync(index))
      throw new ProblemError("not-found", "The web client is not built. Start Hackle with npm start.");
    res.setHeader("Cache-Control", "no-cache");
    res.sendFile(index);
  };
  let pieces: ReturnType<typeof readPieces> | undefined;
  for (const view of VIEWS)
    app.get(view.at, (req, res) => {
      if (existsSync(index)) {
        pieces ??= readPieces(folder);
        const { searchParams } = new URL(req.originalUrl, "http://localhost");
        res.setHeader("Link", viewLinks(pieces, view, req.params as Record<string, string>, searchParams));
      }
      sendDocument(res);
    });
  app.get(/^(?!\/assets\/).*/, (_req, res) => sendDocument(res));
}
