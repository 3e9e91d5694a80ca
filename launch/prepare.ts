import { existsSync } from "node:fs";
import { join } from "node:path";
import { connect } from "#server/db/connect.ts";
import { migrate } from "#server/db/migrate.ts";
import { isEmpty } from "./database.ts";
import { writeFeed } from "./feed.ts";
import { LaunchError, step } from "./progress.ts";
import { loadSampleApart } from "./sample-process.ts";

/** Migrates the database and, when it is empty, loads the sample company. */
export async function prepareDatabase(
  url: string,
  { scale = 1, home }: { scale?: number; home: string },
): Promise<void> {
  const knex = connect(url, { poolSize: 2 });
  try {
    await step("Schema", async () => {
      const applied = await migrate(knex);
      return {
        value: undefined,
        said: applied.length > 0 ? `${applied.length} migration${applied.length > 1 ? "s" : ""} applied` : "up to date",
      };
    });
    if (!offersSample()) {
      await step("Sample company", () => Promise.resolve({ value: undefined, said: "left out (HACKLE_SAMPLE=off)" }));
      return;
    }
    const feed = join(home, "feed");
    if (!existsSync(feed)) {
      await step("Feed", async () => {
        const names = await writeFeed(feed);
        return { value: undefined, said: `${count(names.length)} files wait in ${feed}` };
      });
    }
    await step("Sample company", async () => {
      if (!(await isEmpty(knex))) {
        const {
          rows: [row],
        } = await knex.raw<{ rows: { loads: string; rows: string }[] }>(
          "select count(*) as loads, sum(rows) as rows from load",
        );
        return {
          value: undefined,
          said: `there already: ${count(Number(row?.rows ?? 0))} rows in ${count(Number(row?.loads ?? 0))} loads`,
        };
      }
      const { loads, rows } = await loadSampleApart(url, scale);
      return { value: undefined, said: `${count(rows)} rows generated and posted in ${count(loads)} loads` };
    });
  } finally {
    await knex.destroy();
  }
}

/** Whether the sample company is to be there. */
export function offersSample(): boolean {
  const said = process.env["HACKLE_SAMPLE"] ?? "on";
  if (said !== "on" && said !== "off") throw new LaunchError(`HACKLE_SAMPLE is "${said}"; it must be on or off.`);
  return said === "on";
}

/** A whole number with grouped thousands. */
export function count(value: number): string {
  return value.toLocaleString("en-GB");
}
