import { Worker } from "node:worker_threads";
import type { StructureRows } from "#server/db/structure-rows.ts";
import type { FitMemory } from "#core/forecast/kept-fits.ts";
import type { FactsAtHand, Workspace } from "#server/facts/workspace.ts";
import { threadProgram } from "#server/thread-program.ts";
import { answerPanels } from "./answer-panels.ts";
import { BESIDE, type EngineSays, type EngineTask } from "./engine-message.ts";
import { mayFit } from "./may-fit.ts";
import { FitStore, type PackedFit } from "./fit-store.ts";
import { LineStream } from "./line-stream.ts";
import type { PanelAsk, PanelLine } from "./panel-ask.ts";

/** An engine holds so many states of a company: the present one, and the one that questions still on their way were asked of. */
const MOST_OF_COMPANY = 2;
/** And so many of all of them; a company that was left for others is told its state again when it is asked of. */
const MOST_STATES = 12;

/**
 * What an engine may have besides the facts, which lie outside: far more than its caches and a structure take, and little
 * enough that its rubbish is seen to before it is a gigabyte.
 */
const HEAP_MEGABYTES = 512;
/** Most of what an answer is made of is rubbish once it is sent: with room for several answers little of it is copied. */
const YOUNG_MEGABYTES = 192;

interface Engine {
  readonly worker: Worker;
  /** The states it holds, the one that was asked of longest ago first, each with the company it is of. */
  states: { readonly state: FactsAtHand; readonly company: string }[];
  readonly open: Map<number, LineStream<PanelLine>>;
  /** The companies that open questions are of. */
  readonly asked: Map<number, string>;
  /** Whether its program is loaded: until then others answer. */
  isUp: boolean;
  /** Comes once it is; fails with an `EngineLost` where it ends before. */
  readonly up: Promise<void>;
  /** Whether it does what takes long. */
  readonly isForLong: boolean;
}

/** An engine ended with questions open. */
class EngineLost extends Error {}

/**
 * Threads that answer panels from the facts in memory, which all of them share; the server's own thread is left to
 * the requests. What is not in memory is answered here, by the database.
 */
export class EnginePool {
  private readonly engines: Engine[] = [];
  private isClosed = false;
  private asked = 0;
  private readonly numbers = new WeakMap<FactsAtHand, number>();
  private readonly companies = new WeakMap<FactsAtHand, string>();
  private numbered = 0;

  /** Fits for what is answered in the server's own thread. */
  private readonly ownFits = new FitStore();
  /** What is being worked out, by what was asked: whoever asks the same meanwhile waits for the same. */
  private readonly workedOut = new Map<string, Promise<PanelLine>>();

  /**
   * `size`: how many threads answer; with none, everything is answered in the server's own. One more thread does what
   * takes long, such as a forecast that nobody asked for before, so that nothing that is quick waits for it.
   */
  constructor(
    private readonly size: number,
    private readonly hears: {
      readonly onLost?: (error: unknown) => void;
      /** Hears of fits that were made for a company. */
      readonly onFits?: (company: string, fits: readonly PackedFit[]) => void;
    } = {},
  ) {}

  /**
   * Answers panels; each line comes when it is ready. A panel with a forecast or a range that was not made yet comes twice:
   * at once without it, and with it once it is there. Nothing more is done once whoever asked is gone.
   */
  async *answer(workspace: Workspace, asks: readonly PanelAsk[]): AsyncGenerator<PanelLine> {
    const left = new Map(asks.map((ask) => [ask.key, ask]));
    const { memory } = workspace;
    const engine = memory && left.size > 0 ? this.idlest() : undefined;
    if (memory && engine) {
      const partial: PanelAsk[] = [];
      try {
        for await (const line of this.send(engine, memory, workspace, asks)) {
          if (line.isPartial) partial.push(left.get(line.key)!);
          left.delete(line.key);
          yield line;
        }
        left.clear();
      } catch (error) {
        if (!(error instanceof EngineLost)) throw error;
      }
      if (workspace.gone?.aborted) return;
      yield* inOrderOfEnd(partial.map((ask) => this.workOut(memory, workspace, ask)));
    }
    if (left.size > 0) yield* answerPanels(workspace, [...left.values()], this.ownFits);
  }

