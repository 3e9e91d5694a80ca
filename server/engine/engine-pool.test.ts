import { setMaxListeners } from "node:events";
import type { Knex } from "knex";
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from "vitest";
import { readablePanels, type Pack } from "#contract/pack.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import type { Reader } from "#server/access/reader.ts";
import { connect } from "#server/db/connect.ts";
import { ReadDatabase } from "#server/db/read-database.ts";
import { buildStructure, structureReader } from "#server/db/structure.ts";
import { CellKeeper } from "#server/facts/memory/cell-keeper.ts";
import { MemoryBudget } from "#server/facts/memory/memory-budget.ts";
import { Workspaces, type Workspace } from "#server/facts/workspace.ts";
import { readPack } from "#server/packs/packs.ts";
import { answerPanels } from "./answer-panels.ts";
import type { EngineTask } from "./engine-message.ts";
import { EnginePool } from "./engine-pool.ts";
import { FitStore } from "./fit-store.ts";
import type { PanelAsk, PanelLine } from "./panel-ask.ts";
import type { ExpectedRangeAnswer } from "#core/panels/expected-range/schema.ts";

let knex: Knex;
let pack: Pack;
let workspaces: Workspaces;
let pool: EnginePool;
/** Fits that engines made. */
let made = 0;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  pack = await readPack(knex, "monthly-review");
});
beforeEach(async () => {
  made = 0;
  pool = new EnginePool(2, { onFits: (_, fits) => (made += fits.length) });
  const keeper = new CellKeeper(new ReadDatabase(knex, null), new MemoryBudget(2 ** 30));
  await keeper.refresh();
  workspaces = new Workspaces({
    database: new ReadDatabase(knex, null),
    readStructure: structureReader(knex),
    keeper,
    onOpened: (memory) => pool.prepare(memory),
  });
  await workspaces.prepare();
  await allUp();
  return () => pool.close();
});
afterAll(() => knex.destroy());

async function allUp(): Promise<void> {
  while (pool.upCount < 2) await new Promise((resolve) => setTimeout(resolve, 5));
}
const readerOf = (scope: Scope) => ({ scope }) as Reader;
function asksOf(page: string, query: PanelAsk["query"] = {}): PanelAsk[] {
  const found = pack.pages.find(({ key }) => key === page)!;
  return readablePanels(found).map(({ key, definition }) => ({
    key,
    panel: definition,
    choice: {},
    query,
    pageScope: found.scope,
  }));
}
async function textsOf(lines: AsyncIterable<PanelLine>): Promise<Record<string, string>> {
  const texts: Record<string, string> = {};
  for await (const { key, text } of lines) texts[key] = text;
  return texts;
}
/** Where the server's own thread cannot answer, so that an engine must. */
const withoutOwnCells = (workspace: Workspace): Workspace => ({
  ...workspace,
  source: {
    ...workspace.source,
    book: {
      sum: () => {
        throw new Error("The server's own thread looked up a cell.");
      },
    },
  },
});

