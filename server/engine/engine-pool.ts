import { Worker } from "node:worker_threads";
import type { FactsAtHand, Workspace } from "#server/facts/workspace.ts";
import { threadProgram } from "#server/thread-program.ts";
import { answerPanels } from "./answer-panels.ts";
import type { EngineSays, EngineTask } from "./engine-message.ts";
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

interface Engine {
  readonly worker: Worker;
  /** The states it holds, the one that was asked of longest ago first, each with the company it is of. */
  states: { readonly state: FactsAtHand; readonly company: string }[];
  readonly open: Map<number, LineStream<PanelLine>>;
  /** Whether its program is loaded: until then others answer. */
  isUp: boolean;
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

  /** `size`: how many threads; with none, everything is answered in the server's own. */
  constructor(
    private readonly size: number,
    private readonly onLost: (error: unknown) => void = () => {},
  ) {}

  /** Answers panels; each line comes when it is ready. Nothing more is done once whoever asked is gone. */
  async *answer(workspace: Workspace, asks: readonly PanelAsk[]): AsyncGenerator<PanelLine> {
    const left = new Map(asks.map((ask) => [ask.key, ask]));
    const { memory } = workspace;
    const engine = memory && left.size > 0 ? this.idlest() : undefined;
    if (memory && engine) {
      try {
        for await (const line of this.send(engine, memory, workspace, asks)) {
          left.delete(line.key);
          yield line;
        }
        return;
      } catch (error) {
        if (!(error instanceof EngineLost)) throw error;
      }
    }
    yield* answerPanels(workspace, [...left.values()]);
  }

  /** Lets engines make ready for a state of the facts before they are asked of it; starts them for the first one. */
  prepare(state: FactsAtHand, company = ""): void {
    this.companies.set(state, company);
    while (this.engines.length < this.size && !this.isClosed) this.engines.push(this.create());
    for (const engine of this.engines) this.hold(engine, state);
  }

  /** Has engines let go of what they hold of a company. */
  letGo(company: string): void {
    for (const engine of this.engines) this.drop(engine, ({ company: own }) => own === company);
  }

  /** How many engines are there to be asked. */
  get upCount(): number {
    return this.engines.filter(({ isUp }) => isUp).length;
  }

  /** Ends all threads. */
  async close(): Promise<void> {
    this.isClosed = true;
    await Promise.all(this.engines.map(({ worker }) => worker.terminate()));
  }

  private idlest(): Engine | undefined {
    const up = this.engines.filter(({ isUp }) => isUp);
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
    this.tell(engine, {
      say: "answer",
      question,
      state: this.hold(engine, state),
      reader: { scope: reader.scope, numbers: reader.numbers, dates: reader.dates },
      asks,
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
    engine.states = [...engine.states.filter((held) => held.state !== state), { state, company }];
    if (isHeld) return number;
    const { structure, kept } = state;
    const at = { version: structure.version, facts: structure.facts };
    this.tell(engine, { say: "hold", state: number, rows: structure.rows, at, kept });
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

  private tell({ worker }: Engine, task: EngineTask): void {
    worker.postMessage(task);
  }

  private create(): Engine {
    const worker = new Worker(threadProgram("engine-start.mjs", import.meta.url), {
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MEGABYTES },
    });
    const engine: Engine = { worker, states: [], open: new Map(), isUp: false };
    worker.unref();
    worker.on("message", ({ question, line }: EngineSays) => {
      engine.isUp = true;
      const lines = engine.open.get(question);
      if (line) lines?.push(line);
      else if (engine.open.delete(question)) lines?.end();
    });
    worker.on("error", (error) => this.onLost(error));
    worker.once("exit", () => {
      if (!this.isClosed) this.engines[this.engines.indexOf(engine)] = this.create();
      for (const lines of engine.open.values()) lines.end(new EngineLost("An engine ended."));
      engine.open.clear();
    });
    return engine;
  }
}
