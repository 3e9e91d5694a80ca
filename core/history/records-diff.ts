/** A thing as it is kept, by its name: plain data that can be written as JSON. */
export type Records = Readonly<Record<string, unknown>>;

/** The difference between two states of some records: enough to apply it, and to take it back. */
export interface RecordsDiff {
  readonly added: Records;
  readonly changed: Readonly<Record<string, { readonly from: unknown; readonly to: unknown }>>;
  readonly removed: Records;
}

/** A record that is not as a diff expects it; `undefined` stands for none. */
export interface Conflict {
  readonly record: string;
  readonly expected: unknown;
  readonly found: unknown;
}

/** What leads from one state to another. */
export function diffRecords(before: Records, after: Records): RecordsDiff {
  const added: Record<string, unknown> = {};
  const changed: Record<string, { from: unknown; to: unknown }> = {};
  const removed: Record<string, unknown> = {};
  for (const [name, to] of Object.entries(after)) {
    if (!Object.hasOwn(before, name)) added[name] = to;
    else if (!isSame(before[name], to)) changed[name] = { from: before[name], to };
  }
  for (const [name, from] of Object.entries(before)) if (!Object.hasOwn(after, name)) removed[name] = from;
  return { added, changed, removed };
}

/** Whether nothing changed. */
export function isEmptyDiff({ added, changed, removed }: RecordsDiff): boolean {
  return [added, changed, removed].every((part) => Object.keys(part).length === 0);
}

/** The diff that takes this one back. */
export function reverseDiff({ added, changed, removed }: RecordsDiff): RecordsDiff {
  return {
    added: removed,
    changed: Object.fromEntries(Object.entries(changed).map(([name, { from, to }]) => [name, { from: to, to: from }])),
    removed: added,
  };
}

/** Where a diff does not fit a state: what it changes is not as it was. Nothing where it does. */
export function conflictsOf(now: Records, { added, changed, removed }: RecordsDiff): Conflict[] {
  const differs = (record: string, expected: unknown): Conflict[] => {
    const found = Object.hasOwn(now, record) ? now[record] : undefined;
    return isSame(said(found), said(expected)) ? [] : [{ record, expected, found }];
  };
  return [
    ...Object.keys(added).flatMap((name) => differs(name, undefined)),
    ...Object.entries(changed).flatMap(([name, { from }]) => differs(name, from)),
    ...Object.entries(removed).flatMap(([name, record]) => differs(name, record)),
  ];
}

/**
 * A record without the settings that nobody set: one that was kept before there was such a setting is as expected still.
 */
function said(record: unknown): unknown {
  return typeof record === "object" && record !== null && !Array.isArray(record)
    ? Object.fromEntries(Object.entries(record).filter(([, value]) => value !== null))
    : record;
}

/** The state after a diff, which must fit it. */
export function applyDiff(now: Records, { added, changed, removed }: RecordsDiff): Records {
  const after: Record<string, unknown> = { ...now, ...added };
  for (const [name, { to }] of Object.entries(changed)) after[name] = to;
  for (const name of Object.keys(removed)) delete after[name];
  return after;
}

/** Whether two plain values are alike, in whatever order their properties stand; what is `undefined` is not there. */
export function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = (value: object) =>
    Object.keys(value).filter((key) => (value as Record<string, unknown>)[key] !== undefined);
  const own = keys(a);
  if (own.length !== keys(b).length) return false;
  return own.every((key) => isSame((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]));
}