describe("engines", () => {
  it("answer what the server's own thread would, for readers of everything and of a part", async () => {
    const ownFits = new FitStore();
    for (const scope of [{}, { route: ["skerry-sound"] }]) {
      const workspace = await workspaces.open(readerOf(scope));
      for (const { key } of pack.pages)
        for (const query of [{}, { asOf: "2026-07", span: "month", basis: "prior-year", unit: "million" }]) {
          const asks = asksOf(key, query);
          expect(await textsOf(pool.answer(withoutOwnCells(workspace), asks))).toEqual(
            await textsOf(answerPanels(workspace, asks, ownFits)),
          );
        }
    }
  });

  it("say of a panel why it has no figures, and of a fault of their own what it was", async () => {
    const workspace = withoutOwnCells(await workspaces.open(readerOf({})));
    const lines: PanelLine[] = [];
    const [first, second] = asksOf("cover").filter(({ panel }) => panel.kind !== "text");
    const broken = { ...second!, panel: { ...second!.panel, kpi: { no: "name" } } as unknown as PanelDefinition };
    for await (const line of pool.answer(workspace, [{ ...first!, query: { span: "moon" } }, broken])) lines.push(line);
    expect(lines.map(({ hasFigures }) => hasFigures)).toEqual([false, false]);
    expect(lines[0]!.text).toContain("unknown-span");
    expect(lines[1]!.text).not.toContain('"answer"');
  });

  it("are replaced when they die, and what they were asked is answered all the same", async () => {
    const workspace = await workspaces.open(readerOf({}));
    const asks = asksOf("cover");
    const wanted = await textsOf(answerPanels(workspace, asks, new FitStore()));
    const answers = Array.from({ length: 12 }, () => textsOf(pool.answer(workspace, asks)));
    // The questions are on their way when both engines go.
    await new Promise(setImmediate);
    await Promise.all(pool["engines"].map(({ worker }) => worker.terminate()));
    for (const answer of await Promise.all(answers)) expect(answer).toEqual(wanted);
    await allUp();
    expect(await textsOf(pool.answer(withoutOwnCells(workspace), asks))).toEqual(wanted);
  });

  it("do nothing more for whoever is gone, and go on for the others", async () => {
    const gone = new AbortController();
    setMaxListeners(0, gone.signal);
    const workspace = withoutOwnCells(await workspaces.open(readerOf({}), gone.signal));
    const abandoned = Array.from({ length: 30 }, () => textsOf(pool.answer(workspace, asksOf("revenue"))));
    await new Promise(setImmediate);
    gone.abort();
    const whole = (await Promise.all(abandoned)).filter(
      (texts) => Object.keys(texts).length === asksOf("cover").length,
    );
    expect(whole.length).toBeLessThan(abandoned.length);
    const other = withoutOwnCells(await workspaces.open(readerOf({})));
    expect(Object.keys(await textsOf(pool.answer(other, asksOf("cover"))))).toHaveLength(asksOf("cover").length);
    await expect.poll(() => pool["engines"].map(({ open }) => open.size)).toEqual([0, 0, 0]);
  });

  it("say the same of a month whatever was asked before, and whatever was fitted then", async () => {
    const workspace = await workspaces.open(readerOf({}));
    const { book } = workspace.source;
    const forgetful = { ...workspace, source: { ...workspace.source, book: { sum: book!.sum } } };
    const fits = new FitStore();
    for (const page of ["operations", "outlook"])
      for (const asOf of ["2026-10", "2026-07", "2026-09"]) {
        const asks = asksOf(page, { asOf });
        expect(await textsOf(answerPanels(workspace, asks, fits))).toEqual(
          await textsOf(answerPanels(forgetful, asks, new FitStore())),
        );
      }
    // All of it was made by then: nothing is left out where nothing may be fitted.
    fits.onDeferred = () => {};
    for await (const line of answerPanels(workspace, asksOf("operations", { asOf: "2026-07" }), fits))
      expect([line.key, line.isPartial]).toEqual([line.key, undefined]);
  });

  it("tell a panel in part where something has to be fitted first, then whole, the same to everybody who asks", async () => {
    const workspace = await workspaces.open(readerOf({}));
    const asks = asksOf("outlook").filter(({ panel }) => panel.kind === "outlook" || panel.kind === "time-chart");
    const lines = async () => {
      const told: PanelLine[] = [];
      for await (const line of pool.answer(workspace, asks)) told.push(line);
      return told;
    };
    const [one, other] = await Promise.all([lines(), lines()]);
    const whole = (told: readonly PanelLine[]) =>
      Object.fromEntries(told.filter(({ isPartial }) => !isPartial).map(({ key, text }) => [key, text]));
    expect(one.some(({ isPartial }) => isPartial)).toBe(true);
    expect(Object.keys(whole(one)).sort()).toEqual(asks.map(({ key }) => key).sort());
    expect(whole(other)).toEqual(whole(one));
    // Once it is made, everybody has it at once, in whichever thread.
    for (let i = 0; i < 4; i += 1) expect((await lines()).filter(({ isPartial }) => isPartial)).toEqual([]);
  });

  // What must not grow, without a clock: a page that is ready costs its reader nothing but its own sums.
  it("fit nothing and read nothing from the database for a page that is ready, in whichever frame", async () => {
    const workspace = await workspaces.open(readerOf({}));
    for (const { key } of pack.pages) for await (const _ of pool.answer(workspace, asksOf(key))) continue;
    const statements: string[] = [];
    const onQuery = ({ sql }: { sql: string }) => void statements.push(sql);
    knex.on("query", onQuery);
    made = 0;
    let answered = 0;
    for (const { key } of pack.pages)
      for (const query of [{ span: "quarter" }, { span: "month", basis: "prior-year", unit: "units" }])
        for await (const { isPartial, hasFigures } of pool.answer(workspace, asksOf(key, query))) {
          expect(isPartial, key).toBeUndefined();
          answered += hasFigures ? 1 : 0;
        }
    knex.removeListener("query", onQuery);
    expect({ made, statements }).toEqual({ made: 0, statements: [] });
    expect(answered).toBeGreaterThan(100);
  });

  it("show the actuals of an expected range while the range is being worked out", async () => {
    const workspace = await workspaces.open(readerOf({ route: ["lantern-bay"] }));
    const asks = asksOf("operations").filter(({ panel }) => panel.kind === "expected-range");
    const told: ExpectedRangeAnswer[] = [];
    for await (const { text } of pool.answer(workspace, asks))
      told.push((JSON.parse(text) as { answer: ExpectedRangeAnswer }).answer);
    const [early, whole] = told as [ExpectedRangeAnswer, ExpectedRangeAnswer];
    const seen = ({ points }: ExpectedRangeAnswer) => points.map(({ period, value }) => ({ period, value }));
    expect(early.points.length).toBeGreaterThan(50);
    expect(seen(early)).toEqual(seen(whole));
    expect(early.points.every(({ expected, lower, upper }) => !expected && !lower && !upper)).toBe(true);
    expect(early.notes).toEqual(["The expected range is still being calculated."]);
    expect(whole.points.every(({ lower, upper }) => lower! < upper!)).toBe(true);
  });

  it("make ready what takes long by themselves, also when that is asked before they are up", async () => {
    const made: string[] = [];
    const early = new EnginePool(1, { onFits: (company) => void made.push(company) });
    try {
      const workspace = await workspaces.open(readerOf({}));
      early.prepare(workspace.memory!, "early");
      expect(early.upCount).toBe(0);
      let ticks = 0;
      const clock = setInterval(() => (ticks += 1), 5);
      await early.workOutAll(withoutOwnCells(workspace), asksOf("operations"));
      clearInterval(clock);
      expect(new Set(made)).toEqual(new Set(["early"]));
      expect(ticks).toBeGreaterThan(10);
    } finally {
      await early.close();
    }
  });

  it("are told of a state what changed since the one before, and answer from what they had found", async () => {
    const workspace = await workspaces.open(readerOf({}));
    const memory = workspace.memory!;
    const asks = asksOf("cover");
    const wanted = await textsOf(pool.answer(withoutOwnCells(workspace), asks));
    const { rows, facts } = memory.structure;
    const structure = buildStructure({ ...rows, packs: [] }, { version: "later", facts }, memory.structure);
    const told: Extract<EngineTask, { say: "hold" }>[] = [];
    for (const { worker } of pool["engines"]) {
      const tell = worker.postMessage.bind(worker);
      worker.postMessage = (task: EngineTask) => {
        if (task.say === "hold") told.push(task);
        tell(task);
      };
    }
    const later = { ...memory, structure };
    pool.prepare(later);
    expect(told.map(({ rows: sent, kept }) => [Object.keys(sent), kept])).toEqual(
      [0, 1, 2].map(() => [["packs"], null]),
    );
    expect(await textsOf(pool.answer({ ...withoutOwnCells(workspace), structure, memory: later }, asks))).toEqual(
      wanted,
    );
  });

  it("are left out where the facts are not in memory", async () => {
    const bySql = new Workspaces({
      database: new ReadDatabase(knex, null),
      readStructure: structureReader(knex),
      keeper: null,
    });
    const workspace = await bySql.open(readerOf({}));
    const remembered = await workspaces.open(readerOf({}));
    const asks = asksOf("cover");
    expect(await textsOf(pool.answer(workspace, asks))).toEqual(
      await textsOf(answerPanels(remembered, asks, new FitStore())),
    );
  });
});
