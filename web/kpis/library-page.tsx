import { KPIS } from "#contract/operations/kpis.ts";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { LibraryKpi } from "#contract/kpis.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { PlainTable } from "../ui/table.tsx";
import { DIRECTION_WORDS, unitWords } from "./kpi-words.ts";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** The KPI library: what each is made of, which way is good, where it is used. */
export function LibraryPage() {
  const kpis = useAnswer(KPIS.kpis);
  const mayEdit = useMayEdit();
  const [wanted, setWanted] = useState("");
  useEffect(() => {
    document.title = "KPIs · Hackle";
  }, []);
  const shown = kpis.data?.filter(({ definition }) =>
    [definition.name, definition.key, definition.formula, definition.owner, definition.description]
      .join(" ")
      .toLowerCase()
      .includes(wanted.toLowerCase()),
  );
  return (
    <div className="px-6 pt-4 pb-8">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-[21px]">KPIs</h1>
        <p className="text-slate">
          <Link to="/kpis/language" className="text-accent underline">
            The formula language
          </Link>
        </p>
        {mayEdit && (
          <Link
            to="/kpis/new"
            className="ml-auto rounded bg-accent px-3 py-1 font-semibold text-panel hover:brightness-110"
          >
            New KPI
          </Link>
        )}
      </div>
      <div className="mt-3">
        <AnswerSheet label="KPIs" answer={kpis} skeleton={<div className="waiting m-5 h-64" />}>
          {() => (
            <div className="px-5 py-3">
              <input
                type="search"
                aria-label="Find a KPI"
                placeholder="Find by name, formula or owner"
                className="field mb-2 max-w-96"
                value={wanted}
                onChange={(event) => setWanted(event.target.value)}
              />
              {shown?.length === 0 ? (
                <p className="py-4 text-slate">No KPI matches. Change your search, or add a KPI.</p>
              ) : (
                <PlainTable heads={["KPI", "Formula", "Unit", "Good is", "Owner", "Used on"]}>
                  {shown?.map((kpi) => (
                    <Row key={kpi.definition.key} kpi={kpi} />
                  ))}
                </PlainTable>
              )}
            </div>
          )}
        </AnswerSheet>
      </div>
    </div>
  );
}

function Row({ kpi: { definition, pages, usedBy, problem } }: { kpi: LibraryKpi }) {
  const used = [
    ...(pages.length > 0 ? [`${pages.length} ${pages.length === 1 ? "page" : "pages"}`] : []),
    ...(usedBy.length > 0 ? [`${usedBy.length} ${usedBy.length === 1 ? "KPI" : "KPIs"}`] : []),
  ];
  return (
    <tr className="border-t border-thread/70 align-baseline">
      <th scope="row" className="py-1 pr-4 text-left font-semibold whitespace-nowrap">
        <Link to={`/kpis/${definition.key}`} className="hover:underline">
          {definition.name}
        </Link>
      </th>
      <td className="pr-4 font-mono text-[12px]">
        {definition.formula}
        {problem && <span className="block font-sans text-madder">{problem.message}</span>}
      </td>
      <td className="pr-4 whitespace-nowrap">{unitWords(definition.unit)}</td>
      <td className="pr-4 whitespace-nowrap">{DIRECTION_WORDS[definition.direction]}</td>
      <td className="pr-4 whitespace-nowrap">{definition.owner}</td>
      <td className="whitespace-nowrap text-slate">{used.join(", ") || "not used yet"}</td>
    </tr>
  );
}
