import { DRAFTS } from "#contract/operations/drafts.ts";
import { FEEDS } from "#contract/operations/feeds.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Feed } from "#contract/feeds.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { call } from "../client/api.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Button } from "../ui/form.tsx";
import { ChoiceWord } from "../ui/choice-word.tsx";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { useAnswer, answerKey } from "../client/answer.ts";
import { useFeeds } from "./use-feeds.ts";

const SCHEDULES = [
  { key: "never", name: "only when asked" },
  { key: "daily", name: "every morning at 6:30" },
  { key: "hourly", name: "every hour" },
  { key: "minutely", name: "every minute", note: "to try it out" },
];
const MODES = [
  { key: "normal", name: "the next period, as agreed" },
  { key: "corrected", name: "the last period again, with corrections" },
  { key: "slow", name: "the next period, slowly" },
  { key: "cut", name: "a file that breaks off", note: "the connection breaks off" },
  { key: "schema", name: "other columns than agreed" },
];
const STATES: Readonly<Record<Feed["pulls"][number]["state"], { word: string; className: string }>> = {
  running: { word: "… running", className: "text-accent" },
  posted: { word: "✓ posted", className: "text-verdigris" },
  waiting: { word: "◆ waits for you", className: "font-semibold" },
  nothing: { word: "– nothing new", className: "text-slate" },
  failed: { word: "✕ failed", className: "text-madder" },
};

/** Sources that bring their files themselves, with the log of their pulls, and the remembered ways to load. */
export function FeedsPage() {
  const client = useQueryClient();
  const feeds = useFeeds();
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    document.title = "Feeds · Hackle";
  }, []);
  const latest = feeds.data?.flatMap((f) => f.pulls.map((p) => p.loadId ?? 0));
  const newest = Math.max(0, ...(latest ?? []));
  // A pull that posted something moved figures everywhere.
  useEffect(() => {
    if (newest > 0) void client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== FEEDS.feeds.name });
  }, [client, newest]);
  const send = async (work: () => Promise<Feed[]>) => {
    setProblem(null);
    try {
      client.setQueryData(["feeds"], await work());
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const set = (feed: Feed, body: Partial<Pick<Feed, "schedule" | "mode">>) =>
    void send(() => call(FEEDS.changeFeed, { params: { feed: feed.key }, body }));
  return (
    <div className="px-6 pt-4 pb-8">
      <h1 className="font-serif text-[21px]">Feeds</h1>
      <p className="mt-1 mb-4 max-w-3xl text-slate">
        Sources that Hackle asks by itself. A file of a known kind that no check stops is posted at once; any other
        waits for you. The sample company’s ledger and operations are simulated.
      </p>
      {problem && (
        <p role="alert" className="mb-3 text-madder">
          {problem}
        </p>
      )}
      <AnswerSheet label="Feeds" answer={feeds} skeleton={<div className="waiting m-5 h-24" />}>
        {(list) =>
          list.length === 0 ? (
            <p className="p-5 text-slate">
              No source is connected. The sample company’s are connected when Hackle is started with npm start.
            </p>
          ) : (
            <div>
              {list.map((feed) => (
                <section
                  key={feed.key}
                  aria-label={feed.name}
                  className="border-b border-thread px-5 py-4 last:border-0"
                >
                  <div className="flex flex-wrap items-baseline gap-x-4">
                    <h2 className="font-serif text-[17px]">{feed.name}</h2>
                    <span className="text-[13px] text-slate">
                      {feed.dataset} · {feed.url}
                    </span>
                    <span className="ml-auto">
                      <Button
                        kind="main"
                        isDisabled={feed.pulls.some((p) => p.state === "running")}
                        onClick={() => void send(() => call(FEEDS.pullFeed, { params: { feed: feed.key } }))}
                      >
                        Pull {feed.next}
                      </Button>
                    </span>
                  </div>
                  <p className="text-[15px] leading-[1.9]">
                    Pulled{" "}
                    <ChoiceWord
                      label="Schedule"
                      words={SCHEDULES.find((s) => s.key === feed.schedule)!.name}
                      choices={SCHEDULES}
                      chosen={feed.schedule}
                      onChoose={(schedule) => set(feed, { schedule: schedule as Feed["schedule"] })}
                    />
                    . The simulated service delivers{" "}
                    <ChoiceWord
                      label="Simulated service delivers"
                      words={MODES.find((m) => m.key === feed.mode)!.name}
                      choices={MODES}
                      chosen={feed.mode}
                      onChoose={(mode) => set(feed, { mode: mode as Feed["mode"] })}
                    />
                    .
                  </p>
                  <PullLog feed={feed} />
                </section>
              ))}
            </div>
          )
        }
      </AnswerSheet>
      <Intakes />
    </div>
  );
}

function PullLog({ feed }: { feed: Feed }) {
  if (feed.pulls.length === 0) return <p className="mt-1 text-slate">Not pulled yet.</p>;
  return (
    <table className="mt-1 w-full text-[13px]">
      <tbody>
        {feed.pulls.map((pull) => (
          <tr key={pull.id} className="border-t border-thread/60 align-baseline">
            <td className="w-44 py-1 pr-4 whitespace-nowrap text-slate">{dateTimeWords(pull.startedAt)}</td>
            <td className={`w-32 pr-4 whitespace-nowrap ${STATES[pull.state].className}`}>{STATES[pull.state].word}</td>
            <td className="pr-4">
              {pull.message}{" "}
              {pull.state === "waiting" && pull.draftId !== null && (
                <Link className="text-accent underline" to={`/loads/files/${pull.draftId}`}>
                  Open the file
                </Link>
              )}
              {pull.loadId !== null && (
                <Link className="text-accent underline" to={`/loads/${pull.loadId}`}>
                  What changed
                </Link>
              )}
            </td>
            <td className="text-right whitespace-nowrap text-slate">
              {pull.startedBy}
              {pull.seconds !== null && `, ${formatNumber(pull.seconds, 1)} s`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Intakes() {
  const client = useQueryClient();
  const intakes = useAnswer(DRAFTS.intakes);
  if (!intakes.data) return null;
  const forget = async (id: number) => {
    await call(DRAFTS.forgetIntake, { params: { intake: id } });
    await client.invalidateQueries({ queryKey: answerKey(DRAFTS.intakes) });
  };
  return (
    <section aria-label="Intakes" className="mt-6">
      <h2 className="font-serif text-[17px]">Intakes</h2>
      <p className="text-slate">
        {intakes.data.length === 0
          ? "No intakes yet. Each file you post is saved as one, and the next file with the same columns loads the same way."
          : "A file with the same columns as one of these loads the same way."}
      </p>
      <ul className="mt-1">
        {intakes.data.map((intake) => (
          <li key={intake.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-thread/60 py-1.5">
            <span className="font-semibold">{intake.name}</span>
            <span className="min-w-0 flex-1 basis-72 text-[13px] text-slate">
              to {intake.dataset}; {intake.columns.join(", ")}
              {intake.steps.length > 0 ? `; ${intake.steps.join(", ").toLowerCase()}` : ""}
            </span>
            <span className="text-[13px] text-slate">
              {intake.loads} {intake.loads === 1 ? "load" : "loads"}, last {intake.updatedOn} by {intake.updatedBy}
            </span>
            <Button onClick={() => void forget(intake.id)}>Forget</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
