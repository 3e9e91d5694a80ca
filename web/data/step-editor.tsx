import { useState } from "react";
import type { Definition } from "#contract/intake.ts";
import { TOTAL_WORDS } from "#core/tidy/steps/skip-totals.ts";
import { Button, Field, TextField } from "../ui/form.tsx";

type Step = Definition["rules"]["steps"][number];
type Kind = Step["kind"];

/** The kinds of steps a person can add, in the words of the list. */
export const STEP_KINDS: readonly { kind: Kind; name: string; note: string }[] = [
  { kind: "filter", name: "Keep or drop rows", note: "by the text in a column" },
  { kind: "skip-totals", name: "Skip total rows", note: "rows that call themselves a total" },
  { kind: "unpivot", name: "Turn columns into rows", note: "months or scenarios laid out as columns" },
  { kind: "fill-down", name: "Fill down", note: "empty cells take the text above" },
  { kind: "replace", name: "Replace a text", note: "the whole cell or a part of it" },
  { kind: "trim", name: "Trim spaces", note: "at the ends, and double ones inside" },
  { kind: "case", name: "Change case", note: "upper, lower or title case" },
  { kind: "split", name: "Split a column", note: "at a sign" },
  { kind: "join", name: "Join columns", note: "for example year and month" },
  { kind: "flip-sign", name: "Flip the sign", note: "plus becomes minus" },
  { kind: "merge-duplicates", name: "Merge duplicates", note: "rows alike but for their amounts" },
  { kind: "to-whole", name: "Round to whole numbers", note: "halves away from zero" },
  { kind: "to-decimal", name: "Round to decimals", note: "halves away from zero" },
  { kind: "to-date", name: "Make dates", note: "from one way of writing them" },
  { kind: "to-text", name: "Make texts", note: "numbers that are codes" },
];

/** A step of a kind to start from. */
export function newStep(kind: Kind, columns: readonly string[]): Step {
  const first = columns[0] ?? "";
  switch (kind) {
    case "trim":
    case "fill-down":
    case "to-text":
    case "to-whole":
      return { kind, columns: [] };
    case "case":
      return { kind, columns: [], to: "title" };
    case "replace":
      return { kind, columns: [], find: "", with: "", whole: true };
    case "split":
      return { kind, column: first, at: " ", into: [`${first} 1`, `${first} 2`] };
    case "join":
      return { kind, columns: [], with: " ", into: "Joined" };
    case "filter":
      return { kind, keep: false, column: first, test: "is", values: [] };
    case "skip-totals":
      return { kind, words: [...TOTAL_WORDS] };
    case "flip-sign":
      return { kind, columns: [], where: null };
    case "unpivot":
      return { kind, columns: [], nameInto: "Period", valueInto: "Amount" };
    case "merge-duplicates":
      return { kind, sum: [] };
    case "to-decimal":
      return { kind, columns: [], decimals: 2 };
    case "to-date":
      return { kind, columns: [], format: "day-first" };
  }
}

const TESTS = ["is", "is not", "contains", "begins with", "is empty", "is not empty"] as const;
const FORMATS = ["iso", "day-first", "month-first", "month-name", "serial", "fiscal-period", "quarter"] as const;

