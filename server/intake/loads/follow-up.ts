import { setImmediate as nextTurn } from "node:timers/promises";
import type { Knex } from "knex";
import { figuresNow, movedFigures, type FigureAt, type Touched } from "#core/alerts/moved-figures.ts";
import { standingChanges, type Standing } from "#core/alerts/standing.ts";
import { standingsNow } from "#core/alerts/standings-now.ts";
import { unusualFigures, watchedKpis, type UnusualFigure } from "#core/alerts/unusual-figures.ts";
import { inWriting } from "#core/formats/writing.ts";
import type { Mapping } from "#core/mapping/mapping.ts";
import { readStructure, type Structure } from "#server/db/structure.ts";
import { askAll } from "#server/facts/workspace.ts";
import { addFirstLook } from "#server/packs/first-look.ts";
import type { Additions } from "../drafts/check-draft.ts";
import type { LoadAlerts } from "./alerts.ts";
import type { Brought } from "./brought.ts";

/** How things stood before a load, and what it touches: kept with it until what follows from it was worked out. */
export interface StoodBefore {
  readonly touched: readonly (Omit<Touched, "accounts"> & { readonly accounts: readonly string[] })[];
  readonly figures: readonly (Omit<FigureAt, "kpi"> & { readonly kpi: string })[];
  readonly standings: { readonly month: string; readonly standings: readonly Standing[] };
  readonly dataset: string;
  /** How the file of a new dataset was mapped, of which its first page is made. */
  readonly mapping: Mapping | null;
}

/** What a file touches. */
function touchedBy({ months, accounts }: Additions): StoodBefore["touched"] {
  return [...new Set(months.map((m) => m.scenario))].map((scenario) => ({
    scenario,
    months: months.filter((m) => m.scenario === scenario).map((m) => m.month),
    accounts: accounts.filter((a) => a.scenario === scenario).map((a) => a.account),
  }));
}

function readTouched(touched: StoodBefore["touched"]): Touched[] {
  return touched.map((own) => ({ ...own, accounts: new Set(own.accounts) }));
}

/** How things stand before a file is posted. */
export async function standBefore(
  knex: Knex,
  structure: Structure,
  additions: Additions,
  { dataset, mapping }: Pick<StoodBefore, "dataset" | "mapping">,
): Promise<StoodBefore> {
  const touched = touchedBy(additions);
  const figures = await askAll(knex, structure, (cells) => figuresNow(structure, readTouched(touched), cells));
  const standings = await askAll(knex, structure, (cells) => standingsNow(structure, cells));
  return {
    touched,
    figures: figures.map((at) => ({ ...at, kpi: at.kpi.definition.key })),
    standings,
    dataset,
    mapping,
  };
}

/**
 * Works out what follows from a load, after it counts: which figures it moved and how they stand now, what is out of the
 * ordinary, and the first page of a dataset that came with it. Done once, however often it is begun.
 */
export async function followUp(knex: Knex, loadId: number): Promise<void> {
  const load = await knex("load")
    .where({ id: loadId, followed_up: false })
    .first<LoadRow | undefined>("id", "dataset_id", "undone_at", "brought", "stood_before");
  if (!load) return;
  // Nothing is known yet of a table that has just grown, and a plan made in the dark may take minutes.
  await knex.raw(`analyze fact_${load.dataset_id}`);
  const before = load.stood_before;
  const found = before && load.undone_at === null ? await whatFollows(knex, before) : {};
  await knex.transaction(async (trx) => {
    const still: unknown = await trx("load").where({ id: loadId, followed_up: false }).forUpdate().first("id");
    if (!still) return;
    const made =
      before?.mapping && load.undone_at === null
        ? await addFirstLook(trx, await readStructure(trx), before.mapping)
        : { packs: [], kpis: [] };
    await trx("load")
      .where({ id: loadId })
      .update({
        ...found,
        followed_up: true,
        stood_before: null,
        ...(load.brought ? { brought: JSON.stringify({ ...load.brought, ...made }) } : {}),
      });
  });
}

interface LoadRow {
  readonly id: number;
  readonly dataset_id: number;
  readonly undone_at: Date | null;
  readonly brought: Brought | null;
  readonly stood_before: StoodBefore | null;
}

async function whatFollows(knex: Knex, before: StoodBefore): Promise<{ moved: string; alerts: string }> {
  const after = await readStructure(knex);
  const touched = readTouched(before.touched);
  const figures = await askAll(knex, after, (cells) => figuresNow(after, touched, cells));
  const was = before.figures.flatMap((at): FigureAt[] => {
    const kpi = after.kpis.get(at.kpi);
    return kpi ? [{ ...at, kpi }] : [];
  });
  const standings = await askAll(knex, after, (cells) => standingsNow(after, cells));
  const since =
    before.standings.month === standings.month || before.standings.month === ""
      ? ""
      : `, after ${before.standings.month}`;
  const alerts: LoadAlerts = {
    words: `${standings.month} and year to date${since}`,
    changes: standingChanges(before.standings.standings, standings.standings),
    unusual: await unusualIn(knex, after, touched, before.dataset),
  };
  return { moved: JSON.stringify(movedFigures(was, figures)), alerts: JSON.stringify(alerts) };
}

/** What of the load is out of the ordinary, the farthest first; others are served between one KPI and the next. */
async function unusualIn(
  knex: Knex,
  structure: Structure,
  touched: readonly Touched[],
  dataset: string,
): Promise<UnusualFigure[]> {
  const isByDay = structure.coverage.datasets.get(dataset)?.grain === "day";
  const watched = await askAll(knex, structure, (cells) => watchedKpis(structure, touched, isByDay, cells));
  const found: UnusualFigure[] = [];
  for (const one of watched) {
    await nextTurn();
    found.push(...inWriting(structure, () => unusualFigures(one, structure)));
  }
  return found.sort((a, b) => Math.abs(b.worst) - Math.abs(a.worst));
}
