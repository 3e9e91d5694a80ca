import { keepPreviousData } from "@tanstack/react-query";
import { FIGURES } from "#contract/operations/figures.ts";
import { moneySign } from "#core/formats/currency.ts";
import { useState } from "react";
import { formatMonth, monthName, parseMonth } from "#core/calendar/month.ts";
import { writeAmount } from "#core/checks/write-amount.ts";
import { formatNumber, valueStyle, writeWithUnit } from "#core/formats/number-words.ts";
import type { ProvenanceAnswer, ProvenanceSide } from "#contract/provenance.ts";
import type { FrameAddress } from "#contract/frame-address.ts";
import { Drawer } from "../ui/drawer.tsx";
import { Notice } from "../ui/notice.tsx";
import { useAnswer } from "../client/answer.ts";

const PAGE = 25;
const GATHERINGS = {
  sum: "sum of the months",
  closing: "at the end of the span",
  average: "average of the months",
  clock: "counted from the calendar",
  nested: "calculated on its own",
} as const;

/** How a figure was made: formula, inputs, coverage, and the source lines down to file and line. */
export function ProvenanceDrawer({
  frame,
  kpi,
  side,
  onClose,
}: {
  frame: FrameAddress;
  kpi: string;
  side: ProvenanceSide;
  onClose: () => void;
}) {
  const answer = useAnswer(FIGURES.provenance, { query: { ...frame, kpi, side } });
  return (
    <Drawer label="Where this figure comes from" subject={`${kpi}.${side}`} onClose={onClose}>
      {answer.error && !answer.data && (
        <Notice tone="bad" title="Where it comes from cannot be shown" detail={answer.error.message} />
      )}
      {answer.isPending && !answer.error && (
        <div role="status" aria-label="Being traced">
          <div className="waiting h-7 w-2/3" />
          <div className="waiting mt-4 h-40" />
        </div>
      )}
      {answer.data && <Origin key={`${kpi}.${side}`} data={answer.data} frame={frame} />}
    </Drawer>
  );
}

