import type { z } from "zod";
import type { Records, RecordsDiff } from "#core/history/records-diff.ts";
import { applyDiff, isSame } from "#core/history/records-diff.ts";
import { MOST_PAGES, MOST_PANELS, isReadable } from "#contract/pack.ts";
import {
  packRecordSchema,
  pageRecordSchema,
  panelRecordSchema,
  parseRecordName,
  type PackRecordName,
  type PanelRecord,
} from "#contract/pack-records.ts";
import { referencesOf, type PanelDefinition } from "#core/panels/schemas.ts";
import { readStoredPanel } from "#contract/stored-panel.ts";
import type { Structure } from "#server/db/structure.ts";
import { ProblemError } from "#server/problems/problem-error.ts";
import { readRequest } from "#server/problems/to-problem.ts";

const SCHEMAS: Readonly<Record<PackRecordName["kind"], z.ZodType>> = {
  pack: packRecordSchema,
  page: pageRecordSchema,
  panel: panelRecordSchema,
};

/** Everything that an edit writes, read by its schema. Throws where a record is not of the pack, or cannot be read. */
export function readEdit(pack: string, { added, changed, removed }: RecordsDiff): RecordsDiff {
  const read = (name: string, record: unknown): unknown => {
    const of = parseRecordName(name);
    if (of?.pack !== pack)
      throw new ProblemError(
        "invalid-request",
        `An edit of "${pack}" cannot change "${name}": it is not part of that pack.`,
      );
    return readRequest(SCHEMAS[of.kind], record);
  };
  const entries = <V, T>(part: Readonly<Record<string, V>>, map: (name: string, value: V) => T) =>
    Object.fromEntries(Object.entries(part).map(([name, value]) => [name, map(name, value)]));
  return {
    added: entries(added, read),
    changed: entries(changed, (name, { from, to }) => ({ from, to: read(name, to) })),
    // What is taken away need not hold any more; it must only be of the pack.
    removed: entries(removed, (name, record) => {
      if (parseRecordName(name)?.pack !== pack) read(name, record);
      return record;
    }),
  };
}

/** Refuses an edit after which the pack would not hold together: what it writes must name what is there. */
export function refuseUnfit(structure: Structure, now: Records, diff: RecordsDiff): void {
  const after = applyDiff(now, diff);
  const panels = new Map<string, number>();
  let pages = 0;
  for (const name of Object.keys(after)) {
    const of = parseRecordName(name)!;
    if (of.kind === "page") pages += 1;
    if (of.kind === "page" && !Object.hasOwn(after, `pack/${of.pack}`))
      throw new ProblemError("not-found", `There is no pack "${of.pack}" to put the page on.`);
    if (of.kind !== "panel") continue;
    const page = `page/${of.pack}/${of.page}`;
    if (!Object.hasOwn(after, page))
      throw new ProblemError("not-found", `The page "${of.page}" is gone: there is nothing to put the panel on.`);
    panels.set(page, (panels.get(page) ?? 0) + 1);
  }
  if (Math.max(0, ...panels.values()) > MOST_PANELS)
    throw new ProblemError("invalid-change", `A page holds at most ${MOST_PANELS} panels. Remove one first.`);
  if (pages > MOST_PAGES)
    throw new ProblemError("invalid-change", `A pack holds at most ${MOST_PAGES} pages. Remove one first.`);
  for (const [name, record] of Object.entries({ ...diff.added, ...mapTo(diff.changed) })) {
    const of = parseRecordName(name)!;
    if (of.kind !== "panel") continue;
    const { definition } = record as PanelRecord;
    const before = now[name] as PanelRecord | undefined;
    if (!before || !isSame(before.definition, definition)) requirePanel(structure, of.panel, definition);
  }
}

function mapTo(changed: RecordsDiff["changed"]): Records {
  return Object.fromEntries(Object.entries(changed).map(([name, { to }]) => [name, to]));
}

function requirePanel(structure: Structure, key: string, definition: PanelRecord["definition"]): void {
  const panel = readStoredPanel(definition, key);
  if (!isReadable(panel))
    throw new ProblemError("invalid-request", `The panel "${key}" cannot be saved like this. ${panel.reason}`);
  if (panel.key !== key) throw new ProblemError("invalid-change", `A panel's key stays "${key}".`);
  requireNamed(structure, panel);
}

/** Everything that a panel names must be there. */
export function requireNamed(structure: Structure, panel: PanelDefinition): void {
  const { kpis, dimensions = [] } = referencesOf(panel);
  const unknown = kpis.find((key) => !structure.kpis.has(key) && !structure.kpiProblems.has(key));
  if (unknown !== undefined)
    throw new ProblemError(
      "unknown-kpi",
      `There is no KPI "${unknown}". Choose one from the library, or define it first.`,
    );
  for (const named of dimensions) {
    const dimension = structure.dimensions.find((d) => d.key === named.key);
    if (!dimension)
      throw new ProblemError("unknown-scope", `There is no dimension "${named.key}" to open or repeat by.`);
    if (named.level !== null && !dimension.levels.includes(named.level))
      throw new ProblemError(
        "unknown-scope",
        `${dimension.name} has no level "${named.level}". Its levels are ${dimension.levels.join(", ")}.`,
      );
  }
}
