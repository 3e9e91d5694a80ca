import { Router, type Response } from "express";
import type { Knex } from "knex";
import { parseMonth, type Month } from "#core/calendar/month.ts";
import { exportQuerySchema, OPERATIONS } from "#contract/operations.ts";
import { parseScope } from "#core/dimensions/scope-text.ts";
import { visibleDimensions } from "#core/dimensions/confine.ts";
import type { Structure } from "#server/db/structure.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import type { FactQuery } from "#server/facts/fact-source.ts";
import { factsToCsv, writeParquet } from "#server/export/export-facts.ts";
import { writeRows, type Downloads } from "#server/export/downloads.ts";
import { confineSource } from "#server/facts/confine-source.ts";
import { sqlFactSource } from "#server/facts/fact-source.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import type { ReadingRoutes } from "./reading-routes.ts";
import { readerOf } from "./session-routes.ts";

/** Datasets as files, inside what the reader may see. */
export function exportRoutes({
  readStructure,
  exportsKnex,
  downloads,
  personOf,
}: Pick<ReadingRoutes, "readStructure"> & {
  /** Exports have connections of their own, so that they take none from pages. */
  readonly exportsKnex: Knex;
  readonly downloads: Downloads;
  readonly personOf: (res: Response) => string;
}): Router {
  const router = Router();
  router.get(OPERATIONS.exportable.path, async (_req, res) => {
    const { coverage, dimensions } = await readStructure();
    const named = ({ key, name }: { key: string; name: string }) => ({ key, name });
    res.json({
      datasets: [...coverage.datasets.values()].map(named),
      scenarios: [...coverage.scenarios.values()].map(named),
      dimensions: visibleDimensions(dimensions, readerOf(res).scope).map((d) => ({
        ...named(d),
        members: d.members.map(named),
      })),
    });
  });
  router.get(OPERATIONS.exportDataset.path, async (req, res) => {
    const { format, ...rest } = readRequest(exportQuerySchema, req.query);
    const structure = await readStructure();
    const query = resolveQuery(String(req.params["dataset"]), rest, structure);
    const source = confineSource(sqlFactSource(exportsKnex, structure), structure.dimensions, readerOf(res).scope);
    const person = personOf(res);
    if (format === "csv")
      await downloads.send(res, {
        fileName: `${query.dataset}.csv`,
        type: "text/csv; charset=utf-8",
        person,
        write: writeRows(factsToCsv(structure, query.dataset, source.facts(query))),
      });
    else
      await downloads.send(res, {
        fileName: `${query.dataset}.parquet`,
        type: "application/vnd.apache.parquet",
        person,
        write: (path, signal) => writeParquet(path, structure, query.dataset, untilGone(source.facts(query), signal)),
      });
  });
  return router;
}

/** Facts until whoever asked for them is gone. */
async function* untilGone<T>(facts: AsyncIterable<T>, signal: AbortSignal): AsyncGenerator<T> {
  for await (const fact of facts) {
    signal.throwIfAborted();
    yield fact;
  }
}

function resolveQuery(
  dataset: string,
  query: {
    scenario?: string | undefined;
    from?: string | undefined;
    to?: string | undefined;
    scope?: string | undefined;
  },
  structure: Structure,
): FactQuery {
  if (!structure.coverage.datasets.has(dataset))
    throw new ProblemError(
      "not-found",
      `There is no dataset "${dataset}". There are ${[...structure.coverage.datasets.keys()].join(", ")}.`,
    );
  const month = (text: string | undefined): Month | null => {
    if (text === undefined) return null;
    const parsed = parseMonth(text);
    if (parsed === undefined)
      throw new ProblemError(
        "unknown-period",
        `"${text}" is not a month. Write it as year and month, such as 2026-10.`,
      );
    return parsed;
  };
  const scenarios = query.scenario === undefined ? [] : query.scenario.split(",");
  const unknown = scenarios.find((key) => !structure.coverage.scenarios.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-basis",
      `There is no scenario "${unknown}". There are ${[...structure.coverage.scenarios.keys()].join(", ")}.`,
    );
  const scope = parseScope(query.scope ?? "");
  if (!scope)
    throw new ProblemError(
      "unknown-scope",
      `The scope "${query.scope}" cannot be read. It is written as dimension:member,member;dimension:member.`,
    );
  for (const [key, members] of Object.entries(scope)) {
    const own = structure.dimensions.find((d) => d.key === key);
    const strange = members.find((m) => !own?.members.some((known) => known.key === m));
    if (!own || strange !== undefined)
      throw new ProblemError(
        "unknown-scope",
        own ? `There is no ${own.name.toLowerCase()} "${strange}".` : `There is no dimension "${key}".`,
      );
  }
  return { dataset, scenarios, from: month(query.from), to: month(query.to), scope };
}
