import { randomUUID } from "node:crypto";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { applyDiff, diffRecords, type Records, type RecordsDiff } from "#core/history/records-diff.ts";
import type { Pack, PackChanged, PackEdit } from "#contract/pack.ts";
import { recordsOfPack, type PanelRecord } from "#contract/pack-records.ts";
import { ApiProblem } from "../../web/client/api.ts";
import { createPackEditor, type Edit, type PackEditor } from "../../web/packs/editing/pack-editor.ts";
import {
  addPage,
  copyPage,
  movePage,
  putPanels,
  withLook,
  withoutPage,
  withoutPanels,
  withPanel,
  withPlaces,
  panelToPut,
  placesOn,
} from "../../web/packs/editing/page-edits.ts";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

const PACK = "monthly-review";
/** Edits of two people with undo, redo, reloads and lost connections between: as many as show it here, and 1,000 in the sweep. */
const STEPS = Number(process.env["HACKLE_STEPS"] ?? 300);

let database: OwnDatabase;
let api: ApiClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "two_editors");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const packNow = async () => (await api.get(`/api/packs/${PACK}`)).body as Pack;

/** A line to the server that is lost now and then: before the edit comes through, or before its answer comes back. */
class Line {
  lost: "no" | "request" | "answer" = "no";
  async send(pack: string, edit: PackEdit): Promise<PackChanged> {
    const cut = new ApiProblem("unreachable", "The line is cut.");
    if (this.lost === "request") throw cut;
    const { status, body } = await api.send("POST", `/api/packs/${pack}/edits`, edit);
    if (this.lost === "answer") throw cut;
    if (status === 200) return body as PackChanged;
    const { code, detail, both } = body as { code: "changed-meanwhile"; detail: string; both?: never };
    throw new ApiProblem(code, detail, both);
  }
}

/** One person with a browser: what is pending there outlives a reload. */
class Person {
  readonly line = new Line();
  kept: readonly Edit[] = [];
  editor: PackEditor;
  constructor() {
    this.editor = this.open();
  }
  open(): PackEditor {
    return createPackEditor(PACK, {
      send: (pack, edit) => this.line.send(pack, edit),
      keep: { load: () => this.kept, save: (pending) => (this.kept = pending) },
      newName: randomUUID,
      retryAfter: () => 1_000_000,
      onSaved: () => {},
      onRefused: () => {},
    });
  }
  async look(): Promise<void> {
    this.editor.rebase(await packNow());
    await this.editor.flush();
  }
}

type Act = (records: Records, pick: (count: number) => number) => Records;
const pageKeys = (records: Records) =>
  Object.keys(records).flatMap((name) => /^page\/[^/]+\/(.+)$/.exec(name)?.[1] ?? []);
const onPage =
  (act: (records: Records, at: { pack: string; page: string }, pick: (count: number) => number) => Records): Act =>
  (records, pick) => {
    const pages = pageKeys(records);
    return pages.length === 0 ? records : act(records, { pack: PACK, page: pages[pick(pages.length)]! }, pick);
  };