  /** Works out what of a panel takes long, before anybody asks for it. */
  async workOutAll(workspace: Workspace, asks: readonly PanelAsk[]): Promise<void> {
    const { memory } = workspace;
    if (memory) for (const ask of asks) await this.workOut(memory, workspace, ask);
  }

  /**
   * Computes something of a panel here, with the fits that are at hand. Those it lacks are made first, by the engines and
   * not meanwhile in the thread of the requests.
   */
  async withFitsOf<T>(workspace: Workspace, ask: PanelAsk, compute: (fits: FitMemory) => Promise<T>): Promise<T> {
    if (mayFit(ask.panel)) for await (const _ of this.answer(workspace, [ask]));
    return compute(this.ownFits);
  }

  /** Engines have these fits at hand from now on. */
  takeFits(fits: readonly PackedFit[]): void {
    this.ownFits.take(fits);
    for (const engine of this.engines) this.tell(engine, { say: "take", fits });
  }

  /** A panel's whole answer, from the thread that does what takes long. */
  private workOut(memory: FactsAtHand, workspace: Workspace, ask: PanelAsk): Promise<PanelLine> {
    const { scope, numbers, dates } = workspace.reader;
    const asked = JSON.stringify([this.numberOf(memory), scope, numbers, dates, ask]);
    const known = this.workedOut.get(asked);
    if (known) return known;
    const line = this.takeLong(memory, workspace, ask).finally(() => this.workedOut.delete(asked));
    this.workedOut.set(asked, line);
    return line;
  }

  private async takeLong(memory: FactsAtHand, workspace: Workspace, ask: PanelAsk): Promise<PanelLine> {
    const engine = this.engines.find(({ isForLong }) => isForLong);
    // Others may wait for the same: it is done to its end, whoever leaves.
    const place = { ...workspace, gone: undefined };
    if (engine)
      try {
        // Not here meanwhile: what takes long would hold up every request.
        await engine.up;
        for await (const line of this.send(engine, memory, place, [ask])) return line;
      } catch (error) {
        if (!(error instanceof EngineLost)) throw error;
      }
    for await (const line of answerPanels(place, [ask], this.ownFits)) return line;
    throw new Error("A panel was not answered.");
  }

  /** Lets engines make ready for a state of the facts before they are asked of it; starts them for the first one. */
  prepare(state: FactsAtHand, company = ""): void {
    this.companies.set(state, company);
    while (this.size > 0 && this.engines.length <= this.size && !this.isClosed)
      this.engines.push(this.create(this.engines.length === this.size));
    for (const engine of this.engines) this.hold(engine, state);
  }

  /** Has engines let go of what they hold of a company. */
  letGo(company: string): void {
    for (const engine of this.engines) this.drop(engine, ({ company: own }) => own === company);
  }

  /** Whether there are no threads, so that nothing is made ready beside the requests. */
  get isIdle(): boolean {
    return this.size === 0;
  }

  /** How many engines are there to be asked. */
  get upCount(): number {
    return this.engines.filter(({ isUp, isForLong }) => isUp && !isForLong).length;
  }

  /** Ends all threads. */
  async close(): Promise<void> {
    this.isClosed = true;
    await Promise.all(this.engines.map(({ worker }) => worker.terminate()));
  }

  private idlest(): Engine | undefined {
    const up = this.engines.filter(({ isUp, isForLong }) => isUp && !isForLong);
    return up.sort((a, b) => a.open.size - b.open.size)[0];
  }

  private async *send(
    engine: Engine,
    state: FactsAtHand,
    { reader, gone }: Workspace,
    asks: readonly PanelAsk[],
  ): AsyncGenerator<PanelLine> {
    const question = (this.asked += 1);
    const lines = new LineStream<PanelLine>();
    engine.open.set(question, lines);
    engine.asked.set(question, this.companies.get(state) ?? "");
    this.tell(engine, {
      say: "answer",
      question,
      state: this.hold(engine, state),
      reader: { scope: reader.scope, numbers: reader.numbers, dates: reader.dates },
      asks,
      isLight: !engine.isForLong,
    });
    const giveUp = () => lines.end();
    gone?.addEventListener("abort", giveUp, { once: true });
    try {
      yield* lines;
    } finally {
      gone?.removeEventListener("abort", giveUp);
      if (engine.open.delete(question)) this.tell(engine, { say: "give up", question });
    }
  }

