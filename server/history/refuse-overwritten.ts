import { isSame } from "#core/history/records-diff.ts";
import { ProblemError } from "#server/problems/problem-error.ts";

/** Settings, some of which may not be said. */
type Said<T> = { readonly [Key in keyof T]?: T[Key] | undefined };

/**
 * Throws a problem with both versions where settings that are to be changed are no longer what whoever changes them saw
 * (`was`), so that nobody overwrites unseen what another has just set. What is already as it is to be stands against nothing.
 */
export function refuseOverwritten<T extends object>(
  what: string,
  { now, was, to }: { readonly now: T; readonly was: Said<T> | undefined; readonly to: Said<T> },
): void {
  if (!was) return;
  const keys = (Object.keys(to) as (keyof T)[]).filter((key) => to[key] !== undefined);
  const strange = keys.filter((key) => key in was && !isSame(now[key], was[key]) && !isSame(now[key], to[key]));
  if (strange.length === 0) return;
  const pick = (from: Said<T>) => Object.fromEntries(keys.map((key) => [key, from[key]]));
  throw new ProblemError(
    "changed-meanwhile",
    `Someone else changed ${what} in the meantime. Your change is not saved yet: compare both versions and choose.`,
    { both: { current: pick(now), yours: pick(to) } },
  );
}
