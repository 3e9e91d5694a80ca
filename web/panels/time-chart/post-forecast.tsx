import { useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { AheadSettings } from "#core/ahead/settings.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/compute.ts";
import type { TimeChartDefinition } from "#core/panels/time-chart/definition.ts";
import { operationPath } from "#contract/operation-path.ts";
import { versionLineSchema, type VersionPost } from "#contract/versions.ts";
import { fetchAnswer } from "../../app/api.ts";
import { useMayEdit } from "../../app/questions.ts";
import { readLines } from "../../app/read-lines.ts";
import { Button, Field } from "../../ui/form.tsx";

type Posting =
  | { readonly is: "idle" }
  | { readonly is: "under way"; readonly done: number; readonly of: number }
  | { readonly is: "posted"; readonly name: string; readonly rows: number }
  | { readonly is: "refused"; readonly why: string };

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
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [posting, setPosting] = useState<Posting>({ is: "idle" });
  const running = useRef<AbortController>(undefined);
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
    running.current = new AbortController();
    setPosting({ is: "under way", done: 0, of: 0 });
    try {
      const response = await fetchAnswer(operationPath("postVersion", {}), {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(body),
        signal: running.current.signal,
      });
      for await (const line of readLines(response, versionLineSchema)) {
        if ("done" in line) setPosting({ is: "under way", ...line });
        else if ("refused" in line) setPosting({ is: "refused", why: line.refused });
        else {
          setPosting({ is: "posted", name: line.name, rows: line.rows });
          setName("");
          void client.invalidateQueries();
        }
      }
    } catch (error) {
      if (running.current.signal.aborted) setPosting({ is: "idle" });
      else setPosting({ is: "refused", why: (error as Error).message });
    }
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="min-h-[24px] text-[13px] text-accent hover:underline">
        Post as forecast
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} collisionPadding={8} className="popover w-80 p-4 text-[13px]">
          <p className="font-serif text-[16px]">Post as forecast</p>
          <p className="mt-1 text-slate">
            A new version with {data.kpi.name} for {data.frame.words.scope}
            {split ? ", each part by its own model" : ", as a whole"}: closed months as they were, then the forecast.
            Accounts are forecast one by one; where the KPI is one account they add up to what you see. It is open until
            you freeze it; outlooks go by frozen ones.
          </p>
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
                Post it
              </Button>
              {posting.is === "under way" && <Button onClick={() => running.current?.abort()}>Cancel</Button>}
            </div>
          </form>
          <div role="status" className="mt-2">
            {posting.is === "under way" && (
              <>
                <progress
                  className="w-full"
                  max={Math.max(1, posting.of)}
                  value={posting.done}
                  aria-label="Series forecast"
                />
                <p className="text-slate">
                  {posting.of === 0 ? "Reading the history…" : `${posting.done} of ${posting.of} series forecast`}
                </p>
              </>
            )}
            {posting.is === "posted" && (
              <p>
                {posting.name} is there, {posting.rows.toLocaleString("en-GB")} amounts.{" "}
                <Link className="text-accent underline" to="/versions">
                  See all versions
                </Link>
              </p>
            )}
          </div>
          {posting.is === "refused" && (
            <p role="alert" className="mt-2 text-madder">
              {posting.why}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