  /** The number of a state that an engine holds from now on. */
  private hold(engine: Engine, state: FactsAtHand): number {
    const number = this.numberOf(state);
    const company = this.companies.get(state) ?? "";
    const isHeld = engine.states.some((held) => held.state === state);
    const base = engine.states.findLast((held) => held.company === company)?.state;
    engine.states = [...engine.states.filter((held) => held.state !== state), { state, company }];
    if (isHeld) return number;
    const { structure, kept } = state;
    const at = { version: structure.version, facts: structure.facts };
    this.tell(engine, {
      say: "hold",
      state: number,
      onTopOf: base ? this.numberOf(base) : null,
      rows: base ? changedOf(structure.rows, base.structure.rows) : structure.rows,
      at,
      kept: base?.kept === kept ? null : kept,
    });
    const own = engine.states.filter((held) => held.company === company).slice(0, -MOST_OF_COMPANY);
    const over = engine.states.slice(0, -MOST_STATES);
    this.drop(engine, (held) => own.includes(held) || over.includes(held));
    return number;
  }

  private drop(engine: Engine, isDropped: (held: Engine["states"][number]) => boolean): void {
    for (const held of engine.states.filter(isDropped))
      this.tell(engine, { say: "let go", state: this.numberOf(held.state) });
    engine.states = engine.states.filter((held) => !isDropped(held));
  }

  private numberOf(state: FactsAtHand): number {
    const known = this.numbers.get(state);
    if (known !== undefined) return known;
    this.numbered += 1;
    this.numbers.set(state, this.numbered);
    return this.numbered;
  }

  /** What one engine made, the others have too. */
  private spread(from: Engine, company: string, fits: readonly PackedFit[]): void {
    this.ownFits.take(fits);
    for (const engine of this.engines) if (engine !== from) this.tell(engine, { say: "take", fits });
    this.hears.onFits?.(company, fits);
  }

  private tell({ worker }: Engine, task: EngineTask): void {
    worker.postMessage(task);
  }

  private create(isForLong: boolean): Engine {
    const worker = new Worker(threadProgram("engine-start.mjs", import.meta.url), {
      execArgv: [],
      ...(isForLong ? { workerData: BESIDE } : {}),
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MEGABYTES, maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
    });
    const up = new Promise<void>((resolve, reject) => {
      worker.once("message", () => resolve());
      worker.once("exit", () => reject(new EngineLost("An engine ended before it was up.")));
    });
    // Nobody may be waiting for it.
    up.catch(() => undefined);
    const engine: Engine = { worker, states: [], open: new Map(), asked: new Map(), isUp: false, up, isForLong };
    worker.unref();
    worker.on("message", ({ question, line, fits = [] }: EngineSays) => {
      engine.isUp = true;
      if (fits.length > 0) this.spread(engine, engine.asked.get(question) ?? "", fits);
      if (!line) engine.asked.delete(question);
      const lines = engine.open.get(question);
      if (line) lines?.push(line);
      else if (engine.open.delete(question)) lines?.end();
    });
    worker.on("error", (error) => this.hears.onLost?.(error));
    worker.once("exit", () => {
      if (!this.isClosed) this.engines[this.engines.indexOf(engine)] = this.create(isForLong);
      for (const lines of engine.open.values()) lines.end(new EngineLost("An engine ended."));
      engine.open.clear();
    });
    return engine;
  }
}

/** Those parts of rows that are not the same as before. */
function changedOf(rows: StructureRows, before: StructureRows): Partial<StructureRows> {
  const names = Object.keys(rows) as (keyof StructureRows)[];
  return Object.fromEntries(names.filter((name) => rows[name] !== before[name]).map((name) => [name, rows[name]]));
}

/** What several promises give, each as soon as it is there. */
async function* inOrderOfEnd<T>(promises: readonly Promise<T>[]): AsyncGenerator<T> {
  const open = new Map(promises.map((promise, i) => [i, promise.then((value) => ({ i, value }))]));
  // Whoever stops listening leaves the others to themselves.
  for (const promise of open.values()) promise.catch(() => undefined);
  while (open.size > 0) {
    const { i, value } = await Promise.race(open.values());
    open.delete(i);
    yield value;
  }
}
