import { EVENTS } from "#contract/operations/events.ts";
import { useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { EventVerdict } from "#core/ahead/known-events.ts";
import { formatScope } from "#core/dimensions/scope-text.ts";
import type { EventSay } from "#contract/events.ts";
import { call } from "../../client/api.ts";
import { Button, Field, Tick } from "../../ui/form.tsx";
import type { ExpectedRangeAnswer, RangeEventAnswer } from "#core/panels/expected-range/schema.ts";

/** Says of an event what it was, with a reason: one that is no part of the pattern, or none. */
export function SayEvent({ data, event }: { data: ExpectedRangeAnswer; event: RangeEventAnswer }) {
  const client = useQueryClient();
  const [isOpen, setIsOpen] = useState(false);
  const [reason, setReason] = useState("");
  const [isForAll, setIsForAll] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const say = async (verdict: EventVerdict) => {
    const { dimension, kpi, frame } = data;
    const body: EventSay = {
      kpi: kpi.key,
      isForAll,
      ...event.days,
      scope: formatScope(frame.scope),
      at: dimension === null || event.members.length === 0 ? null : { dimension, members: event.members.map(keyOf) },
      isOfWhole: event.isOfWhole,
      verdict,
      reason: reason.trim(),
    };
    setProblem(null);
    try {
      await call(EVENTS.sayEvent, { body });
      setIsOpen(false);
      await client.invalidateQueries();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const isUnsaid = reason.trim() === "";
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger className="min-h-[24px] text-[13px] text-accent hover:underline">
        Explain this event
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="popover w-80 p-4 text-[13px]"
          aria-label="What happened?"
        >
          <p className="font-serif text-[16px]">What happened?</p>
          <p className="mt-1 text-slate">
            If you confirm it, expected ranges and forecasts leave it out where it occurred. If you dismiss it, it stays
            in the history and is no longer flagged.
          </p>
          <form className="mt-3 grid gap-2" onSubmit={(submitted) => submitted.preventDefault()}>
            <Field label="The reason">
              <input
                className="field"
                value={reason}
                maxLength={300}
                placeholder="A storm kept two routes in port"
                onChange={(changed) => setReason(changed.target.value)}
              />
            </Field>
            <Tick label="Applies to every KPI" isOn={isForAll} onChange={setIsForAll} />
            <div className="flex items-center gap-3">
              <Button kind="main" isDisabled={isUnsaid} onClick={() => void say("confirmed")}>
                Confirm
              </Button>
              <Button isDisabled={isUnsaid} onClick={() => void say("dismissed")}>
                Dismiss
              </Button>
            </div>
          </form>
          {problem && (
            <p role="alert" className="mt-2 text-madder">
              {problem}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function keyOf({ key }: { readonly key: string }): string {
  return key;
}
