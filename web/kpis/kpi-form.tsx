import type { LibraryKpi } from "#contract/kpis.ts";
import { Field, TextField } from "../ui/form.tsx";
import { DIRECTION_WORDS } from "./kpi-words.ts";
import { StatusEditor } from "./status-editor.tsx";
import type { Tolerance, KpiDefinition } from "#core/kpis/schema.ts";
import type { KpiUnit } from "#core/figures/schema.ts";

const UNITS: readonly { kind: KpiUnit["kind"]; name: string }[] = [
  { kind: "money", name: "money" },
  { kind: "money-per", name: "money by something" },
  { kind: "count", name: "a count" },
  { kind: "percent", name: "percent" },
  { kind: "ratio", name: "a ratio" },
  { kind: "days", name: "days" },
];

/** What the parts of a definition are called, here and where two versions of it are compared. */
export const KPI_PART_NAMES = {
  name: "Name",
  formula: "Formula",
  description: "Description",
  unit: "Unit",
  decimals: "Decimals",
  direction: "Good is",
  tolerance: "On plan within",
  status: "Status",
  fallbackBasis: "If the basis has no value",
  owner: "Owner",
} as const;

/** All of a KPI but its formula. */
export function KpiForm({
  definition,
  isNew,
  kpis,
  scenarios,
  onChange,
}: {
  definition: KpiDefinition;
  isNew: boolean;
  kpis: readonly LibraryKpi[];
  scenarios: readonly { key: string; name: string }[];
  onChange: (change: Partial<KpiDefinition>) => void;
}) {
  const { unit, tolerance } = definition;
  const of = unit.kind === "money-per" ? unit.per : unit.kind === "count" || unit.kind === "ratio" ? unit.of : null;
  return (
    <div className="grid gap-2">
      <TextField label={KPI_PART_NAMES.name} value={definition.name} onCommit={(name) => onChange({ name })} />
      {isNew && definition.key !== "" && (
        <p className="text-[12.5px] text-slate">
          In formulas: <code>{definition.key}</code>
        </p>
      )}
      <TextField
        label={KPI_PART_NAMES.description}
        value={definition.description}
        onCommit={(description) => onChange({ description })}
      />
      <div className="grid grid-cols-2 gap-2">
        <Field label={KPI_PART_NAMES.unit}>
          <select
            className="field"
            value={unit.kind}
            onChange={(e) => onChange({ unit: unitOf(e.target.value as KpiUnit["kind"], of ?? "") })}
          >
            {UNITS.map(({ kind, name }) => (
              <option key={kind} value={kind}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        {of !== null && (
          <TextField
            key={unit.kind}
            label={unit.kind === "money-per" ? "By" : "Of"}
            value={of}
            onCommit={(text) => onChange({ unit: unitOf(unit.kind, text) })}
          />
        )}
        <Field label={KPI_PART_NAMES.decimals}>
          <select
            className="field"
            value={definition.decimals}
            onChange={(e) => onChange({ decimals: Number(e.target.value) })}
          >
            {[0, 1, 2, 3, 4].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </Field>
        <Field label={KPI_PART_NAMES.direction}>
          <select
            className="field"
            value={definition.direction}
            onChange={(e) => onChange({ direction: e.target.value as KpiDefinition["direction"] })}
          >
            {Object.entries(DIRECTION_WORDS).map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        <Field label={KPI_PART_NAMES.tolerance}>
          <span className="flex gap-1.5">
            <input
              type="number"
              min="0"
              step="any"
              aria-label="Tolerance"
              className="field w-20"
              value={amountOf(tolerance)}
              onChange={(e) => onChange({ tolerance: toleranceOf(tolerance.kind, Number(e.target.value)) })}
            />
            <select
              aria-label="Tolerance in"
              className="field"
              value={tolerance.kind}
              onChange={(e) =>
                onChange({ tolerance: toleranceOf(e.target.value as Tolerance["kind"], amountOf(tolerance)) })
              }
            >
              <option value="percent">% of the basis</option>
              <option value="points">points</option>
              <option value="amount">in its unit</option>
            </select>
          </span>
        </Field>
        <Field label={KPI_PART_NAMES.fallbackBasis}>
          <select
            className="field"
            value={definition.fallbackBasis ?? ""}
            onChange={(e) => onChange({ fallbackBasis: e.target.value === "" ? null : e.target.value })}
          >
            <option value="">compare with nothing</option>
            {scenarios.map(({ key, name }) => (
              <option key={key} value={key}>
                {`compare with ${name}`}
              </option>
            ))}
          </select>
        </Field>
        <TextField label={KPI_PART_NAMES.owner} value={definition.owner} onCommit={(owner) => onChange({ owner })} />
      </div>
      <fieldset className="mt-1 border-t border-thread pt-2">
        <legend className="pr-2 font-serif text-[15px]">Status</legend>
        <StatusEditor
          rule={definition.status}
          kpis={kpis}
          own={definition.key}
          isPercent={unit.kind === "percent"}
          onChange={(status) => onChange({ status })}
        />
      </fieldset>
    </div>
  );
}

function unitOf(kind: KpiUnit["kind"], of: string): KpiUnit {
  switch (kind) {
    case "money-per":
      return { kind, per: of };
    case "count":
    case "ratio":
      return { kind, of };
    default:
      return { kind };
  }
}

function amountOf(tolerance: Tolerance): number {
  return tolerance.kind === "percent"
    ? tolerance.percent
    : tolerance.kind === "points"
      ? tolerance.points
      : tolerance.amount;
}

function toleranceOf(kind: Tolerance["kind"], amount: number): Tolerance {
  switch (kind) {
    case "percent":
      return { kind, percent: amount };
    case "points":
      return { kind, points: amount };
    case "amount":
      return { kind, amount };
  }
}
