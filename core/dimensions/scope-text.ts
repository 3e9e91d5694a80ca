import type { Scope } from "./scope.ts";

/** Reads "route:a,b;vessel:c" into a scope; `undefined` when it is not written so. */
export function parseScope(text: string): Record<string, string[]> | undefined {
  const scope: Record<string, string[]> = {};
  for (const part of text.split(";").filter((p) => p !== "")) {
    const match = /^([a-z0-9-]+):([a-z0-9,-]*)$/.exec(part);
    if (!match) return undefined;
    scope[match[1]!] = match[2]!.split(",").filter((m) => m !== "");
  }
  return scope;
}

/** Writes a scope in the form `parseScope` reads, always in the same order. */
export function formatScope(scope: Scope): string {
  return Object.keys(scope)
    .sort()
    .map((key) => `${key}:${[...scope[key]!].sort().join(",")}`)
    .join(";");
}
