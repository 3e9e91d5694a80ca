import { setMaxListeners } from "node:events";
import type { Response } from "express";

/** Why work is given up; one for all, since making one for each request would cost more than most of them do. */
const GONE = Object.assign(new Error("The request was cancelled."), { name: "AbortError" });

/** Tells when a request's connection has closed, so that nothing more is done for it. */
export function whenGone(res: Response): AbortSignal {
  const controller = new AbortController();
  // A page asks as many sums as it likes, each of which listens.
  setMaxListeners(0, controller.signal);
  res.once("close", () => controller.abort(GONE));
  return controller.signal;
}
