import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { ANALYST, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";

/** What another version of Hackle stored about files, in a form that this one does not read. */
let database: OwnDatabase;
let api: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "stored_elsewhere");
  api = await serveApi(database.knex);
  await api.signIn(ANALYST);
  client = intakeClient(api);
});
afterAll(async () => {
  await api.close();
  await database.drop();
});

const FILE = "Period;Account;Route;Amount\n2026-11;Repairs;Tarn Point–Osk;5,50\n2026-11;Repairs;Tarn Point–Osk;6,25\n";
const FOREIGN = [
  {},
  null,
  [],
  "text",
  { reading: { encoding: "ebcdic" }, rules: 7 },
  { rules: { steps: [{ kind: "spin" }] } },
];

describe("a draft that cannot be read as it is stored", () => {
  it.each(FOREIGN.map((definition) => ({ definition })))(
    "opens with what its file proposes, says so, and can be posted: $definition",
    async ({ definition }) => {
      const draft = await client.upload("stored.csv", FILE);
      await database
        .knex("draft")
        .where({ id: draft.id })
        .update({ definition: JSON.stringify(definition) });
      expect((await api.get("/api/drafts")).status).toBe(200);
      const again = await client.get<typeof draft>(`/api/drafts/${draft.id}`);
      expect(again.note).toContain("They were proposed again: look at them before you post.");
      expect(again.definition).toEqual(draft.definition);
      const checked = await client.change(again, {});

      expect(checked.note).toBeNull();
      expect(checked.report?.facts).toBe(2);
      expect((await api.send("DELETE", `/api/drafts/${draft.id}?version=${checked.version}`)).status).toBeLessThan(500);
    },
  );
  it("keeps how the file is read where that part still holds", async () => {
    const draft = await client.upload("stored.csv", FILE);
    const reading = { ...draft.definition.reading, decimalMark: "," as const };
    await database
      .knex("draft")
      .where({ id: draft.id })
      .update({ definition: JSON.stringify({ reading }) });
    const again = await client.get<typeof draft>(`/api/drafts/${draft.id}`);
    expect(again.definition.reading).toEqual(reading);
  });
});

describe("an intake that cannot be read as it is stored", () => {
  it("does not stop files of its kind, which are understood anew, nor the list of intakes", async () => {
    const draft = await client.upload("kind.csv", FILE);
    expect((await client.post(await client.checked(draft.id))).state).toBe("done");
    const intake = await database.knex("intake").orderBy("id", "desc").first<{ id: number }>("id");
    const known = await client.upload("kind again.csv", FILE);
    expect(known.intake?.id).toBe(intake.id);
    await database.knex("intake").update({ definition: JSON.stringify({ rules: "gone" }) });
    const anew = await client.upload("kind once more.csv", FILE);
    expect(anew.intake).toBeNull();
    expect(anew.report?.facts).toBe(2);
    expect((await api.get("/api/intakes")).status).toBe(200);
  });
});
