import { ArrowDownRight, ArrowUpRight } from "lucide-react";
import { Link } from "react-router";
import type { Alerts } from "#contract/alerts.ts";
import { OutsideSign } from "../chart-kit/outside-mark.tsx";
import { dateTimeWords } from "../ui/date-time-words.ts";

const MOST_SHOWN = 6;

/** The KPIs whose standing the last load turned. */
export function LastLoad({ alerts }: { alerts: Alerts }) {
  const { load, words, changes, unusual } = alerts;
  if (!load)
    return (
      <p className="px-5 py-4 text-slate">Once a month is loaded, KPIs whose status it changed are listed here.</p>
    );
  const worse = changes.filter((c) => !c.isBetter);
  const better = changes.filter((c) => c.isBetter);
  return (
    <div className="px-5 py-3">
      <h2 className="font-serif text-[17px]">
        {changes.length === 0
          ? "The last load changed no KPI's status"
          : `${worse.length} got worse, ${better.length} got better`}
      </h2>
      <p className="text-[13px] text-slate">
        {words}, since{" "}
        <Link to={`/loads/${load.id}`} className="text-accent underline">
          {load.fileName}
        </Link>{" "}
        by {load.postedBy}, {dateTimeWords(load.postedAt)}
      </p>
      <div className="mt-2 grid gap-x-6 md:grid-cols-2">
        <List title="Got worse" changes={worse} />
        <List title="Got better" changes={better} />
      </div>
      {unusual.length > 0 && (
        <section aria-label="Unusual" className="mt-3">
          <h3 className="text-[13px] text-slate">Unusual figures in the last load</h3>
          <ul>
            {unusual.slice(0, MOST_SHOWN).map(({ kpi, name, words: said }) => (
              <li key={`${kpi} ${said}`} className="flex items-baseline gap-2 border-t border-thread/60 py-1">
                <OutsideSign />
                <span>
                  <Link to={`/kpis/${kpi}`} className="font-semibold hover:underline">
                    {name}
                  </Link>
                  : {said}
                </span>
              </li>
            ))}
          </ul>
          {unusual.length > MOST_SHOWN && (
            <p className="text-[13px] text-slate">
              and {unusual.length - MOST_SHOWN} more, nearer to what was expected
            </p>
          )}
        </section>
      )}
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
          <li key={`${change.span} ${change.kpi}`} className="flex items-baseline gap-2 border-t border-thread/60 py-1">
            <span className={change.isBetter ? "text-verdigris" : "text-madder"}>
              {change.isBetter ? (
                <ArrowUpRight size={15} aria-hidden="true" />
              ) : (
                <ArrowDownRight size={15} aria-hidden="true" />
              )}
            </span>
            <span>
              <Link to={`/kpis/${change.kpi}`} className="font-semibold hover:underline">
                {change.name}
              </Link>{" "}
              <span className="text-slate">
                {change.span === "month" ? "in the month" : "to date"}: {change.from} → {change.to}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
