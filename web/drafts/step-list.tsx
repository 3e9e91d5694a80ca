import type { FreshStep } from "#core/tidy/step-kind.ts";
import { ArrowDown, ArrowUp, Pencil, Plus, X } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { Definition, Draft, WireEffect } from "#contract/intake.ts";
import { writeAmount } from "#core/checks/write-amount.ts";
import { subtractTexts, sumTexts } from "#core/figures/exact-sum.ts";
import { countOf } from "#core/formats/count-words.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { IconButton } from "../ui/form.tsx";
import { StepEditor } from "./step-editor.tsx";
import { newStep, stepKind, OFFERED_KINDS, type TidyStep } from "#core/tidy/steps/index.ts";

interface Count {
  readonly rows: number;
  readonly totals: Readonly<Record<string, string>>;
}

/** The tidy steps in their order, each with what it does to rows and totals. */
export function StepList({
  draft,
  chosen,
  onChoose,
  apply,
}: {
  draft: Draft;
  chosen: number | null;
  onChoose: (step: number | null) => void;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const [edited, setEdited] = useState<{ at: number; step: TidyStep; isNew: boolean } | null>(null);
  const { steps } = draft.definition.rules;
  const report = draft.report;
  const effects: readonly WireEffect[] = report?.effects ?? draft.sample.effects;
  const first: Count | null = report?.before ?? null;
  // Amounts of several currencies are not added up.
  const addsUp = !Object.values(draft.definition.rules.mapping.columns).some(({ as }) => as === "currency");
  const setSteps = (next: readonly TidyStep[]) => apply((d) => ({ ...d, rules: { ...d.rules, steps: next } }));
  const columnsAt = (step: number) => (step === 0 ? draft.columns : (draft.stages[step - 1] ?? draft.columns));
  const move = (from: number, to: number) => {
    setSteps(steps.toSpliced(from, 1).toSpliced(to, 0, steps[from]!));
    if (chosen === from) onChoose(to);
  };
  const save = (step: TidyStep) => {
    if (!edited) return;
    setSteps(edited.isNew ? [...steps, step] : steps.with(edited.at, step));
    onChoose(edited.at);
    setEdited(null);
  };
  return (
    <section aria-label="Tidy steps">
      <h2 className="flex items-baseline justify-between font-serif text-[16px]">
        Tidy steps
        {!report && (
          <span className="font-sans text-[12px] text-slate">
            by the first {countOf(draft.sample.raw.length, "row")}
          </span>
        )}
      </h2>
      <ol className="mt-1.5">
        <li className="flex justify-between gap-2 py-1 text-[13px] text-slate">
          <span>In the file</span>
          {first && <CountWords count={first} addsUp={addsUp} />}
        </li>
        {steps.map((step, i) => {
          const effect = effects[i];
          const before = i === 0 ? first : (effects[i - 1]?.after ?? null);
          const problem = draft.stepProblem?.step === i ? draft.stepProblem.message : null;
          return (
            <li
              key={i}
              className={`group relative rounded border-l-2 py-1 pr-1 pl-2 ${chosen === i ? "border-accent bg-chosen" : problem ? "border-madder" : "border-thread"}`}
            >
              <div className="flex items-start gap-1">
                <button
                  type="button"
                  className="min-h-[24px] flex-1 text-left leading-snug"
                  aria-pressed={chosen === i}
                  onClick={() => onChoose(chosen === i ? null : i)}
                >
                  {draft.stepWords[i] ?? "A step"}
                </button>
                <span className="flex shrink-0 opacity-60 group-focus-within:opacity-100 group-hover:opacity-100">
                  <IconButton label={`Move step ${i + 1} up`} isDisabled={i === 0} onClick={() => move(i, i - 1)}>
                    <ArrowUp size={13} />
                  </IconButton>
                  <IconButton
                    label={`Move step ${i + 1} down`}
                    isDisabled={i === steps.length - 1}
                    onClick={() => move(i, i + 1)}
                  >
                    <ArrowDown size={13} />
                  </IconButton>
                  <IconButton label={`Edit step ${i + 1}`} onClick={() => setEdited({ at: i, step, isNew: false })}>
                    <Pencil size={12} />
                  </IconButton>
                  <IconButton
                    label={`Remove step ${i + 1}`}
                    onClick={() => {
                      setSteps(steps.toSpliced(i, 1));
                      onChoose(null);
                    }}
                  >
                    <X size={13} />
                  </IconButton>
                </span>
              </div>
              {problem ? (
                <p className="text-[12.5px] text-madder">{problem}</p>
              ) : (
                effect && <EffectWords effect={effect} before={before} />
              )}
              {edited && !edited.isNew && edited.at === i && (
                <StepEditor
                  step={edited.step}
                  columns={columnsAt(i)}
                  draft={draft}
                  onSave={save}
                  onCancel={() => setEdited(null)}
                />
              )}
            </li>
          );
        })}
      </ol>
      {edited?.isNew ? (
        <StepEditor
          step={edited.step}
          columns={columnsAt(steps.length)}
          draft={draft}
          onSave={save}
          onCancel={() => setEdited(null)}
        />
      ) : (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="mt-1 flex items-center gap-1 rounded py-1 pr-2 text-accent hover:underline">
            <Plus size={14} aria-hidden="true" /> Add a step
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="popover max-h-[60vh] w-72 overflow-y-auto p-1.5"
            >
              {OFFERED_KINDS.map((kind) => ({ kind, ...stepKind(kind) })).map(({ kind, name, note }) => (
                <DropdownMenu.Item
                  key={kind}
                  className="rounded px-2 py-1 outline-none data-[highlighted]:bg-chosen"
                  onSelect={() =>
                    setEdited({ at: steps.length, step: newStep(kind, freshFor(columnsAt(steps.length))), isNew: true })
                  }
                >
                  {name}
                  <span className="block text-[12.5px] text-slate">{note}</span>
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </section>
  );
}

function EffectWords({ effect, before }: { effect: WireEffect; before: Count | null }) {
  const { changed, after } = effect;
  const rows = before ? after.rows - before.rows : 0;
  const word = Math.abs(rows) === changed && rows < 0 ? "dropped" : "changed";
  const moved = before ? movedTotals(before, after) : [];
  const parts = [
    `${formatNumber(changed, 0)} ${changed === 1 ? "row" : "rows"} ${word}`,
    ...(rows === 0 || word === "dropped" ? [] : [`${rows > 0 ? "+" : "−"}${countOf(Math.abs(rows), "row")}`]),
    ...(before ? (moved.length > 0 ? moved : ["totals unchanged"]) : []),
  ];
  return <p className={`text-[12.5px] ${moved.length > 0 ? "text-ink" : "text-slate"}`}>{parts.join(" · ")}</p>;
}

/** By how much totals moved; columns that a step turned into others are taken together. */
function movedTotals(before: Count, after: Count): string[] {
  const names = Object.keys(after.totals);
  const same = names.length > 0 && names.every((name) => name in before.totals);
  const pairs = same
    ? names.map((name) => ({ name, delta: subtractTexts(after.totals[name]!, before.totals[name]!) }))
    : [
        {
          name: "total",
          delta: subtractTexts(sumTexts(Object.values(after.totals)), sumTexts(Object.values(before.totals))),
        },
      ];
  return pairs
    .filter(({ delta }) => !/^-?0*(\.0*)?$/.test(delta))
    .map(({ name, delta }) => `${name} ${delta.startsWith("-") ? "" : "+"}${writeAmount(delta)}`);
}

function CountWords({ count, addsUp }: { count: Count; addsUp: boolean }) {
  return (
    <span className="text-right">
      {countOf(count.rows, "row")}
      {Object.entries(addsUp ? count.totals : {})
        .slice(0, 2)
        .map(([name, total]) => (
          <span key={name} className="block">
            {name} {writeAmount(total)}
          </span>
        ))}
    </span>
  );
}

/** What a new step is made from, over a file's columns. */
function freshFor(columns: readonly string[]): FreshStep {
  return { first: columns[0] ?? "", thisYear: new Date().getFullYear() };
}