function Origin({ data, frame }: { data: ProvenanceAnswer; frame: FrameAddress }) {
  const [input, setInput] = useState(0);
  const chosen = data.inputs.find((entry) => entry.index === input);
  const style = valueStyle(data.kpi.unit, data.kpi.decimals, data.frame.unit);
  const { words } = data.frame;
  return (
    <>
      <p className="text-slate">Where this figure comes from</p>
      <h2 className="mt-1 font-serif text-[19px] leading-tight">
        {data.kpi.name}, {data.sideName}
      </h2>
      <p className="mt-2 text-[28px] leading-none font-semibold">
        {"value" in data.figure ? writeWithUnit(data.figure.value, style) : data.figure.absent}
      </p>
      <p className="mt-2 text-[13px] text-slate">
        {words.span}, {data.monthsName}, for {words.scope}
      </p>
      {"absent" in data.figure && <p className="mt-2 border-l-2 border-weld pl-3">{data.figure.detail}</p>}
      <p className="mt-3 text-[13px]">
        {data.kpi.description} {data.owner !== "" && <span className="text-slate">Kept by {data.owner}.</span>}
      </p>

      <h3 className="mt-5 font-serif text-[15px]">Formula</h3>
      <p className="mt-1 rounded bg-ground px-2.5 py-1.5 font-mono text-[12.5px]">{data.formula}</p>

      <h3 className="mt-5 font-serif text-[15px]">Inputs</h3>
      <table className="mt-1 w-full text-[13px]">
        <caption className="sr-only">Inputs of the formula</caption>
        <thead className="sr-only">
          <tr>
            <th scope="col">Account</th>
            <th scope="col">Amount</th>
          </tr>
        </thead>
        <tbody>
          {data.inputs.map((entry) => (
            <tr key={entry.index} className={`border-t border-thread ${entry.index === input ? "bg-chosen" : ""}`}>
              <td className="py-1 pl-1">
                <button
                  type="button"
                  aria-pressed={entry.index === input}
                  onClick={() => setInput(entry.index)}
                  className="text-left hover:underline"
                >
                  {entry.accountName}{" "}
                  <span className="block text-[12px] text-slate">
                    {[...entry.datasets, GATHERINGS[entry.gathering]].join(", ")}
                    {entry.leaves > 1 ? ` of ${entry.leaves} accounts` : ""}
                    {readsOtherwise(entry, data) && <span className="block">{readsOtherwise(entry, data)}</span>}
                  </span>
                </button>
              </td>
              <td className="pr-1 text-right align-top whitespace-nowrap">
                {"value" in entry.figure
                  ? `${entry.unit === moneySign() ? `${entry.unit} ` : ""}${formatNumber(entry.figure.value, entry.decimals)}`
                  : entry.figure.absent}
              </td>
            </tr>
          ))}
        </tbody>
      </table>

      <h3 className="mt-5 font-serif text-[15px]">Coverage</h3>
      <p className="mt-1 text-[13px]">
        {data.months.length} of {data.asked} {data.asked === 1 ? "month" : "months"}: {data.monthsName}
      </p>
      <ol aria-hidden="true" className="mt-1.5 flex flex-wrap gap-1">
        {data.months.map((m) => (
          <li
            key={m}
            className="grid h-6 w-8 place-items-center rounded-sm bg-chosen text-[11px]"
            title={formatMonth(parseMonth(m)!)}
          >
            {monthName(parseMonth(m)!).slice(0, 3)}
          </li>
        ))}
        {Array.from({ length: Math.max(0, data.asked - data.months.length) }, (_, i) => (
          <li key={i} className="h-6 w-8 rounded-sm border border-dashed border-thread" />
        ))}
      </ol>
      {data.notes.length > 0 && (
        <ul className="mt-2 space-y-1 text-[13px] text-slate">
          {data.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}

      {data.months.length > 0 && chosen && chosen.gathering !== "clock" && (
        <Lines data={data} frame={frame} chosen={chosen} key={input} />
      )}
    </>
  );
}

/** What an input reads, where the figure as a whole reads something else. */
function readsOtherwise({ reads }: ProvenanceAnswer["inputs"][number], { monthsName }: ProvenanceAnswer): string {
  return [reads.side, reads.months === monthsName ? null : reads.months, reads.scope && `for ${reads.scope}`]
    .filter((part) => part !== null)
    .join(", ");
}

function Lines({
  data,
  frame,
  chosen,
}: {
  data: ProvenanceAnswer;
  frame: FrameAddress;
  chosen: ProvenanceAnswer["inputs"][number];
}) {
  const [limit, setLimit] = useState(PAGE);
  const lines = useAnswer(
    FIGURES.sourceLines,
    { query: { ...frame, kpi: data.kpi.key, side: data.side, input: chosen.index, limit } },
    { placeholderData: keepPreviousData },
  );
  if (lines.error && !lines.data)
    return (
      <p role="alert" className="mt-4 text-madder">
        {lines.error.message}
      </p>
    );
  if (!lines.data) return <div className="waiting mt-4 h-32" />;
  const { total, sum, decimals, unit } = lines.data;
  const gathered = chosen.gathering === "average" ? "their average over the months is" : "they add up to";
  return (
    <section aria-label="Source lines">
      <h3 className="mt-5 font-serif text-[15px]">Source lines of {chosen.accountName}</h3>
      <p className="mt-1 text-[13px] text-slate">
        {formatNumber(total, 0)} {total === 1 ? "line" : "lines"}; {gathered} {unit === moneySign() ? `${unit} ` : ""}
        {formatNumber(sum, decimals)}. Largest first.
      </p>
      <table className="mt-2 w-full text-[12.5px]">
        <thead>
          <tr className="text-left text-slate">
            <th scope="col" className="font-normal">
              File and line
            </th>
            <th scope="col" className="pl-2 font-normal">
              What for
            </th>
            <th scope="col" className="pl-2 text-right font-normal">
              Amount
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.data.lines.map((line) => (
            <tr key={`${line.load}:${line.line}`} className="border-t border-thread align-top">
              <td className="py-1">
                {line.load}
                <span className="block text-slate">
                  line {line.line}
                  {line.reference ? `, ${line.reference}` : ""}
                </span>
              </td>
              <td className="py-1 pl-2">
                {line.account}, {line.period}
                <span className="block text-slate">{line.members.join(", ")}</span>
              </td>
              <td className="py-1 pl-2 text-right whitespace-nowrap">
                {formatNumber(line.amount, decimals)}
                {line.original && (
                  <span className="block text-slate">
                    {line.original.currency} {writeAmount(line.original.amount)}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {total > lines.data.lines.length && limit < 500 && (
        <button
          type="button"
          disabled={lines.isFetching}
          onClick={() => setLimit(Math.min(500, limit * 3))}
          className="mt-2 font-semibold text-accent underline"
        >
          Show more ({formatNumber(lines.data.lines.length, 0)} of {formatNumber(total, 0)} shown)
        </button>
      )}
    </section>
  );
}
