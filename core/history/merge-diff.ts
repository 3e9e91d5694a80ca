import { isSame, type Conflict, type Records, type RecordsDiff } from "./records-diff.ts";

/** A setting that was changed both ways; the whole record where `setting` is empty. */
export interface SettingConflict extends Conflict {
  readonly setting: string;
}

/** A diff fitted to a state that went on since it was made. */
export interface MergedDiff {
  /** What is left to do, from the state as it is now; nothing where there are conflicts. */
  readonly diff: RecordsDiff;
  readonly conflicts: readonly SettingConflict[];
}

/** How records are merged. */
export interface MergeRules {
  /** Settings that the last one who changes them decides, such as a place: by their path within a record. */
  readonly isLoose?: (setting: string) => boolean;
  /** How many levels down settings are told apart; below that they are changed whole. */
  readonly depth?: number;
}

/**
 * Fits a diff to the state as it is now, setting by setting: what others changed elsewhere in the same records
 * stays. A setting that both changed is a conflict, unless both made it the same. What was done already is
 * not done again, so that a diff may come twice.
 */
export function mergeDiff(now: Records, diff: RecordsDiff, rules: MergeRules = {}): MergedDiff {
  const conflicts: SettingConflict[] = [];
  const added: Record<string, unknown> = {};
  const changed: Record<string, { from: unknown; to: unknown }> = {};
  const removed: Record<string, unknown> = {};
  const refuse = (record: string, expected: unknown, setting = "") =>
    conflicts.push({ record, setting, expected, found: now[record] });
  for (const [record, to] of Object.entries(diff.added)) {
    if (!Object.hasOwn(now, record)) added[record] = to;
    else if (!isSame(now[record], to)) refuse(record, undefined);
  }
  for (const [record, { from, to }] of Object.entries(diff.changed)) {
    if (!Object.hasOwn(now, record)) {
      refuse(record, from);
      continue;
    }
    const { value, conflicts: settings } = mergeValue({ from, to, now: now[record] }, rules);
    for (const setting of settings) refuse(record, from, setting);
    if (!isSame(now[record], value)) changed[record] = { from: now[record], to: value };
  }
  for (const [record, from] of Object.entries(diff.removed)) {
    if (!Object.hasOwn(now, record)) continue;
    // Removing is a change of all its settings: of those that another changed meanwhile, somebody must know.
    const { conflicts: settings } = mergeValue({ from, to: undefined, now: now[record] }, rules);
    for (const setting of settings) refuse(record, from, setting);
    removed[record] = now[record];
  }
  return { diff: conflicts.length === 0 ? { added, changed, removed } : NOTHING, conflicts };
}

const NOTHING: RecordsDiff = { added: {}, changed: {}, removed: {} };

interface ThreeWays {
  readonly from: unknown;
  readonly to: unknown;
  readonly now: unknown;
}

/** One value of three: what it is now, with what a change made of it. Conflicts are named by their settings' paths. */
function mergeValue(
  { from, to, now }: ThreeWays,
  { isLoose = () => false, depth = 2 }: MergeRules,
  path = "",
): { value: unknown; conflicts: readonly string[] } {
  if (isSame(from, to)) return { value: now, conflicts: [] };
  if (isSame(now, from) || isSame(now, to) || (path !== "" && isLoose(path))) return { value: to, conflicts: [] };
  const level = path === "" ? 0 : path.split(".").length;
  // Where one of the three is no record, its settings are those of none.
  const isDeeper = level < depth && isPlain(from) && isPlain(now) && (isPlain(to) || to === undefined);
  if (!isDeeper) return { value: now, conflicts: [path] };
  const value: Record<string, unknown> = {};
  const conflicts: string[] = [];
  const [before, after, found] = [from, to ?? {}, now] as Record<string, unknown>[];
  for (const part of new Set([before, after, found].flatMap((record) => Object.keys(record!)))) {
    const merged = mergeValue(
      { from: before![part], to: after![part], now: found![part] },
      { isLoose, depth },
      path === "" ? part : `${path}.${part}`,
    );
    conflicts.push(...merged.conflicts);
    if (merged.value !== undefined) value[part] = merged.value;
  }
  return { value, conflicts };
}

function isPlain(value: unknown): boolean {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
