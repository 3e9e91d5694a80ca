import { Plus, X } from "lucide-react";
import { bandProblems } from "#core/kpis/status.ts";
import type { LibraryKpi } from "#contract/kpis.ts";
import { Button, Field, IconButton } from "../ui/form.tsx";
import { GRADES, GradeMark } from "../figures/grade.tsx";
import type { Grade, Band, StatusRule } from "#core/kpis/schema.ts";

const STARTS: StatusRule = {
  against: { kind: "basis" },
  shownAs: "bands",
  bands: [
    { from: null, to: 95, grade: "poor", word: "behind" },
    { from: 95, to: 100, grade: "fair", word: "close" },
    { from: 100, to: null, grade: "good", word: "reached" },
  ],
};

/** The bands of a KPI's status: what it is held against, limits, words; a hole or overlap is shown where it is. */
export function StatusEditor({
  rule,
  kpis,
  own,
  isPercent,
  onChange,
}: {
  rule: StatusRule | null;
  kpis: readonly LibraryKpi[];
  own: string;
  /** Whether the KPI itself is in percent, and its limits with it. */
  isPercent: boolean;
  onChange: (rule: StatusRule | null) => void;
}) {
  if (!rule) {
    return (
      <p className="text-[13px] text-slate">
        By the variance and its tolerance: favourable, unfavourable, on plan.{" "}
        <Button onClick={() => onChange(STARTS)}>Use status bands instead</Button>
      </p>
    );
  }
  const set = (change: Partial<StatusRule>) => onChange({ ...rule, ...change });
  const setBand = (at: number, change: Partial<Band>) =>
    set({ bands: rule.bands.map((band, i) => (i === at ? { ...band, ...change } : band)) });
  const problems = bandProblems(rule.bands);
  const percent = rule.against.kind !== "value" || isPercent ? "%" : "";
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-2 gap-2">
        <Field label="Limits are">
          <select
            className="field"
            value={rule.against.kind}
            onChange={(e) => {
              const kind = e.target.value as StatusRule["against"]["kind"];
              const first = kpis.find((k) => k.definition.key !== own)?.definition.key ?? "";
              set({ against: kind === "kpi" ? { kind, kpi: first } : { kind } });
            }}
          >
            <option value="value">values of the KPI itself</option>
            <option value="basis">percent of the basis</option>
            <option value="target">percent of the target</option>
            <option value="kpi">percent of another KPI</option>
          </select>
        </Field>
        {rule.against.kind === "kpi" && (
          <Field label="Which KPI">
            <select
              className="field"
              value={rule.against.kpi}
              onChange={(e) => set({ against: { kind: "kpi", kpi: e.target.value } })}
            >
              {kpis
                .filter((k) => k.definition.key !== own)
                .map(({ definition }) => (
                  <option key={definition.key} value={definition.key}>
                    {definition.name}
                  </option>
                ))}
            </select>
          </Field>
        )}
        <Field label="Shown as">
          <select
            className="field"
            value={rule.shownAs}
            onChange={(e) => set({ shownAs: e.target.value as StatusRule["shownAs"] })}
          >
            <option value="bands">bands</option>
            <option value="gradient">a gradient</option>
          </select>
        </Field>
      </div>
      <ol aria-label="Bands" className="grid gap-1">
        {rule.bands.map((band, i) => (
          <li key={i} className="flex items-center gap-1.5 text-[13px]">
            <GradeMark grade={band.grade} />
            <LimitField
              label={`From, band ${i + 1}`}
              value={band.from}
              open="−∞"
              onChange={(from) => setBand(i, { from })}
            />
            <span className="text-slate">to under</span>
            <LimitField label={`To, band ${i + 1}`} value={band.to} open="∞" onChange={(to) => setBand(i, { to })} />
            <span className="w-3 text-slate">{percent}</span>
            <select
              aria-label={`Grade, band ${i + 1}`}
              className="field w-[70px]"
              value={band.grade}
              onChange={(e) => setBand(i, { grade: e.target.value as Grade })}
            >
              {GRADES.map((grade) => (
                <option key={grade}>{grade}</option>
              ))}
            </select>
            <input
              aria-label={`Word, band ${i + 1}`}
              className="field min-w-0 flex-1"
              value={band.word}
              maxLength={40}
              onChange={(e) => setBand(i, { word: e.target.value })}
            />
            <IconButton
              label={`Remove band ${i + 1}`}
              onClick={() => set({ bands: rule.bands.filter((_, k) => k !== i) })}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ol>
      {problems.map(({ message }) => (
        <p key={message} role="alert" className="text-[13px] text-madder">
          {message}
        </p>
      ))}
      <p className="flex gap-3">
        <Button
          onClick={() =>
            set({
              bands: [...rule.bands, { from: rule.bands.at(-1)?.to ?? null, to: null, grade: "fair", word: "new" }],
            })
          }
        >
          <span className="flex items-center gap-1">
            <Plus size={13} aria-hidden="true" /> Add a band
          </span>
        </Button>
        <Button onClick={() => onChange(null)}>Without bands</Button>
      </p>
    </div>
  );
}

function LimitField({
  label,
  value,
  open,
  onChange,
}: {
  label: string;
  value: number | null;
  open: string;
  onChange: (value: number | null) => void;
}) {
  return (
    <input
      aria-label={label}
      type="number"
      step="any"
      className="field w-[62px] text-right"
      placeholder={open}
      value={value ?? ""}
      onChange={(e) => onChange(e.target.value === "" ? null : Number(e.target.value))}
    />
  );
}
