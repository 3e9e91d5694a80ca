import { PANEL_KINDS, type PanelKind } from "#core/panels/schemas.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { Attempt } from "#core/workbench/attempt.ts";
import type { AskedLine } from "#core/workbench/read-line.ts";

/** What the workbench looks at, as its address has it. */
export function readAttempt(search: URLSearchParams): Attempt | null {
  const kpis = (search.get("kpi") ?? "").split(",").filter((key) => key !== "");
  if (kpis.length === 0) return null;
  const [dimension, level] = (search.get("split") ?? "").split("/");
  const kind = search.get("kind");
  return {
    kpis,
    split: dimension ? { dimension, level: level ? level : null } : null,
    kind: PANEL_KINDS.find((own) => own === kind) ?? null,
  };
}

/** An attempt's parts of the address; what is not said is left out. */
export function attemptParams({ kpis, split, kind }: Attempt): Record<"kpi" | "split" | "kind", string | undefined> {
  return {
    kpi: kpis.length === 0 ? undefined : kpis.join(","),
    split: split ? `${split.dimension}/${split.level ?? ""}` : undefined,
    kind: (kind satisfies PanelKind | null) ?? undefined,
  };
}

/** The address of what a line asks for. */
export function workbenchAddress(asked: AskedLine): string {
  const members: Record<string, string[]> = {};
  for (const { dimension, member } of asked.members) (members[dimension] ??= []).push(member);
  const params = new URLSearchParams();
  const parts = {
    ...attemptParams(asked),
    basis: asked.basis ?? undefined,
    span: asked.span ?? undefined,
    scope: asked.members.length === 0 ? undefined : formatScope(members),
  };
  for (const [part, value] of Object.entries(parts)) if (value !== undefined) params.set(part, value);
  return `/workbench?${params.toString()}`;
}
