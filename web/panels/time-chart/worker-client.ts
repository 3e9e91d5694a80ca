import type { drawHistory, KpiForecast } from "#core/ahead/forecast-history.ts";
import type { KpiHistory } from "#core/ahead/kpi-history.ts";
import type { Told } from "#core/forecast/told.ts";
import type { AheadAsked } from "./ahead-worker.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** What the worker answers to each question, a history each. */
interface AheadAnswers {
  readonly forecast: readonly Told<KpiForecast>[];
  readonly draw: readonly ReturnType<typeof drawHistory>[];
}

/** One worker; while it works, the latest wish waits and earlier ones are forgotten. */
export class AheadWorker {
  private readonly worker = new Worker(new URL("./ahead-worker.ts", import.meta.url), { type: "module" });
  private number = 0;
  private isBusy = false;
  private next: (() => void) | null = null;
  private given: (answers: unknown) => void = () => undefined;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<{ number: number; answers: unknown }>) => {
      this.isBusy = false;
      if (data.number === this.number) this.given(data.answers);
      const next = this.next;
      this.next = null;
      next?.();
    };
  }

  ask<What extends keyof AheadAnswers>(
    what: What,
    histories: readonly KpiHistory[],
    settings: AheadSettings,
    given: (answers: AheadAnswers[What]) => void,
  ): void {
    const send = () => {
      this.number += 1;
      this.given = given as (answers: unknown) => void;
      this.isBusy = true;
      this.worker.postMessage({ number: this.number, histories, settings, what } satisfies AheadAsked);
    };
    if (this.isBusy) this.next = send;
    else send();
  }

  end(): void {
    this.worker.terminate();
  }
}
