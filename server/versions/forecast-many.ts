import { once } from "node:events";
import { availableParallelism } from "node:os";
import { Worker } from "node:worker_threads";
import type { KpiForecast } from "#core/ahead/forecast-history.ts";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import { threadProgram } from "#server/thread-program.ts";
import type { ForecastDone } from "./forecaster.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** At most so many threads forecast at once. */
const MOST_THREADS = 4;
const MEGABYTES = 512;

/** How far many forecasts have come, or all of them. */
export type ManyForecasts =
  | { readonly done: number; readonly of: number }
  | { readonly forecasts: readonly KpiForecast[] };

/**
 * Forecasts many series on threads of their own, telling how many are done; the last thing it says is all of them, in
 * the order of the series. Aborting ends the threads at once; so does leaving off to listen.
 */
export async function* forecastMany(
  histories: readonly KpiHistory[],
  settings: AheadSettings,
  signal?: AbortSignal,
): AsyncGenerator<ManyForecasts> {
  const forecasts = new Array<KpiForecast>(histories.length);
  const count = Math.min(MOST_THREADS, Math.max(1, availableParallelism()), histories.length);
  const workers = Array.from({ length: count }, () => startForecaster());
  let [next, done] = [0, 0];
  let failure: Error | null = null;
  const news = new EventTarget();
  const tell = () => news.dispatchEvent(new Event("news"));
  const give = (worker: Worker) => {
    if (next >= histories.length) return;
    worker.postMessage({ place: next, history: histories[next]!, settings });
    next += 1;
  };
  try {
    for (const worker of workers) {
      worker.on("message", ({ place, forecast }: ForecastDone) => {
        forecasts[place] = forecast;
        done += 1;
        give(worker);
        tell();
      });
      worker.on("error", (error: Error) => {
        failure = error;
        tell();
      });
      give(worker);
    }
    while (done < histories.length) {
      const seen = done;
      yield { done: seen, of: histories.length };
      if (failure) throw failure as Error;
      signal?.throwIfAborted();
      // What came while the line was taken needs no waiting for.
      if (done === seen) await once(news as unknown as NodeJS.EventEmitter, "news", signal ? { signal } : {});
    }
    if (failure) throw failure as Error;
    yield { forecasts };
  } finally {
    await Promise.all(workers.map((worker) => worker.terminate()));
  }
}

function startForecaster(): Worker {
  const worker = new Worker(threadProgram("forecaster-start.mjs", import.meta.url), {
    resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
    execArgv: [],
  });
  worker.unref();
  return worker;
}
