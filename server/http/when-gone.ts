import type { Response } from "express";

/** Tells when a request's connection has closed, so that nothing more is done for it. */
export function whenGone(res: Response): AbortSignal {
  const controller = new AbortController();
  res.once("close", () => controller.abort());
  return controller.signal;
}
