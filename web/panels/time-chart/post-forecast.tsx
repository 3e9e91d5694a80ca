import { VERSIONS } from "#contract/operations/versions.ts";
import { Popover } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { formatScope } from "#core/dimensions/scope-text.ts";
import { aheadWarnings } from "#core/panels/time-chart/ahead.ts";
import { operationPath } from "#contract/operations/operation.ts";
import type { VersionPost } from "#contract/versions.ts";
import { Button, Field } from "../../ui/form.tsx";
import { PostingState } from "../../versions/posting-state.tsx";
import { useVersionLines } from "../../versions/use-version-lines.ts";
import { useMayEdit } from "../../client/use-may-edit.ts";
import type { TimeChartDefinition, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** Keeps what a chart forecasts as a version of its own, in the chart's frame and with its settings. */
export function PostForecast({
  data,
  split,
  settings,
}: {
  data: TimeChartAnswer;
  split: TimeChartDefinition["split"] | null;
  settings: AheadSettings;
}) {
  const mayEdit = useMayEdit();
  const [name, setName] = useState("");
  const { posting, run, cancel } = useVersionLines();
  const warnings = data.ahead ? aheadWarnings(data.ahead) : [];
  const isMonthly = data.grain === "month";
  if (!mayEdit || !isMonthly || data.parts.some(({ dimension }) => dimension === null)) return null;
  const post = async () => {
    const body: VersionPost = {
      name: name.trim(),
      kpi: data.kpi.key,
      split: split ?? null,
      asOf: data.frame.asOf,
      scope: formatScope(data.frame.scope),
      settings,
    };
    if (await run(operationPath(VERSIONS.postVersion, {}), body)) setName("");
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-[24px] text-[13px] text-accent hover:underline">
        Post as forecast
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="popover w-80 p-4 text-[13px]"
          aria-label="Post as forecast"
        >
          <p className="font-serif text-[16px]">Post as forecast</p>
          <p className="mt-1 text-slate">
            A new version with {data.kpi.name} for {data.frame.words.scope}
            {split ? ", each part by its own model" : ", as a whole"}: closed months as they were, then the forecast.
            Accounts are forecast one by one; where the KPI is one account they add up to what you see. It is open until
            you freeze it; outlooks go by frozen ones.
          </p>
          {settings.way === "itself" && (
            <p className="mt-1">
              What you see was forecast as the series that it is. A version keeps the amounts it is made of, each
              forecast by its own model: there, {data.kpi.name} is calculated from those and can differ.
            </p>
          )}
          {warnings.length > 0 && (
            <ul className="mt-2 grid gap-1 border-l-2 border-weld pl-2" aria-label="Before you post">
              {warnings.map((warning) => (
                <li key={warning}>{warning}</li>
              ))}
            </ul>
          )}
          <form
            className="mt-3 grid gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void post();
            }}
          >
            <Field label="Its name">
              <input
                className="field"
                value={name}
                maxLength={60}
                placeholder="Forecast 7+5"
                onChange={(event) => setName(event.target.value)}
              />
            </Field>
            <div className="flex items-center gap-3">
              <Button kind="main" type="submit" isDisabled={name.trim() === "" || posting.is === "under way"}>
                Post forecast
              </Button>
              {posting.is === "under way" && <Button onClick={cancel}>Cancel</Button>}
            </div>
          </form>
          <PostingState
            posting={posting}
            after={
              <Link className="text-accent underline" to="/versions">
                See all versions
              </Link>
            }
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
