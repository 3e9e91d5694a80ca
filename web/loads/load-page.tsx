import { LOADS } from "#contract/operations/loads.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { LoadDetail } from "#contract/loads.ts";
import { writeAmount } from "#core/checks/write-amount.ts";
import { countOf } from "#core/formats/count-words.ts";
import { deltaStyle, formatNumber, valueStyle, writeSigned, writeWithUnit } from "#core/formats/number-words.ts";
import { call } from "../client/api.ts";
import { Button } from "../ui/form.tsx";
import { PageState } from "../ui/page-state.tsx";
import { Absent } from "../figures/number.tsx";
import { DifferencePanel } from "./difference-panel.tsx";
import { FindingMark } from "../drafts/finding-mark.tsx";
import { LoadStateWords } from "./load-state.tsx";
import { Removal } from "./removal.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { numbers, PlainTable } from "../ui/table.tsx";
import { answerKey } from "../client/answer.ts";
import { useLoad } from "./use-load.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** One load: the figures it moved, what it brought, what it left out, and taking it back. */
export function LoadPage() {
  const id = Number(useParams()["load"]);
  const load = useLoad(id);
  const name = load.data?.fileName;
  useEffect(() => {
    document.title = `${name ?? "A load"} · Hackle`;
  }, [name]);
  if (load.data) return <OpenLoad load={load.data} />;
  return (
    <PageState error={load.error} title="This load cannot be shown">
      <Link className="font-semibold text-accent underline" to="/loads">
        To the list of loads
      </Link>
    </PageState>
  );
}

function OpenLoad({ load }: { load: LoadDetail }) {
  const client = useQueryClient();
  const [params] = useSearchParams();
  const [problem, setProblem] = useState<string | null>(null);
  const [isWorking, setWorking] = useState(false);
  const compared = Number(params.get("compare")) || null;
  const isUndone = load.undone !== null;
  const mayEdit = useMayEdit();
  useNews(load.isFollowedUp);
  const turn = async (what: "undo" | "redo") => {
    setProblem(null);
    setWorking(true);
    try {
      const params = { load: load.id };
      const after = await (what === "undo" ? call(LOADS.undoLoad, { params }) : call(LOADS.redoLoad, { params }));
      await client.invalidateQueries();
      client.setQueryData(answerKey(LOADS.load, { params: { load: load.id } }), after);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setWorking(false);
    }
  };
  return (
    <div className="px-6 pt-4 pb-8">
      <p className="text-[13px]">
        <Link to="/loads" className="text-accent hover:underline">
          Loads
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-[21px]">
          {load.fileName}
          <LoadStateWords state={load.state} />
        </h1>
        <span className="ml-auto flex items-baseline gap-4">
          <LoadLinks load={load} />
          <Button
            kind={isUndone ? "main" : "plain"}
            isDisabled={isWorking || load.hindrance !== null}
            title={load.hindrance ?? ""}
            onClick={() => void turn(isUndone ? "redo" : "undo")}
          >
            {isUndone ? "Redo this load" : "Undo this load"}
          </Button>
        </span>
      </div>
      <p className="mt-1 text-slate">
        {countOf(load.rows, "row")} of {load.dataset}, {load.scenario}, {load.months}; posted by {load.postedBy} on{" "}
        {dateTimeWords(load.postedAt)}
        {load.intake ? `, loaded as “${load.intake}”` : ""}.
        {load.undone ? ` Undone by ${load.undone.by} on ${dateTimeWords(load.undone.at)}: nothing of it counts.` : ""}
      </p>
      {load.asksOfDays && mayEdit && !isUndone && (
        <p className="mt-1">
          <strong>{load.dataset}</strong> has no lines on some days. Did nothing happen on them, or is data missing?{" "}
          <Link className="text-accent underline" to="/structure/calendar">
            Answer under Calendar and datasets
          </Link>
          .
        </p>
      )}
      {load.hindrance && <p className="mt-1 text-slate">{load.hindrance}</p>}
      {problem && (
        <p role="alert" className="mt-1 text-madder">
          {problem}
        </p>
      )}
      <Related load={load} compared={compared} />
      {compared !== null && <DifferencePanel from={compared} to={load.id} />}
      <div className="mt-4 grid items-start gap-3 min-[1100px]:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
        {load.rates.length > 0 ? (
          <Sheet title="Currency rates">
            <Rates rates={load.rates} />
          </Sheet>
        ) : (
          <Sheet title="What changed">
            <MovedFigures load={load} />
          </Sheet>
        )}
        <div className="grid gap-3">
          {isUndone && <Removal load={load} />}
          <Findings load={load} />
          <Contents load={load} />
        </div>
      </div>
    </div>
  );
}

/** Where to go from a load: its review, its file, what was left out of it. */
function LoadLinks({ load }: { load: LoadDetail }) {
  return (
    <>
      {load.review && load.undone === null && (
        <Link
          className="rounded bg-accent px-3 py-1 font-semibold text-panel hover:brightness-110"
          to={`/packs/${load.review.pack}`}
        >
          See “{load.review.name}”
        </Link>
      )}
      {load.hasFile && (
        <a className="text-accent hover:underline" href={`/api/loads/${load.id}/file`} download>
          The file
        </a>
      )}
      {load.rejected > 0 && (
        <a className="text-accent hover:underline" href={`/api/loads/${load.id}/rejected.csv`} download>
          Left-out lines as CSV
        </a>
      )}
    </>
  );
}

