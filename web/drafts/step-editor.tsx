import { useState } from "react";
import type { TableSource } from "./look-up-settings.tsx";
import { Button } from "../ui/form.tsx";
import { stepKind, type TidyStep } from "#core/tidy/steps/index.ts";
import { StepSettings } from "./step-settings.tsx";

/** One step being set up, to be used or left. */
export function StepEditor({
  step: initial,
  columns,
  draft,
  onSave,
  onCancel,
}: {
  step: TidyStep;
  columns: readonly string[];
  draft: TableSource;
  onSave: (step: TidyStep) => void;
  onCancel: () => void;
}) {
  const [step, setStep] = useState<TidyStep>(initial);
  const { name } = stepKind(step.kind);
  return (
    <form
      className="my-1.5 grid gap-2 rounded border border-thread bg-panel p-2.5"
      aria-label={name}
      onSubmit={(event) => {
        event.preventDefault();
        onSave(step);
      }}
    >
      <p className="font-semibold">{name}</p>
      <StepSettings
        step={step}
        columns={columns}
        draft={draft}
        set={(change) => setStep((now) => ({ ...now, ...change }))}
      />
      <span className="flex gap-3">
        <Button kind="main" type="submit">
          Use this step
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
      </span>
    </form>
  );
}