const aPanel = (records: Records, { page }: { page: string }, pick: (count: number) => number) => {
  const keys = Object.keys(records).flatMap((name) =>
    name.startsWith(`panel/${PACK}/${page}/`) ? [name.split("/")[3]!] : [],
  );
  return keys.length === 0 ? undefined : keys[pick(keys.length)]!;
};
const ACTS: readonly Act[] = [
  onPage(
    (records, at, pick) =>
      putPanels(records, at, [panelToPut({ key: "x", kind: "time-chart", kpi: ["fuel", "crew", "freight"][pick(3)]! })])
        .records,
  ),
  onPage((records, at, pick) => {
    const key = aPanel(records, at, pick);
    return key === undefined ? records : withoutPanels(records, at, [key]);
  }),
  onPage((records, at, pick) => {
    const key = aPanel(records, at, pick);
    const own = key === undefined ? undefined : (records[`panel/${PACK}/${at.page}/${key}`] as PanelRecord);
    if (!own) return records;
    const part = ["title", "subtitle"][pick(2)]!;
    return withPanel(records, at, { ...own.definition, [part]: `${part} ${pick(1000)}` } as never);
  }),
  onPage((records, at, pick) => {
    const key = aPanel(records, at, pick);
    const places = placesOn(records, at);
    return key === undefined
      ? records
      : withPlaces(records, at, { [key]: { ...places[key]!, x: pick(6), y: pick(80), w: 4 + pick(14) } });
  }),
  onPage((records, at, pick) => withLook(records, at, { [["headline", "footer"][pick(2)]!]: `words ${pick(1000)}` })),
  onPage((records, at, pick) => movePage(records, at, pick(2) === 0 ? -1 : 1)),
  (records, pick) =>
    pageKeys(records).length > 14 ? records : addPage(records, PACK, { name: `Page ${pick(1000)}` }).records,
  onPage((records, at) => (pageKeys(records).length < 6 ? records : withoutPage(records, at))),
];

describe("two people who edit one pack, over lines that are lost, with reloads between", () => {
  it("end in one state that both see, and that replays from the history", async () => {
    const start = recordsOfPack(await packNow());
    const people = [new Person(), new Person()] as const;
    for (const person of people) await person.look();
    const [seed] = fc.sample(fc.infiniteStream(fc.nat(0xffff)), { numRuns: 1, seed: 20261014 });
    const draws = seed![Symbol.iterator]();
    const pick = (count: number) => (draws.next().value as number) % count;
    let undone = 0;
    let refused = 0;
    for (let step = 0; step < STEPS; step += 1) {
      const person = people[pick(2)]!;
      const { editor, line } = person;
      const what = pick(20);
      if (what < 12) editor.edit((records) => ACTS[pick(ACTS.length)]!(records, pick));
      else if (what < 14) {
        undone += editor.store.getState().past.length > 0 ? 1 : 0;
        editor.undo();
      } else if (what === 14) editor.redo();
      else if (what === 15) line.lost = (["request", "answer", "no"] as const)[pick(3)]!;
      else if (what === 16) {
        // The page is loaded anew: what was not sent is there again.
        person.editor = person.open();
        await person.look();
      } else if (what === 17) await person.look();
      else line.lost = "no";
      await person.editor.flush();
      const { conflict } = person.editor.store.getState();
      if (conflict) {
        refused += 1;
        if (pick(2) === 0) person.editor.takeTheirs();
        else person.editor.keepMine();
      }
    }
    for (const person of people) {
      person.line.lost = "no";
      await person.editor.settled();
    }
    for (const person of people) await person.look();
    const end = recordsOfPack(await packNow());
    for (const { editor } of people) {
      const { shown, pending } = editor.store.getState();
      expect(pending).toEqual([]);
      expect(recordsOfPack(shown!)).toEqual(end);
    }
    const changes = await database
      .knex("change")
      .where({ area: "pack" })
      .orderBy("id")
      .select<{ diff: RecordsDiff }[]>("diff");
    const replayed = changes.reduce((records, { diff }) => applyDiff(records, diff), start as Records);
    expect(diffRecords(replayed, end)).toEqual({ added: {}, changed: {}, removed: {} });
    // The steps were of all kinds.
    expect([changes.length > STEPS / 4, undone > STEPS / 50, refused > 0]).toEqual([true, true, true]);
  });
  it("copies a page whole, from one pack onto another", async () => {
    const pack = await packNow();
    const [page] = pack.pages;
    const { status } = await api.edit(PACK, (records) => copyPage(records, PACK, page!, { name: "Copied" }).records);
    expect(status).toBe(200);
    const copied = (await packNow()).pages.find(({ name }) => name === "Copied")!;
    expect(copied.panels).toEqual(page!.panels);
  });
});
