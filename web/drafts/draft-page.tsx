import { STRUCTURE } from "#contract/operations/structure.ts";
import { DRAFTS } from "#contract/operations/drafts.ts";
import { Redo2, Undo2 } from "lucide-react";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import type { EditableStructure } from "#contract/structure.ts";
import type { Draft } from "#contract/intake.ts";
import { hasEnded } from "#core/checks/job-state.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { useQueryClient } from "@tanstack/react-query";
import { call } from "../client/api.ts";
import { Button, IconButton } from "../ui/form.tsx";
import { PageState } from "../ui/page-state.tsx";
import { AccountTotals } from "./account-totals.tsx";
import { datasetOf } from "./dataset-of.ts";
import { DraftRows, type Focus } from "./draft-rows.tsx";
import { FindingList } from "./finding-list.tsx";
import { NewAccounts } from "./new-accounts.tsx";
import { PostBar } from "./post-bar.tsx";
import { ReadingSentence } from "./reading-sentence.tsx";
import { StepList } from "./step-list.tsx";
import { useDraftEdit, type DraftEdit } from "./use-draft-edit.ts";
import { usePosting } from "./use-posting.ts";
import { answerKey, useAnswer } from "../client/answer.ts";
import { useDraft } from "./use-draft.ts";

/** A file on its way in: how it is read, what its columns mean, what was tidied, what the checks found, posting. */
export function DraftPage() {
  const id = Number(useParams()["draft"]);
  const draft = useDraft(id);
  const structure = useAnswer(STRUCTURE.structure);
  const edit = useDraftEdit(id);
  const name = draft.data?.fileName;
  useEffect(() => {
    document.title = `${name ?? "A file"} · Hackle`;
  }, [name]);
  if (draft.data && structure.data) return <OpenDraft draft={draft.data} structure={structure.data} edit={edit} />;
  return (
    <PageState error={draft.error ?? structure.error} title="This file cannot be shown">
      <a className="font-semibold text-accent underline" href="/loads">
        To the list of loads
      </a>
    </PageState>
  );
}

