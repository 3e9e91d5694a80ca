import { bundleReads } from "#core/cube/bundle-reads.ts";
import { bindCells } from "#core/cube/cell-book.ts";
import type { CellSource } from "#core/cube/cell-source.ts";
import type { MeasureContext, MeasureFrame } from "#core/compare/measure.ts";
import { planReads, type Ask } from "#core/compare/plan-reads.ts";
import { EVERYTHING } from "#core/dimensions/scope.ts";
import type { Structure } from "#server/db/structure.ts";
import type { ResolvedFrame } from "./resolve-frame.ts";
import type { Workspace } from "./workspace.ts";

/** The frame that a reader's question is measured in. */
export function measureFrame({ structure, reader }: Workspace, resolved: ResolvedFrame): MeasureFrame {
  return {
    ...structureFrame(structure),
    scope: resolved.scope,
    access: reader.scope,
    ...(resolved.scopeAbsence === undefined ? {} : { scopeAbsence: resolved.scopeAbsence }),
  };
}

/** The frame in which nothing is narrowed. */
export function structureFrame({ accounts, calendar, dimensions, coverage }: Structure): MeasureFrame {
  return { accounts, calendar, dimensions, coverage, scope: EVERYTHING, access: EVERYTHING };
}

/** Reads the cells that asks will look up, each once. */
export async function readContext(
  source: CellSource,
  frame: MeasureFrame,
  asks: readonly Ask[],
): Promise<MeasureContext> {
  const reads = await Promise.all(
    bundleReads(planReads(asks, frame), frame.dimensions).map(async ({ query, split }) =>
      split(await source.cells(query)),
    ),
  );
  return { ...frame, cells: bindCells(new Map(reads.flat())) };
}
