import { ArrowDownRight, ArrowUpRight } from "lucide-react";
import { useEffect } from "react";
import { Link } from "react-router";
import type { Alerts } from "#contract/alerts.ts";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { PanelSheet } from "../panels/panel-sheet.tsx";
import { useAlerts, useDrafts, useMayEdit, usePacks } from "./questions.ts";

/** What changed since the last load, what waits, and the reviews to open. */
export function HomePage() {
  const alerts = useAlerts();
  const packs = usePacks();
  const drafts = useDrafts(useMayEdit());
  useEffect(() => {
    document.title = "Home · Hackle";
  }, []);
  return (
    <div className="max-w-5xl px-6 pt-4 pb-8">
      <h1 className="mb-3 font-serif text-[21px]">{packs.data?.[0]?.name ?? "Home"}</h1>
      <PanelSheet label="Since the last load" answer={alerts} skeleton={<div className="waiting m-5 h-24" />}>
        {(data) => <Changes alerts={data} />}
      </PanelSheet>
      <div className="mt-3 grid gap-3 md:grid-cols-2">
        <section aria-label="Reviews" className="rounded-md border border-thread bg-panel px-5 py-3">
          <h2 className="font-serif text-[16px]">Reviews</h2>
          {packs.data?.map((pack) => (
            <p key={pack.key} className="border-t border-thread/60 py-1 first-of-type:border-0">
              <Link to={`/packs/${pack.key}`} className="font-semibold text-indigo hover:underline">
                {pack.name}
              </Link>
              <span className="text-slate"> {pack.pages.map((p) => p.name).join(", ")}</span>
            </p>
          ))}
        </section>
        {drafts.data && drafts.data.length > 0 && (
          <section aria-label="Files that wait" className="rounded-md border border-thread bg-panel px-5 py-3">
            <h2 className="font-serif text-[16px]">Files that wait</h2>
            {drafts.data.map((draft) => (
              <p key={draft.id} className="border-t border-thread/60 py-1 first-of-type:border-0">
                <Link to={`/loads/files/${draft.id}`} className="font-semibold text-indigo hover:underline">
                  {draft.fileName}
                </Link>
                <span className="text-slate"> {draft.note ?? "not posted yet"}</span>
              </p>
            ))}
          </section>
        )}
      </div>
    </div>
  );
}

function Changes({ alerts }: { alerts: Alerts }) {
  const { load, words, changes } = alerts;
  if (!load)
    return (
      <p className="px-5 py-4 text-slate">Once a month is loaded, the KPIs whose status it turned are listed here.</p>
    );
  const worse = changes.filter((c) => !c.isBetter);
  const better = changes.filter((c) => c.isBetter);
  return (
    <div className="px-5 py-3">
      <h2 className="font-serif text-[17px]">
        {changes.length === 0
          ? "The last load turned no KPI's status"
          : `${worse.length} got worse, ${better.length} got better`}
      </h2>
      <p className="text-[13px] text-slate">
        {words}, since{" "}
        <Link to={`/loads/${load.id}`} className="text-indigo underline">
          {load.fileName}
        </Link>{" "}
        by {load.postedBy}, {dateTimeWords(load.postedAt)}
      </p>
      <div className="mt-2 grid gap-x-6 md:grid-cols-2">
        <List title="Got worse" changes={worse} />
        <List title="Got better" changes={better} />
      </div>
    </div>
  );
}

function List({ title, changes }: { title: string; changes: Alerts["changes"] }) {
  if (changes.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3 className="text-[13px] text-slate">{title}</h3>
      <ul>
        {changes.map((change) => (
          <li key={`${change.span} ${change.kpi}`} className="flex items-center gap-2 border-t border-thread/60 py-1">
            <span className={change.isBetter ? "text-verdigris" : "text-madder"}>
              {change.isBetter ? (
                <ArrowUpRight size={15} aria-hidden="true" />
              ) : (
                <ArrowDownRight size={15} aria-hidden="true" />
              )}
            </span>
            <Link to={`/kpis/${change.kpi}`} className="font-semibold hover:underline">
              {change.name}
            </Link>
            <span className="text-slate">
              {change.span === "month" ? "in the month" : "to date"}: {change.from} → {change.to}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
