import { Link, useSearchParams } from "react-router";
import type { PanelKind } from "#core/panels/schemas.ts";
import type { RepeatBy } from "#core/panels/parts/repetition.ts";
import { attemptParams } from "../workbench/attempt-address.ts";

/** The parts of a page's frame that go along. */
const FRAME_PARTS = ["asOf", "span", "basis", "scope", "unit"] as const;

/** Where a chart would mislead: the way to the kind that tells it well, with the same frame, in the workbench. */
export function BetterKind({
  kind,
  name,
  kpi,
  by,
}: {
  kind: PanelKind;
  name: string;
  kpi: string;
  /** By whose members it is told; over time where it is by nobody's. */
  by?: RepeatBy | undefined;
}) {
  const [params] = useSearchParams();
  const attempt = attemptParams({ kpis: [kpi], split: by ?? null, kind });
  const asked = new URLSearchParams(Object.entries(attempt).flatMap(([part, value]) => (value ? [[part, value]] : [])));
  for (const part of FRAME_PARTS) {
    const value = params.get(part);
    if (value !== null) asked.set(part, value);
  }
  return (
    <Link className="font-semibold text-accent underline" to={`/workbench?${asked.toString()}`}>
      See it as {name}
    </Link>
  );
}
