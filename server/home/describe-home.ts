import type { Knex } from "knex";
import { kpisOffPlan } from "#core/alerts/off-plan.ts";
import { openMonth } from "#core/frame/open-month.ts";
import type { Home } from "#contract/home.ts";
import type { Pack } from "#contract/pack.ts";
import type { Reader } from "#server/access/reader.ts";
import { latestOfOthers } from "#server/history/history.ts";
import { ask, type Workspace } from "#server/facts/workspace.ts";
import { pagesWith } from "#server/kpis/soundness.ts";
import { describeBeginning } from "./beginning.ts";
import { readPacks } from "#server/packs/pack-rows.ts";

/** News is of so many days, and so many lines at the most. */
const NEWS_DAYS = 31;
const MOST_NEWS = 8;

/** What matters before anything is opened, in what the reader may see. */
export async function describeHome(knex: Knex, workspace: Workspace, reader: Pick<Reader, "name">): Promise<Home> {
  const month = openMonth(workspace.structure);
  const beginning = await describeBeginning(knex);
  const packs = await readPacks(knex);
  const news = await readNews(knex, packs, reader);
  if (month === null) return { openMonth: null, beginning, news, offPlan: null };
  const found = await ask(workspace, {}, (question) => ({
    words: question.asked.answer.words,
    kpis: kpisOffPlan(question),
  }));
  const { asOf, span, basis } = found.words;
  return {
    openMonth: month,
    beginning,
    news,
    offPlan: {
      frame: `${asOf}, ${span}, against ${basis}`,
      kpis: found.kpis.map((row) => ({ ...row, page: pagesWith(packs, row.kpi.key)[0] ?? null })),
    },
  };
}

/** What others changed on the pages. */
async function readNews(knex: Knex, packs: readonly Pack[], { name }: Pick<Reader, "name">): Promise<Home["news"]> {
  const since = new Date(Date.now() - NEWS_DAYS * 86_400_000);
  const changes = await latestOfOthers(knex, { area: "pack", notBy: name, since, limit: 4 * MOST_NEWS });
  return changes
    .map(({ records, ...change }) => {
      // A panel's record is called after its page, and a page's after its pack.
      const places = records.map((record) => record.split("/"));
      const [, packKey, pageKey] = places.find(([kind, , page]) => kind !== "pack" && page !== undefined) ?? [];
      const pack = packs.find(({ key }) => key === packKey);
      const page = pack?.pages.find(({ key }) => key === pageKey);
      return {
        ...change,
        isOfRetired: pack?.isRetired === true,
        page: pack && page ? { pack: pack.key, packName: pack.name, page: page.key, name: page.name } : null,
      };
    })
    .filter(({ isOfRetired }) => !isOfRetired)
    .map(({ isOfRetired: _, ...change }) => change)
    .filter((change, i, all) => !isSaidBefore(change, all[i - 1]))
    .slice(0, MOST_NEWS);
}

type News = Home["news"][number];

/** Whether the change after it, by the same person and of the same page, says the same. */
function isSaidBefore({ by, said, page }: News, later: News | undefined): boolean {
  return later?.by === by && later.said === said && later.page?.pack === page?.pack && later.page?.page === page?.page;
}
