import { useState } from "react";
import type { Definition, Draft, Job } from "#contract/intake.ts";
import { hasEnded } from "#core/checks/job-state.ts";
import { bringsRates } from "#core/mapping/mapping-view.ts";
import { writeAmount } from "#core/checks/write-amount.ts";
import { readNumber } from "#core/reading/read-number.ts";
import { writeDecimal } from "#core/reading/write-decimal.ts";
import { countOf } from "#core/formats/count-words.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { Button } from "../ui/form.tsx";

/** Where a draft stands, its control figure, its name for next time, and posting it, with progress and cancel. */
export function PostBar({
  draft,
  datasetName,
  isSaving,
  apply,
  rename,
  onPost,
  onCancel,
}: {
  draft: Draft;
  datasetName: string;
  isSaving: boolean;
  apply: (change: (definition: Definition) => Definition) => void;
  rename: (name: string) => void;
  onPost: () => void;
  onCancel: (job: number) => void;
}) {
  const { job, report } = draft;
  const stops = report?.findings.filter((f) => f.severity === "stop" && f.answer === null).length ?? 0;
  const thing = bringsRates(draft.definition.rules.mapping) ? "rate" : "amount";
  const isRunning = job !== null && !hasEnded(job);
  const missing = draft.stepProblem ? [draft.stepProblem.message] : draft.mappingProblems;
  const state = isRunning
    ? null
    : missing.length > 0
      ? missing[0]!
      : job?.state === "failed" || job?.state === "interrupted"
        ? job.message
        : stops > 0
          ? `${stops === 1 ? "One stop is" : `${stops} stops are`} open.`
          : report
            ? `${countOf(report.facts, thing)} of ${report.months} to ${datasetName}${report.rejected > 0 ? `, ${countOf(report.rejected, "line")} left out` : ""}.`
            : "";
  return (
    <footer className="sticky bottom-0 z-10 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-thread bg-panel px-5 py-2.5">
      <div className="min-w-0 flex-1 basis-60" role="status">
        {isRunning ? (
          <span className="flex items-center gap-3">
            <span className="relative h-1.5 w-40 overflow-hidden rounded bg-thread" aria-hidden="true">
              <span
                className="absolute inset-y-0 left-0 bg-accent transition-[width]"
                style={{ width: `${Math.max(2, job.share * 100)}%` }}
              />
            </span>
            {progressWords(job)}
            <Button onClick={() => onCancel(job.id)}>Cancel</Button>
          </span>
        ) : (
          <span className={stops > 0 || missing.length > 0 || job?.state === "failed" ? "text-madder" : ""}>
            {state}
          </span>
        )}
      </div>
      {thing === "amount" && <ControlField draft={draft} apply={apply} />}
      <label className="flex items-baseline gap-2 text-[13px]">
        <span className="text-slate">Remember as</span>
        <input
          className="field !w-36"
          defaultValue={draft.intakeName}
          key={draft.intakeName}
          onBlur={(event) => {
            const name = event.target.value.trim();
            if (name !== "" && name !== draft.intakeName) rename(name);
          }}
        />
      </label>
      <Button kind="main" onClick={onPost} isDisabled={isRunning || isSaving || !report?.mayPost || missing.length > 0}>
        {report ? `Post ${countOf(report.facts, thing)}` : "Post"}
      </Button>
    </footer>
  );
}

/** What a job is at, in words. */
function progressWords({ kind, state, rows }: Job): string {
  if (state === "waiting") return kind === "post" ? "Waiting to be posted" : "Waiting to be checked";
  return `${kind === "post" ? "Posting" : "Checking"}, ${formatNumber(rows, 0)} rows so far`;
}

function ControlField({
  draft,
  apply,
}: {
  draft: Draft;
  apply: (change: (definition: Definition) => Definition) => void;
}) {
  const { control } = draft.definition.answers;
  const mark = draft.definition.reading.decimalMark;
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <label className="flex items-baseline gap-2 text-[13px]">
      <span className="text-slate">Control figure</span>
      <input
        className="field !w-36 text-right"
        defaultValue={control === null ? "" : writeAmount(control)}
        key={control}
        placeholder="none given"
        aria-invalid={problem !== null}
        title={
          problem ??
          (draft.control && control === draft.control.amount
            ? `Found in ${draft.control.from}`
            : "Control total of the file")
        }
        onBlur={(event) => {
          const text = event.target.value.trim();
          const value = text === "" ? null : (readNumber(text, mark) ?? readNumber(text, "."));
          if (value === undefined) return setProblem(`“${text}” is not a number.`);
          setProblem(null);
          const next = value === null ? null : writeDecimal(value, ".");
          if (next !== control)
            apply((d) => ({ ...d, answers: { ...d.answers, control: next, acceptsDifference: false } }));
        }}
      />
      {problem && <span className="text-madder">{problem}</span>}
    </label>
  );
}
