import { useEffect, type ReactNode } from "react";
import { NavLink } from "react-router";
import type { Chart } from "#contract/chart.ts";
import { useChart } from "../app/questions.ts";
import { Button } from "../ui/form.tsx";
import { PageState } from "../ui/page-state.tsx";
import { dateTimeWords } from "../data/loads-page.tsx";
import { useChange, type ChangeSender } from "./use-change.ts";

/** The frame of the structure's pages: which part is open, the last changes, and what went wrong. */
export function StructurePage({
  title,
  children,
}: {
  title: (chart: Chart) => string;
  children: (chart: Chart, change: ChangeSender) => ReactNode;
}) {
  const chart = useChart();
  const change = useChange();
  const name = chart.data ? title(chart.data) : "Structure";
  useEffect(() => {
    document.title = `${name} · Hackle`;
  }, [name]);
  if (!chart.data) return <PageState error={chart.error} title="The structure cannot be shown" />;
  const tab = ({ isActive }: { isActive: boolean }) =>
    `pb-0.5 ${isActive ? "font-semibold shadow-[inset_0_-2px_0_var(--indigo)]" : "text-slate hover:text-ink"}`;
  return (
    <div className="px-6 pt-4 pb-8">
      <nav aria-label="Structure" className="flex flex-wrap gap-x-5 gap-y-1">
        <NavLink to="/structure/accounts" className={tab}>
          Accounts
        </NavLink>
        {chart.data.dimensions.map((d) => (
          <NavLink key={d.key} to={`/structure/dimensions/${d.key}`} className={tab}>
            {d.name}
          </NavLink>
        ))}
        <NavLink to="/structure/calendar" className={tab}>
          Calendar and datasets
        </NavLink>
      </nav>
      <h1 className="mt-3 font-serif text-[21px]">{name}</h1>
      {change.problem && (
        <p role="alert" className="mt-1 max-w-3xl text-madder">
          {change.problem}
        </p>
      )}
      {children(chart.data, change)}
      <Changes chart={chart.data} change={change} />
    </div>
  );
}

function Changes({ chart, change }: { chart: Chart; change: ChangeSender }) {
  if (chart.changes.length === 0) return null;
  return (
    <details className="mt-6 max-w-3xl" open={chart.changes.length <= 5}>
      <summary className="cursor-pointer font-serif text-[16px]">Last changes</summary>
      <ul className="mt-1">
        {chart.changes.slice(0, 20).map((c) => (
          <li key={c.id} className="flex items-baseline gap-3 border-t border-thread/60 py-1">
            <span className={c.isUndone ? "text-slate line-through" : ""}>{c.said}</span>
            <span className="text-[13px] text-slate">
              {c.by}, {dateTimeWords(c.at)}
            </span>
            {!c.isUndone && (
              <span className="ml-auto">
                <Button
                  isDisabled={change.isSending}
                  onClick={() => void change.send(`/api/chart/changes/${c.id}/undo`, {})}
                >
                  Take back
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
