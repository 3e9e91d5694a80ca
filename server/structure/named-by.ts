import type { Knex } from "knex";
import { readStoredKpis } from "#server/db/stored-kpis.ts";

/** Something of the structure that pages, KPIs and people may name. */
export interface NamedPart {
  readonly table: PartTable;
  readonly key: string;
}
export type PartTable = "dimension" | "dataset" | "scenario";

/** Under which names definitions speak of a part; whatever else has the same text is something else. */
const SPOKEN_OF: Readonly<Record<PartTable, readonly string[]>> = {
  dimension: ["dimension", "by", "rows", "columns", "expandBy", "repeatBy", "split", "cluster"],
  dataset: ["dataset"],
  scenario: ["basis", "scenario", "against", "fallbackBasis", "source", "version"],
};

/** Who still names a part, in words: a page, a pack, a KPI, a person; `undefined` where nobody does. */
export async function namedBy(knex: Knex, part: NamedPart): Promise<string | undefined> {
  const packs = await knex("pack").select<{ key: string; definition: { name?: unknown } }[]>("key", "definition");
  const nameOfPack = (key: string) => {
    const name = packs.find((pack) => pack.key === key)?.definition.name;
    return typeof name === "string" ? name : key;
  };
  const pack = packs.find(({ definition }) => speaksOf(definition, part));
  if (pack) return `the pack ${nameOfPack(pack.key)}`;
  const pages = await knex("page").select<{ pack: string; key: string; name: string; scope: unknown }[]>(
    "pack",
    "key",
    "name",
    "scope",
  );
  const panels = await knex("panel").select<{ pack: string; page: string; definition: unknown }[]>(
    "pack",
    "page",
    "definition",
  );
  const page = pages.find(
    (own) =>
      speaksOf({ scope: own.scope }, part) ||
      panels.some((panel) => panel.pack === own.pack && panel.page === own.key && speaksOf(panel.definition, part)),
  );
  if (page) return `the page ${page.name} of ${nameOfPack(page.pack)}`;
  const kpi = (await readStoredKpis(knex)).find(({ definition }) => speaksOf(definition, part));
  if (kpi) return `the KPI ${kpi.definition.name}`;
  if (part.table === "dimension") {
    const person: { name: string } | undefined = await knex("person")
      .whereRaw("jsonb_exists(scope, ?)", [part.key])
      .first("name");
    // Without the rule that names it, whoever is kept to a part would see all.
    if (person) return `what ${person.name} may see`;
    const event: unknown = await knex("known_event")
      .whereRaw("dimension = ? or jsonb_exists(scope, ?)", [part.key, part.key])
      .first("id");
    if (event) return "an event that is known";
  }
  return undefined;
}

/** Whether a stored definition names a part: under one of its names, or as a part of a scope. */
export function speaksOf(definition: unknown, { table, key }: NamedPart, under = ""): boolean {
  if (typeof definition === "string") return definition === key && SPOKEN_OF[table].includes(under);
  if (Array.isArray(definition)) return definition.some((item) => speaksOf(item, { table, key }, under));
  if (typeof definition !== "object" || definition === null) return false;
  return Object.entries(definition).some(
    ([name, value]) =>
      (table === "dimension" && under === "scope" && name === key) || speaksOf(value, { table, key }, name),
  );
}
