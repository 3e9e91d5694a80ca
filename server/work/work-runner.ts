import type { Knex } from "knex";
import type { Logger } from "pino";
import { isConnectionLoss } from "#server/problems/to-problem.ts";
import { isGone, newServerId } from "./server-id.ts";
import { claim, endWork, letGo, releaseGone, showAlive, type ClaimedWork } from "./work-queue.ts";

const LOOK_MS = 5000;
const ALIVE_MS = 4000;
const RETRY_MS = 500;
const LONGEST_RETRY_MS = 60_000;
/** Work that fails for reasons of its own this often is given up. */
const MOST_ATTEMPTS = 5;

/** Why work is given up when its server stops: another one takes it over. */
export class ServerStopped extends Error {}

/** What is done of a task, and how much of it at once. */
export interface TaskKind {
  /** Tasks of one lane share its places; lanes do not wait for each other. */
  readonly lane: string;
  /** Does it. What it throws is logged, and tried again some times; `signal` says that it is to be given up. */
  run(work: ClaimedWork, signal: AbortSignal): Promise<void>;
  /** Is told once it was tried often enough: whoever waits for it is to hear of it. */
  onGivenUp?(work: ClaimedWork): Promise<void>;
}

/** Does the work of the queue beside the requests, as many at once as the lanes have places. */
export class WorkRunner {
  readonly serverId = newServerId();
  private readonly going = new Map<
    string,
    { readonly abort: AbortController; readonly lane: string; done: Promise<void> }
  >();
  private looking: Promise<void> | undefined;
  private isAskedAgain = false;
  private isClosed = false;
  private look: NodeJS.Timeout | undefined;
  private alive: NodeJS.Timeout | undefined;

  constructor(
    private readonly options: {
      readonly knex: Knex;
      readonly logger: Logger;
      readonly lanes: Readonly<Record<string, number>>;
      readonly tasks: Readonly<Record<string, TaskKind>>;
    },
  ) {}

  /** Begins to look for work, now and whenever some time has passed. */
  start(): void {
    this.look = setInterval(() => this.wake(), LOOK_MS);
    this.alive = setInterval(() => void this.beat(), ALIVE_MS);
    this.look.unref();
    this.alive.unref();
    this.wake();
  }

  /** Looks for work that can be begun. */
  wake(): void {
    if (this.isClosed) return;
    if (this.looking) this.isAskedAgain = true;
    else
      this.looking = this.fill()
        // The database may be away for the moment: the next look finds what waits.
        .catch(() => undefined)
        .finally(() => {
          this.looking = undefined;
          if (!this.isAskedAgain) return;
          this.isAskedAgain = false;
          this.wake();
        });
  }

  /** Looks at once whether an end was asked for of what is being done. */
  beat(): Promise<void> {
    return this.showAlive().catch(() => undefined);
  }

  /** Gives up what is being done, which others take over, and waits until it has ended. */
  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.look);
    clearInterval(this.alive);
    await this.looking;
    for (const { abort } of this.going.values()) abort.abort(new ServerStopped("The server stops."));
    await Promise.all([...this.going.values()].map(({ done }) => done));
  }

  private async fill(): Promise<void> {
    const { knex, lanes, tasks } = this.options;
    await releaseGone(knex, isGone);
    while (!this.isClosed) {
      const busy = new Map<string, number>();
      for (const { lane } of this.going.values()) busy.set(lane, (busy.get(lane) ?? 0) + 1);
      const open = Object.keys(tasks).filter((name) => (busy.get(tasks[name]!.lane) ?? 0) < lanes[tasks[name]!.lane]!);
      if (open.length === 0) return;
      const work = await claim(knex, this.serverId, open);
      if (!work) return;
      this.begin(work);
    }
  }

  private begin(work: ClaimedWork): void {
    const { lane } = this.options.tasks[work.task]!;
    const abort = new AbortController();
    const entry = { abort, lane, done: Promise.resolve() };
    this.going.set(work.id, entry);
    entry.done = this.carryOut(work, abort.signal).finally(() => {
      this.going.delete(work.id);
      this.wake();
    });
  }

  private async carryOut(work: ClaimedWork, signal: AbortSignal): Promise<void> {
    let failure: unknown;
    try {
      await this.options.tasks[work.task]!.run(work, signal);
    } catch (error) {
      failure = error;
    }
    const isPassing = this.isClosed || isConnectionLoss(failure);
    if (failure !== undefined && !isPassing)
      this.options.logger.error({ err: failure, task: work.task, company: work.company }, "work failed");
    const isOver = failure === undefined || (!isPassing && work.attempts >= MOST_ATTEMPTS);
    if (failure !== undefined && isOver)
      await this.options.tasks[work.task]!.onGivenUp?.(work).catch((error: unknown) =>
        this.options.logger.error({ err: error, task: work.task }, "work was given up without a word"),
      );
    const pause = Math.min(LONGEST_RETRY_MS, 1000 * 2 ** work.attempts);
    const { knex } = this.options;
    await this.untilWritten(() =>
      isOver
        ? endWork(knex, this.serverId, work.id)
        : letGo(knex, this.serverId, work.id, new Date(Date.now() + (this.isClosed ? 0 : pause))),
    );
  }

  /** The end of work is written whenever the database is there; where the server stops meanwhile, others see to it. */
  private async untilWritten(write: () => Promise<void>): Promise<void> {
    for (;;) {
      const isWritten = await write().then(
        () => true,
        () => false,
      );
      if (isWritten || this.isClosed) return;
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }

  private async showAlive(): Promise<void> {
    const ids = [...this.going.keys()];
    if (ids.length === 0) return;
    const { own, cancelled } = await showAlive(this.options.knex, this.serverId, ids);
    for (const id of ids) if (!own.has(id) || cancelled.has(id)) this.going.get(id)?.abort.abort();
  }
}
