import { useState } from "react";
import { Link } from "react-router";
import type { Home } from "#contract/home.ts";
import { VarianceComb } from "../chart-kit/variance-comb.tsx";
import { GradeMark } from "../figures/grade.tsx";
import { JudgementMark } from "../figures/judgement.tsx";

/** As many as a glance takes in; the others are one click away. */
const AT_FIRST = 8;

/** The KPIs that are off plan in the last closed month's year to date, the worst first, each with the way to its page. */
export function OffPlanList({ offPlan, mayEdit }: { offPlan: Home["offPlan"]; mayEdit: boolean }) {
  const [isAll, setAll] = useState(false);
  if (!offPlan)
    return (
      <div className="px-5 py-4">
        <p>Once a month is loaded, KPIs off plan are listed here, worst first.</p>
        {mayEdit && (
          <Link to="/loads" className="text-accent underline">
            Load the first month
          </Link>
        )}
      </div>
    );
  const { kpis, frame } = offPlan;
  const shown = isAll ? kpis : kpis.slice(0, AT_FIRST);
  return (
    <div className="px-5 py-3">
      <h2 className="font-serif text-[17px]">
        {kpis.length === 0
          ? "No KPI is off plan"
          : `${kpis.length} ${kpis.length === 1 ? "KPI is" : "KPIs are"} off plan`}
      </h2>
      <p className="text-[13px] text-slate">{frame}; most tolerances off first</p>
      <ul className="mt-2">
        {shown.map(({ kpi, words, variance, status, page }) => (
          <li
            key={kpi.key}
            className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-x-3 border-t border-thread/60 py-1.5"
          >
            <VarianceComb variance={variance} />
            <span className="min-w-0">
              <Link to={`/kpis/${kpi.key}`} className="font-semibold hover:underline">
                {kpi.name}
              </Link>{" "}
              <span className="text-[13px] text-slate">{words.replace(/, unfavourable$/, "")}</span>
            </span>
            <span className="flex items-center gap-3 text-[13px]">
              {status !== null && "grade" in status ? (
                <GradeMark grade={status.grade} word={status.word} />
              ) : (
                <JudgementMark judgement={variance.judgement} as="mark" />
              )}
              {page && (
                <Link to={`/packs/${page.pack}/${page.page}`} className="text-accent underline">
                  {page.name}
                </Link>
              )}
            </span>
          </li>
        ))}
      </ul>
      {kpis.length > AT_FIRST && (
        <button type="button" className="mt-1 text-accent underline" onClick={() => setAll(!isAll)}>
          {isAll ? `Only the worst ${AT_FIRST}` : `All ${kpis.length}`}
        </button>
      )}
    </div>
  );
}
