import { createHash } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import { isReadable, type Pack } from "#contract/pack.ts";
import type { Knex } from "knex";
import { connect } from "#server/db/connect.ts";
import { ANALYST, IN_MEMORY, serveApi, SKERRY_MANAGER, type ApiClient } from "#testing/api.ts";
import { pairwiseFrames } from "#testing/frame-sweep.ts";

/**
 * What every panel of the sample packs answers, over frames and people, held against what was recorded: a change of
 * shape leaves every figure as it was. Where figures or words are meant to change, `HACKLE_RECORD=1` records anew, and
 * the difference of the file shows which panels they were.
 */
const RECORD = new URL("./recorded.json", import.meta.url);
/** Few of the pairwise frames: every span, basis and as-of month at least once. */
const FRAMES = pairwiseFrames().filter((_, i) => i % 5 === 0);
const PEOPLE = [ANALYST, SKERRY_MANAGER];
const SCOPES = ["", "route:skerry-sound", "route:northreach", "route:nowhere"];
const UNITS = ["units", "thousand", "million"];

/** Of one panel to one person: what it says in numbers, and what it says in all. */
interface Recorded {
  readonly figures: string;
  readonly answers: string;
}

let knex: Knex;
let api: ApiClient;
beforeAll(async () => {
  knex = connect(inject("sampleUrl"));
  api = await serveApi(knex, IN_MEMORY);
});
afterAll(async () => {
  await api.close();
  await knex.destroy();
});

/** An answer without its words: what is left are its shape and its figures. */
const withoutWords = (answer: unknown) =>
  JSON.stringify(answer, (_, value: unknown) => (typeof value === "string" ? "" : value));
/** When the sample's people said what they say of events is when it was loaded. */
const withoutClock = (answer: unknown) =>
  JSON.stringify(answer, (key, value: unknown) => (key === "saidAt" ? "" : value));
const digest = (parts: readonly string[]) =>
  createHash("sha256").update(parts.join("\n")).digest("base64").slice(0, 12);

async function recordOf(person: string): Promise<Record<string, Recorded>> {
  await api.signIn(person);
  const packs = (await api.get("/api/packs")).body as { key: string }[];
  const found: Record<string, Recorded> = {};
  for (const { key } of packs) {
    const pack = (await api.get(`/api/packs/${key}`)).body as Pack;
    for (const page of pack.pages)
      for (const panel of page.panels.filter(({ definition }) => isReadable(definition))) {
        const path = `/api/packs/${key}/pages/${page.key}/panels/${panel.key}`;
        const answers = await Promise.all(
          FRAMES.map(async ({ asOf, span, basis }, i) => {
            const asked = new URLSearchParams({ asOf, span, basis, unit: UNITS[i % 3]!, scope: SCOPES[i % 4]! });
            const { status, body } = await api.get(`${path}?${asked.toString()}`);
            return { status, body };
          }),
        );
        found[`${person} ${key}/${page.key}/${panel.key}`] = {
          figures: digest(answers.map(withoutWords)),
          answers: digest(answers.map(withoutClock)),
        };
      }
  }
  return found;
}

it("every panel answers, to everybody and in every frame, as it did", async () => {
  const found: Record<string, Recorded> = {};
  for (const person of PEOPLE) Object.assign(found, await recordOf(person));
  expect(Object.keys(found).length).toBeGreaterThan(60);
  if (process.env["HACKLE_RECORD"]) writeFileSync(RECORD, `${JSON.stringify(found, null, 2)}\n`);
  expect(found).toEqual(JSON.parse(readFileSync(RECORD, "utf8")));
});
