import { DRAFTS } from "#contract/operations/drafts.ts";
import { LOADS } from "#contract/operations/loads.ts";
import { dateTimeWords, dayWords } from "../ui/date-time-words.ts";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { countOf } from "#core/formats/count-words.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import type { LoadHead, LoadList } from "#contract/loads.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { DropZone } from "../drafts/drop-zone.tsx";
import { LoadStateWords } from "./load-state.tsx";
import { numbers, PlainTable } from "../ui/table.tsx";
import { useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";

/** Where files come in, and everything that was posted: which file, when, by whom, what it covers. */
export function LoadsPage() {
  const loads = useAnswer(LOADS.loads);
  const mayEdit = useMayEdit();
  const drafts = useAnswer(DRAFTS.drafts, {}, { enabled: mayEdit });
  const [wanted, setWanted] = useState("");
  useEffect(() => {
    document.title = "Loads · Hackle";
  }, []);
  return (
    <div className="px-6 pt-4 pb-8">
      <h1 className="font-serif text-[21px]">Loads</h1>
      <p className="mt-1 mb-4 text-slate">
        {loads.data
          ? `${countOf(loads.data.rows, "row")} in force, from ${countOf(loads.data.total, "file")}, newest first.`
          : "All posted files."}
      </p>
      {mayEdit && <DropZone />}
      {mayEdit && loads.data?.broken.map((broken) => <Broken key={broken.id} broken={broken} />)}
      {drafts.data && drafts.data.length > 0 && (
        <section aria-label="Files being loaded" className="mt-4">
          <h2 className="font-serif text-[16px]">Files being loaded</h2>
          <ul className="mt-1">
            {drafts.data.map((draft) => (
              <li key={draft.id} className="py-0.5">
                <Link to={`/loads/files/${draft.id}`} className="font-semibold text-accent underline">
                  {draft.fileName}
                </Link>
                <span className="text-slate">
                  {" "}
                  brought by {draft.uploadedBy}, {dateTimeWords(draft.uploadedAt)}
                  {draft.note ? `. ${draft.note}` : ", not posted yet"}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="mt-4">
        <AnswerSheet
          label="Loads"
          answer={loads}
          skeleton={
            <div className="p-5">
              {Array.from({ length: 12 }, (_, i) => (
                <div key={i} className="waiting mt-3 h-5" />
              ))}
            </div>
          }
        >
          {(data) => (
            <div className="px-5 py-3">
              <input
                type="search"
                aria-label="Find a load"
                placeholder="Find by file, dataset, scenario, month or person"
                className="field mb-2 max-w-96"
                value={wanted}
                onChange={(event) => setWanted(event.target.value)}
              />
              <LoadTable loads={matching(data.loads, wanted)} isLinked={mayEdit} />
            </div>
          )}
        </AnswerSheet>
      </div>
    </div>
  );
}

function LoadTable({ loads, isLinked }: { loads: readonly LoadHead[]; isLinked: boolean }) {
  if (loads.length === 0)
    return <p className="py-4 text-slate">No load matches. Change your search, or load a file.</p>;
  return (
    <PlainTable heads={["File", "Dataset", "Scenario", "Covers", "Posted", "By", numbers("Rows")]}>
      {loads.map((load) => (
        <tr
          key={load.id}
          className={`border-t border-thread/70 ${load.state === "undone" || load.state === "replaced" ? "text-slate" : ""}`}
        >
          <th scope="row" className="py-1 pr-4 text-left font-semibold">
            {isLinked ? (
              <Link to={`/loads/${load.id}`} className="hover:underline">
                {load.fileName}
              </Link>
            ) : (
              load.fileName
            )}
            <LoadStateWords state={load.state} />
          </th>
          <td className="pr-4">{load.dataset}</td>
          <td className="pr-4">{load.scenario}</td>
          <td className="pr-4">{load.months}</td>
          <td className="pr-4 whitespace-nowrap">{dayWords(load.postedOn)}</td>
          <td className="pr-4 whitespace-nowrap">{load.postedBy}</td>
          <td className="text-right whitespace-nowrap">{formatNumber(load.rows, 0)}</td>
        </tr>
      ))}
    </PlainTable>
  );
}

function Broken({ broken }: { broken: LoadList["broken"][number] }) {
  return (
    <p role="status" className="mt-3 border-l-2 border-madder py-1 pl-3">
      <span className="font-semibold">{broken.fileName}</span>, {dateTimeWords(broken.at)}: {broken.message}{" "}
      {broken.draftId !== null && (
        <Link to={`/loads/files/${broken.draftId}`} className="text-accent underline">
          Open the draft
        </Link>
      )}
    </p>
  );
}

function matching(loads: readonly LoadHead[], wanted: string): readonly LoadHead[] {
  const words = wanted
    .toLowerCase()
    .split(/\s+/)
    .filter((w) => w !== "");
  return loads.filter((load) => {
    const text = Object.values(load).join(" ").toLowerCase();
    return words.every((word) => text.includes(word));
  });
}
