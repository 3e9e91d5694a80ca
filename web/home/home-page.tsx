import { DRAFTS } from "#contract/operations/drafts.ts";
import { SESSION } from "#contract/operations/session.ts";
import { PACKS } from "#contract/operations/packs.ts";
import { HOME } from "#contract/operations/home.ts";
import { useEffect } from "react";
import { Link } from "react-router";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { visitorOf } from "../shell/visited.ts";
import { LatelySeen, PageNews } from "./lately-seen.tsx";
import { LastLoad } from "./last-load.tsx";
import { OffPlanList } from "./off-plan-list.tsx";
import { NextSteps } from "./next-steps.tsx";
import { Sheet } from "./sheet.tsx";
import { OpenMonthList } from "./open-month-list.tsx";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** What matters on the first visit: the open month and what it lacks, what is off plan, what the last load turned, what waits. */
export function HomePage() {
  const home = useAnswer(HOME.home);
  const alerts = useAnswer(HOME.alerts);
  const packs = useAnswer(PACKS.packs);
  const person = useAnswer(SESSION.session).data;
  const mayEdit = useMayEdit();
  const drafts = useAnswer(DRAFTS.drafts, {}, { enabled: mayEdit });
  useEffect(() => {
    document.title = "Home · Hackle";
  }, []);
  const open = home.data?.openMonth;
  const beginning = home.data?.beginning;
  // Before the first load there is nothing off plan, and nobody to be told so: only what comes next.
  const isEmpty = mayEdit && beginning !== null && beginning !== undefined && !beginning.hasLoads;
  return (
    <div className="max-w-6xl px-4 pt-4 pb-8 md:px-6">
      <h1 className="mb-3 font-serif text-[21px]">
        {open
          ? `${open.name} is open`
          : isEmpty
            ? `Set up ${person?.company.name}`
            : home.data
              ? "No month is loaded yet"
              : "Home"}
      </h1>
      {isEmpty && (
        <div className="max-w-xl">
          <NextSteps beginning={beginning} mayManage={person?.role === "administrator"} />
        </div>
      )}
      <div
        className={`grid items-start gap-3 lg:grid-cols-[minmax(0,1.65fr)_minmax(0,1fr)] ${isEmpty ? "hidden" : ""}`}
      >
        <div className="grid gap-3">
          <AnswerSheet label="Off plan" answer={home} skeleton={<div className="waiting m-5 h-48" />}>
            {({ offPlan }) => <OffPlanList offPlan={offPlan} mayEdit={mayEdit} />}
          </AnswerSheet>
          {home.data && <PageNews news={home.data.news} />}
          <AnswerSheet label="The last load" answer={alerts} skeleton={<div className="waiting m-5 h-24" />}>
            {(data) => <LastLoad alerts={data} />}
          </AnswerSheet>
        </div>
        <div className="grid gap-3">
          {mayEdit && beginning && <NextSteps beginning={beginning} mayManage={person?.role === "administrator"} />}
          {open && <OpenMonthList open={open} mayEdit={mayEdit} />}
          {drafts.data && drafts.data.length > 0 && (
            <Sheet title="Files waiting">
              {drafts.data.map((draft) => (
                <li key={draft.id}>
                  <Link to={`/loads/files/${draft.id}`} className="font-semibold text-accent hover:underline">
                    {draft.fileName}
                  </Link>
                  <span className="text-slate"> {draft.note ?? "not posted yet"}</span>
                </li>
              ))}
            </Sheet>
          )}
          {person && <LatelySeen who={visitorOf(person)} />}
          <Sheet title="Reviews">
            {packs.data
              ?.filter(({ isRetired }) => !isRetired)
              .map((pack) => (
                <li key={pack.key}>
                  <Link to={`/packs/${pack.key}`} className="font-semibold text-accent hover:underline">
                    {pack.name}
                  </Link>
                  <span className="text-slate"> {pack.pages.map((p) => p.name).join(", ")}</span>
                </li>
              ))}
          </Sheet>
        </div>
      </div>
    </div>
  );
}
