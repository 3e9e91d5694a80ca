import { useState } from "react";
import { Button, Field, TextField } from "../ui/form.tsx";
import { parseTextList, writeTextList } from "../ui/text-list.ts";
import { ColumnTicks } from "./column-ticks.tsx";
import { DATES } from "./reading-choices.ts";
import { STEP_KINDS, type Step } from "./step-kinds.ts";

const TESTS = ["is", "is not", "contains", "begins with", "is empty", "is not empty"] as const;

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
  const list = (text: string) => parseTextList(text, ",");
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
          <Field label="Rows where the text">
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
              label="Texts, separated by commas"
              value={writeTextList(step.values, ",")}
              onCommit={(text) => set({ values: list(text) })}
            />
          )}
        </>
      )}
      {step.kind === "skip-totals" && (
        <TextField
          label="Words, separated by commas"
          value={writeTextList(step.words, ",")}
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
          <TextField label="Separator" value={step.at} onCommit={(at) => set({ at })} keepSpaces />
          <TextField
            label="New columns, separated by commas"
            value={writeTextList(step.into, ",")}
            onCommit={(text) => set({ into: list(text) })}
          />
        </>
      )}
      {step.kind === "join" && (
        <>
          <TextField label="Text between them" value={step.with} onCommit={(text) => set({ with: text })} keepSpaces />
          <TextField label="New column" value={step.into} onCommit={(into) => set({ into })} />
        </>
      )}
      {step.kind === "unpivot" && (
        <>
          <TextField label="Column for their names" value={step.nameInto} onCommit={(nameInto) => set({ nameInto })} />
          <TextField
            label="Column for their values"
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
                label="Texts, separated by commas"
                value={writeTextList(step.where.values, ",")}
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
            {DATES.map((way) => (
              <option key={way.key} value={way.key}>{`${way.name}, ${way.note}`}</option>
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