function OpenDraft({ draft, structure, edit }: { draft: Draft; structure: EditableStructure; edit: DraftEdit }) {
  const [focus, setFocus] = useState<Focus>(null);
  const { post, cancel, discard, problem } = usePosting(draft);
  const { mapping } = draft.definition.rules;
  useUndoKeys(edit);
  useFreshCheck(draft);
  const lastReport = useLastReport(draft);
  const datasetName = datasetOf(structure, mapping)?.name ?? mapping.creates.dataset?.name ?? "a dataset";
  return (
    <div className="flex h-screen min-h-[34rem] flex-col max-lg:h-auto">
      <header className="px-5 pt-4 pb-2">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="font-serif text-[21px]">{draft.fileName}</h1>
          <p className="text-slate">
            {draft.intake ? `Recognised as “${draft.intake.name}”` : "New kind of file"}
            {" · "}
            {sizeWords(draft.size)}
          </p>
          <span className="ml-auto flex items-center gap-1">
            <IconButton label="Undo (Ctrl Z)" isDisabled={!edit.canUndo} onClick={edit.undo}>
              <Undo2 size={16} />
            </IconButton>
            <IconButton label="Redo (Ctrl Shift Z)" isDisabled={!edit.canRedo} onClick={edit.redo}>
              <Redo2 size={16} />
            </IconButton>
            <Button onClick={() => void discard()}>Discard</Button>
          </span>
        </div>
        <ReadingSentence draft={draft} structure={structure} apply={edit.apply} />
        {draft.note && (
          <p role="status" className="border-l-2 border-weld pl-3 text-[13px]">
            {draft.note}
          </p>
        )}
        {(edit.error ?? problem) && (
          <p role="alert" className="text-madder">
            {edit.error ?? problem}
          </p>
        )}
      </header>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_340px] gap-3 px-5 pb-3 max-lg:grid-cols-1">
        <DraftRows
          draft={draft}
          structure={structure}
          focus={focus}
          onLeave={() => setFocus(null)}
          apply={edit.apply}
        />
        <aside
          className="min-h-0 overflow-y-auto rounded-md border border-thread bg-panel px-3.5 py-3"
          aria-label="Steps and checks"
        >
          <StepList
            draft={draft}
            chosen={focus && "step" in focus ? focus.step : null}
            onChoose={(step) => setFocus(step === null ? null : { step })}
            apply={edit.apply}
          />
          <section aria-label="Checks" className="mt-4 border-t border-thread pt-3">
            <h2 className="flex items-baseline justify-between font-serif text-[16px]">
              {lastReport === draft.report ? "Checks" : "Checks, running again"}
              {draft.report && draft.report.rejected > 0 && (
                <a
                  className="font-sans text-[13px] text-accent underline"
                  href={`/api/drafts/${draft.id}/rejected.csv`}
                  download
                >
                  These lines as CSV
                </a>
              )}
            </h2>
            {lastReport ? (
              <FindingList
                draft={{ ...draft, report: lastReport }}
                structure={structure}
                shown={focus && "rule" in focus ? focus.rule : null}
                onShow={(rule) => setFocus(rule === null ? null : { rule })}
                apply={edit.apply}
              />
            ) : (
              <p className="mt-1 text-slate">
                {draft.job && !hasEnded(draft.job)
                  ? draft.job.state === "waiting"
                    ? "Waiting to be checked."
                    : "The whole file is being checked."
                  : (draft.mappingProblems[0] ??
                    draft.stepProblem?.message ??
                    draft.job?.message ??
                    "Not checked yet.")}
              </p>
            )}
          </section>
          <NewAccounts draft={draft} structure={structure} apply={edit.apply} />
          {draft.report && draft.report.totals.length > 0 && <AccountTotals draft={draft} />}
        </aside>
      </div>
      <PostBar
        draft={draft}
        datasetName={datasetName}
        isSaving={edit.isSaving}
        apply={edit.apply}
        rename={edit.rename}
        onPost={() => void post()}
        onCancel={(job) => void cancel(job)}
      />
    </div>
  );
}

/** The report of the check before while the next one runs, so that nothing a person is about to choose goes away. */
function useLastReport(draft: Draft): Draft["report"] {
  const [last, setLast] = useState(draft.report);
  const report = draft.report ?? (draft.job && !hasEnded(draft.job) ? last : null);
  if (report !== last) setLast(report);
  return report;
}

/** Has a draft checked anew where something it was checked against was changed since: nobody is to read a check that no longer holds. */
function useFreshCheck({ id, isOutdated, job }: Draft): void {
  const client = useQueryClient();
  const isDue = isOutdated && (job === null || hasEnded(job));
  useEffect(() => {
    if (!isDue) return;
    // Where it cannot be checked now, the page says so when it is posted.
    void call(DRAFTS.checkDraft, { params: { draft: id } })
      .catch(() => undefined)
      .then(() => client.invalidateQueries({ queryKey: answerKey(DRAFTS.draft, { params: { draft: id } }) }));
  }, [client, id, isDue]);
}

/** Undo and redo by the keys everyone knows, except where text is typed. */
function useUndoKeys(edit: DraftEdit): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      if (typing || !(event.ctrlKey || event.metaKey)) return;
      if (event.key === "z" && !event.shiftKey) edit.undo();
      else if (event.key === "y" || (event.key.toLowerCase() === "z" && event.shiftKey)) edit.redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [edit]);
}

function sizeWords(bytes: number): string {
  if (bytes < 1024) return `${bytes} bytes`;
  return bytes < 1_048_576 ? `${formatNumber(bytes / 1024, 0)} KB` : `${formatNumber(bytes / 1_048_576, 1)} MB`;
}
