import type { Knex } from "knex";
import { visibleDimensions } from "#core/dimensions/confine.ts";
import type { EXPORTS } from "#contract/operations/exports.ts";
import type { Structure } from "#server/db/structure.ts";
import { writeRows } from "#server/export/downloads.ts";
import { exportQuery } from "#server/export/export-query.ts";
import { factsToCsv, writeParquet } from "#server/export/export-facts.ts";
import { confineSource } from "#server/facts/confine-source.ts";
import { sqlFactSource } from "#server/facts/fact-source.ts";
import type { Routes } from "../serve-operations.ts";

/** Datasets as files, inside what the reader may see. */
export function exportRoutes({
  readStructure,
  exportsKnex,
}: {
  readonly readStructure: () => Promise<Structure>;
  /** Exports have connections of their own, so that they take none from pages. */
  readonly exportsKnex: Knex;
}): Routes<typeof EXPORTS> {
  return {
    exportable: async ({ reader }) => {
      const { coverage, dimensions } = await readStructure();
      const named = ({ key, name }: { key: string; name: string }) => ({ key, name });
      return {
        datasets: [...coverage.datasets.values()].map(named),
        scenarios: [...coverage.scenarios.values()].map(named),
        dimensions: visibleDimensions(dimensions, reader.scope).map((d) => ({
          ...named(d),
          members: d.members.map(named),
        })),
      };
    },
    exportDataset: async ({ params, query: { format, ...asked }, reader }) => {
      const structure = await readStructure();
      const query = exportQuery(params.dataset, asked, structure);
      const facts = confineSource(sqlFactSource(exportsKnex, structure), structure.dimensions, reader.scope).facts(
        query,
      );
      if (format === "csv")
        return {
          fileName: `${query.dataset}.csv`,
          type: "text/csv; charset=utf-8",
          write: writeRows(factsToCsv(structure, query.dataset, facts)),
        };
      return {
        fileName: `${query.dataset}.parquet`,
        type: "application/vnd.apache.parquet",
        write: (path, signal) => writeParquet(path, structure, query.dataset, untilGone(facts, signal)),
      };
    },
  };
}

/** Facts until whoever asked for them is gone. */
async function* untilGone<T>(facts: AsyncIterable<T>, signal: AbortSignal): AsyncGenerator<T> {
  for await (const fact of facts) {
    signal.throwIfAborted();
    yield fact;
  }
}
