import { EVENTS } from "#contract/operations/events.ts";
import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { call } from "../../client/api.ts";
import { dateTimeWords } from "../../ui/date-time-words.ts";
import { TextButton } from "../../ui/form.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import { pickHandlers } from "../../chart-kit/mark.ts";
import { keptEvents } from "./layout.ts";
import { SayEvent } from "./say-event.tsx";
import { useMayEdit } from "../../client/use-may-edit.ts";
import type { ExpectedRangeAnswer, RangeEventAnswer } from "#core/panels/expected-range/schema.ts";

type Pick = PanelProps<"expected-range">["actions"]["pick"];

/**
 * What was out of the ordinary, by the numbers that stand at the chart: open ones and confirmed ones, then those that
 * were dismissed. A member's name narrows the page to it.
 */
export function Events({ data, pick }: { data: ExpectedRangeAnswer; pick: Pick }) {
  const mayEdit = useMayEdit();
  const kept = keptEvents(data.events);
  const dismissed = data.events.filter((event) => !kept.includes(event));
  return (
    <>
      {kept.length > 0 && (
        <ol aria-label="Events" className="mt-1 space-y-0.5 px-4 text-[13px]">
          {kept.map((event, i) => (
            <li key={`${event.from} ${event.to} ${i}`}>
              <span className="mr-1 font-semibold">{i + 1}</span>
              {event.words}. <Places event={event} dimension={data.dimension} pick={pick} />
              {event.said ? (
                <Said event={event} mayEdit={mayEdit} />
              ) : (
                mayEdit && <SayEvent data={data} event={event} />
              )}
            </li>
          ))}
        </ol>
      )}
      {dismissed.length > 0 && (
        <ul aria-label="Dismissed" className="mt-1 space-y-0.5 px-4 text-[13px] text-slate">
          {dismissed.map((event, i) => (
            <li key={`${event.from} ${event.to} ${i}`}>
              {event.words}. <Said event={event} mayEdit={mayEdit} />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Places({
  event: { members },
  dimension,
  pick,
}: {
  event: RangeEventAnswer;
  dimension: string | null;
  pick: Pick;
}) {
  if (dimension === null || !pick || members.length === 0) return null;
  return (
    <span className="text-slate">
      Look at{" "}
      {members.map(({ key, name }, m) => (
        <span key={key}>
          {m > 0 && ", "}
          <button
            type="button"
            className="min-h-[24px] text-accent hover:underline"
            {...pickHandlers(pick, { dimension, member: key, name })}
          >
            {name}
          </button>
        </span>
      ))}
      .{" "}
    </span>
  );
}

/** What an analyst said of an event, and the way to take it back. */
function Said({ event: { said }, mayEdit }: { event: RangeEventAnswer; mayEdit: boolean }) {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  if (!said) return null;
  const takeBack = async () => {
    setProblem(null);
    try {
      await call(EVENTS.unsayEvent, { params: { event: said.id } });
    } catch (error) {
      setProblem((error as Error).message);
    }
    await client.invalidateQueries();
  };
  return (
    <span>
      <span className="text-slate">
        {said.verdict === "confirmed" ? "Confirmed" : "Dismissed"}
        {said.isForAll && ", for every KPI"}: “{said.reason}”, {said.by}, {dateTimeWords(said.saidAt)}.{" "}
      </span>
      {mayEdit && <TextButton onClick={() => void takeBack()}>Take back</TextButton>}
      {problem && (
        <span role="alert" className="text-madder">
          {" "}
          {problem}
        </span>
      )}
    </span>
  );
}