/** What it takes the place of, and what took its. */
function Related({ load, compared }: { load: LoadDetail; compared: number | null }) {
  const navigate = useNavigate();
  const [, setParams] = useSearchParams();
  return (
    <>
      {load.replaces.map((other) => (
        <p key={other.id} className="mt-1">
          Takes the place of{" "}
          <Link className="text-accent underline" to={`/loads/${other.id}`}>
            {other.fileName}
          </Link>{" "}
          for {other.months}.{" "}
          <Button onClick={() => setParams(compared === other.id ? {} : { compare: String(other.id) })}>
            {compared === other.id ? "Hide differing lines" : "Show differing lines"}
          </Button>
        </p>
      ))}
      {load.replacedBy.map((other) => (
        <p key={other.id} className="mt-1">
          Replaced by{" "}
          <button
            type="button"
            className="text-accent underline"
            onClick={() => void navigate(`/loads/${other.id}?compare=${load.id}`)}
          >
            {other.fileName}
          </button>{" "}
          for {other.months}.
        </p>
      ))}
    </>
  );
}

function Findings({ load: { findings } }: { load: LoadDetail }) {
  if (findings.length === 0) return null;
  return (
    <Sheet title="Check results">
      <ul>
        {findings.map((finding) => (
          <li
            key={finding.rule + finding.message}
            className="flex gap-2 border-t border-thread/70 py-1.5 first:border-0"
          >
            <FindingMark finding={finding} />
            <span>
              {finding.message}
              {finding.answer && <span className="text-slate"> {finding.answer}.</span>}
            </span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** What it has, by account. */
function Contents({ load }: { load: LoadDetail }) {
  if (load.totals.length === 0) return null;
  return (
    <Sheet title="Contents">
      <PlainTable heads={["Account", numbers("Rows"), numbers("Total"), "Unit"]}>
        {load.totals.map((t) => (
          <tr key={`${t.account}/${t.scenario}`} className="border-t border-thread/60">
            <th scope="row" className="py-0.5 text-left font-normal">
              {t.account}
              {load.scenario.includes(",") && <span className="text-slate"> {t.scenario}</span>}
            </th>
            <td className="text-right">{formatNumber(t.rows, 0)}</td>
            <td className="text-right">{writeAmount(t.amount)}</td>
            <td className="pl-2 text-slate">{t.unit}</td>
          </tr>
        ))}
      </PlainTable>
    </Sheet>
  );
}

function Rates({ rates }: { rates: LoadDetail["rates"] }) {
  return (
    <PlainTable heads={["Currency", "Month", numbers("Average"), numbers("Closing")]}>
      {rates.map((own, i) => (
        <tr key={`${own.currency}/${own.month}`} className="border-t border-thread/60">
          <th scope="row" className="py-0.5 text-left font-semibold">
            {rates[i - 1]?.currency === own.currency ? "" : own.currency}
          </th>
          <td>{own.month}</td>
          <td className="text-right">{own.average === null ? "" : writeAmount(own.average)}</td>
          <td className="text-right">{own.closing === null ? "" : writeAmount(own.closing)}</td>
        </tr>
      ))}
    </PlainTable>
  );
}

/** What came of a load, such as the first page of a new dataset, is news to all pages once it is there. */
function useNews(isFollowedUp: boolean): void {
  const client = useQueryClient();
  const wasOpen = useRef(!isFollowedUp);
  useEffect(() => {
    if (!isFollowedUp || !wasOpen.current) return;
    wasOpen.current = false;
    void client.invalidateQueries();
  }, [client, isFollowedUp]);
}

function MovedFigures({ load }: { load: LoadDetail }) {
  if (!load.isFollowedUp)
    return (
      <p role="status" className="text-slate">
        Posted. The effect on KPIs is still being calculated.
      </p>
    );
  if (load.moved.length === 0)
    return (
      <p className="text-slate">
        {load.findings.length === 0
          ? "Moved figures were not recorded: this load came with the sample company."
          : load.review
            ? "Everything is new: there were no figures before."
            : "No KPI's figures moved."}
      </p>
    );
  const spans = [...new Set(load.moved.map((m) => `${m.span}, ${m.scenario}`))];
  return (
    <table className="w-full text-[13px]">
      {spans.map((span) => (
        <tbody key={span}>
          <tr>
            <th scope="colgroup" className="pt-2 pb-0.5 text-left font-semibold">
              {span[0]!.toUpperCase() + span.slice(1)}
            </th>
            {["Before", "After", "Δ"].map((h) => (
              <th key={h} scope="col" className="pt-2 pb-0.5 text-right font-normal text-slate">
                {h}
              </th>
            ))}
          </tr>
          {load.moved
            .filter((m) => `${m.span}, ${m.scenario}` === span)
            .map((m) => {
              const style = valueStyle(m.kpi.unit, m.kpi.decimals, "units");
              return (
                <tr key={m.kpi.key} className="border-t border-thread/60">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {m.kpi.name}
                  </th>
                  <td className="pl-3 text-right">
                    {"value" in m.before ? writeWithUnit(m.before.value, style) : <Absent figure={m.before} />}
                  </td>
                  <td className="pl-3 text-right">
                    {"value" in m.after ? writeWithUnit(m.after.value, style) : <Absent figure={m.after} />}
                  </td>
                  <td className="pl-3 text-right">
                    {"value" in m.before && "value" in m.after
                      ? writeSigned(m.after.value - m.before.value, deltaStyle(m.kpi.unit, m.kpi.decimals, "units"))
                      : ""}
                  </td>
                </tr>
              );
            })}
        </tbody>
      ))}
    </table>
  );
}
