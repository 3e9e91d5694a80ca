import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { hasEnded } from "#core/checks/job-state.ts";
import type { Job } from "#contract/intake.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import { connect } from "#server/db/connect.ts";
import { postDraft } from "#server/intake/drafts/post-draft.ts";
import { readLimits } from "#server/intake/limits.ts";
import { ANALYST, IN_MEMORY, serveApi, type ApiClient } from "#testing/api.ts";
import { intakeClient, type IntakeClient } from "#testing/intake-client.ts";
import { openOwnDatabase, type OwnDatabase } from "#testing/own-database.ts";
import { startCompany } from "#testing/stranger.ts";

let database: OwnDatabase;
let api: ApiClient;
let other: ApiClient;
let client: IntakeClient;
beforeAll(async () => {
  database = await openOwnDatabase(inject("clusterUrl"), "blocks_nobody");
  api = await serveApi(database.knex, IN_MEMORY);
  await api.signIn(ANALYST);
  client = intakeClient(api);
  other = await serveApi(database.knex, { files: api.files });
  await startCompany(other, { name: "Other" });
});
afterAll(async () => {
  await Promise.all([api.close(), other.close()]);
  await database.drop();
});

const file = (month: string, rows: number) =>
  [
    "Period,Account,Route,Amount,Document",
    ...Array.from({ length: rows }, (_, i) => `${month},Repairs,Tarn Point–Osk,-${(i % 90) + 1}.25,B${month}${i}`),
  ].join("\n");

describe("while a file is posted", () => {
  it("people of its company, and of another one, read and edit as if it were not", async () => {
    const draft = await client.upload("large.csv", file("2026-11", 60_000));
    const { body } = await api.send("POST", `/api/drafts/${draft.id}/post`, { version: draft.version });
    let job = body as Job;
    const done: string[] = [];
    const kpi = ((await api.get("/api/kpis")).body as LibraryKpi[])[0]!;
    const edits: Record<string, () => Promise<{ status: number }>> = {
      page: () => api.get("/api/packs/monthly-review/pages/cover/answers"),
      kpi: () => api.send("GET", `/api/kpis/${kpi.definition.key}/history`),
      structure: () => api.send("PUT", "/api/structure/datasets/targets", { name: `Targets ${done.length}` }),
      look: () => api.send("PUT", "/api/session/writing", { numbers: done.length % 2 === 0 ? "1.234,5" : null }),
      "other company's structure": () =>
        other.send("POST", "/api/structure/dimensions", { name: `D${done.length}`, plural: `Ds ${done.length}` }),
      "other company": () => other.send("PUT", "/api/company", { weekStart: 6 }),
    };
    while (!hasEnded(job)) {
      for (const [name, edit] of Object.entries(edits)) {
        const { status } = await edit();
        expect([name, status]).toEqual([name, 200]);
        done.push(name);
      }
      job = (await api.get(`/api/jobs/${job.id}`)).body as Job;
    }
    expect(job.state).toBe("done");
    // They did not wait for its end: each of them was made meanwhile, and some again.
    expect(done.length).toBeGreaterThan(Object.keys(edits).length);
  });

  it("the database is asked as often whatever its number of rows", async () => {
    const statements: number[] = [];
    const own = connect(database.url, { poolSize: 2 });
    for (const [month, rows] of [
      ["2027-01", 20],
      ["2027-02", 8_000],
    ] as const) {
      const draft = await client.upload(`rows-${rows}.csv`, file(month, rows));
      const [job]: { id: number }[] = await database
        .knex("job")
        .insert({ kind: "post", draft_id: draft.id, file_name: "x", state: "running", started_by: "x" })
        .returning("id");
      let asked = 0;
      const note = () => void (asked += 1);
      own.on("query", note);
      await postDraft(
        own,
        { folder: api.files, limits: readLimits({}) },
        { id: draft.id, version: draft.version, person: "Maren Holt", jobId: job!.id, company: "sample" },
        () => {},
      );
      own.off("query", note);
      statements.push(asked);
    }
    await own.destroy();
    expect(statements[1]).toBe(statements[0]);
  });
});