/** The settings of one step. */
export function StepEditor({
  step: initial,
  columns,
  onSave,
  onCancel,
}: {
  step: Step;
  columns: readonly string[];
  onSave: (step: Step) => void;
  onCancel: () => void;
}) {
  const [step, setStep] = useState<Step>(initial);
  const set = (change: object) => setStep({ ...step, ...change });
  const list = (text: string) =>
    text
      .split(",")
      .map((part) => part.trim())
      .filter((part) => part !== "");
  return (
    <form
      className="my-1.5 grid gap-2 rounded border border-thread bg-panel p-2.5"
      aria-label={STEP_KINDS.find((k) => k.kind === step.kind)?.name}
      onSubmit={(event) => {
        event.preventDefault();
        onSave(step);
      }}
    >
      <p className="font-semibold">{STEP_KINDS.find((k) => k.kind === step.kind)?.name}</p>
      {"columns" in step && (
        <ColumnTicks
          label="Columns"
          columns={columns}
          chosen={step.columns}
          onChange={(next) => set({ columns: next })}
        />
      )}
      {"sum" in step && (
        <ColumnTicks label="Add up" columns={columns} chosen={step.sum} onChange={(sum) => set({ sum })} />
      )}
      {"column" in step && (
        <Field label="Column">
          <select className="field" value={step.column} onChange={(e) => set({ column: e.target.value })}>
            {columns.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
        </Field>
      )}
      {step.kind === "filter" && (
        <>
          <Field label="Rows whose text">
            <span className="grid grid-cols-2 gap-1.5">
              <select
                className="field"
                aria-label="Test"
                value={step.test}
                onChange={(e) => set({ test: e.target.value })}
              >
                {TESTS.map((t) => (
                  <option key={t}>{t}</option>
                ))}
              </select>
              <select
                className="field"
                aria-label="Keep or drop"
                value={step.keep ? "keep" : "drop"}
                onChange={(e) => set({ keep: e.target.value === "keep" })}
              >
                <option value="drop">are dropped</option>
                <option value="keep">are kept, others dropped</option>
              </select>
            </span>
          </Field>
          {!step.test.endsWith("empty") && (
            <TextField
              label="Texts, parted by commas"
              value={step.values.join(", ")}
              onCommit={(text) => set({ values: list(text) })}
            />
          )}
        </>
      )}
      {step.kind === "skip-totals" && (
        <TextField
          label="Words, parted by commas"
          value={step.words.join(", ")}
          onCommit={(text) => set({ words: list(text) })}
        />
      )}
      {step.kind === "case" && (
        <Field label="Write them in">
          <select className="field" value={step.to} onChange={(e) => set({ to: e.target.value })}>
            <option value="title">Title Case</option>
            <option value="upper">UPPER CASE</option>
            <option value="lower">lower case</option>
          </select>
        </Field>
      )}
      {step.kind === "replace" && (
        <>
          <TextField label="Find (nothing: empty cells)" value={step.find} onCommit={(find) => set({ find })} />
          <TextField label="Replace by" value={step.with} onCommit={(text) => set({ with: text })} />
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={step.whole} onChange={(e) => set({ whole: e.target.checked })} /> only whole
            cells
          </label>
        </>
      )}
      {step.kind === "split" && (
        <>
          <TextField label="At the sign" value={step.at} onCommit={(at) => set({ at })} keepSpaces />
          <TextField
            label="Into columns, parted by commas"
            value={step.into.join(", ")}
            onCommit={(text) => set({ into: list(text) })}
          />
        </>
      )}
      {step.kind === "join" && (
        <>
          <TextField label="With between them" value={step.with} onCommit={(text) => set({ with: text })} keepSpaces />
          <TextField label="Into the column" value={step.into} onCommit={(into) => set({ into })} />
        </>
      )}
      {step.kind === "unpivot" && (
        <>
          <TextField
            label="Their names into the column"
            value={step.nameInto}
            onCommit={(nameInto) => set({ nameInto })}
          />
          <TextField
            label="Their values into the column"
            value={step.valueInto}
            onCommit={(valueInto) => set({ valueInto })}
          />
        </>
      )}
      {step.kind === "flip-sign" && (
        <Field label="In">
          <span className="grid gap-1.5">
            <select
              className="field"
              aria-label="Which rows"
              value={step.where?.column ?? ""}
              onChange={(e) =>
                set({
                  where: e.target.value === "" ? null : { column: e.target.value, values: step.where?.values ?? [] },
                })
              }
            >
              <option value="">all rows</option>
              {columns.map((c) => (
                <option key={c} value={c}>{`rows where ${c} is`}</option>
              ))}
            </select>
            {step.where && (
              <TextField
                label="Texts, parted by commas"
                value={step.where.values.join(", ")}
                onCommit={(text) => set({ where: { ...step.where!, values: list(text) } })}
              />
            )}
          </span>
        </Field>
      )}
      {step.kind === "to-decimal" && (
        <TextField
          label="Decimals"
          value={String(step.decimals)}
          onCommit={(text) => set({ decimals: Math.min(9, Math.max(0, Math.trunc(Number(text)) || 0)) })}
        />
      )}
      {step.kind === "to-date" && (
        <Field label="Written as">
          <select className="field" value={step.format} onChange={(e) => set({ format: e.target.value })}>
            {FORMATS.map((f) => (
              <option key={f}>{f}</option>
            ))}
          </select>
        </Field>
      )}
      <span className="flex gap-3">
        <Button kind="main" type="submit">
          Use this step
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
      </span>
    </form>
  );
}

function ColumnTicks({
  label,
  columns,
  chosen,
  onChange,
}: {
  label: string;
  columns: readonly string[];
  chosen: readonly string[];
  onChange: (next: string[]) => void;
}) {
  const known = [...columns, ...chosen.filter((c) => !columns.includes(c))];
  return (
    <fieldset>
      <legend className="text-[12.5px] text-slate">
        {label}{" "}
        <button
          type="button"
          className="ml-2 text-indigo hover:underline"
          onClick={() => onChange(chosen.length === columns.length ? [] : [...columns])}
        >
          {chosen.length === columns.length ? "none" : "all"}
        </button>
      </legend>
      <div className="max-h-40 overflow-y-auto">
        {known.map((column) => (
          <label key={column} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={chosen.includes(column)}
              onChange={(e) =>
                onChange(
                  e.target.checked
                    ? known.filter((c) => c === column || chosen.includes(c))
                    : chosen.filter((c) => c !== column),
                )
              }
            />
            {column}
            {!columns.includes(column) && <span className="text-madder">not there</span>}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
