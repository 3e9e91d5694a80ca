import type { Knex } from "knex";
import { kpiDefinitionSchema, type KpiDefinition } from "#core/kpis/schema.ts";

/** A KPI as it is stored: its definition, how often it was changed, and why it cannot be read as it is. */
export interface StoredKpi {
  readonly definition: KpiDefinition;
  readonly version: number;
  readonly problem: string | null;
}

/** What a KPI starts from where a part of its stored definition cannot be read. */
const BLANK: Omit<KpiDefinition, "key" | "name" | "formula"> = {
  unit: { kind: "money" },
  decimals: 0,
  direction: "neutral",
  tolerance: { kind: "percent", percent: 0 },
  owner: "",
  description: "",
  status: null,
  fallbackBasis: null,
};

/** Reads the library as it is stored, in its order. One that cannot be read keeps its place with what can be read of it. */
export async function readStoredKpis(knex: Knex): Promise<StoredKpi[]> {
  const rows = await knex("kpi")
    .orderBy("position")
    .select<{ key: string; definition: unknown; version: number }[]>("key", "definition", "version");
  return rows.map(({ key, definition, version }) => {
    const read = kpiDefinitionSchema.safeParse(definition);
    if (read.success) return { definition: read.data, version, problem: null };
    const [issue] = read.error.issues;
    const problem = `Its stored definition cannot be read at "${issue?.path.join(".") ?? ""}": ${issue?.message ?? "unknown"}. Check it and save it again.`;
    return { definition: salvage(key, definition), version, problem };
  });
}

/** As much of a definition as can be read. */
function salvage(key: string, stored: unknown): KpiDefinition {
  const record = (typeof stored === "object" && stored !== null ? stored : {}) as Record<string, unknown>;
  const parts = Object.entries(kpiDefinitionSchema.shape).flatMap(([part, schema]) => {
    const read = schema.safeParse(record[part]);
    return read.success ? [[part, read.data] as const] : [];
  });
  return { ...BLANK, name: key, formula: key, ...Object.fromEntries(parts), key };
}
