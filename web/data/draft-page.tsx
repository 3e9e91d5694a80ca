import { useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Chart } from "#contract/chart.ts";
import { jobSchema, type Draft } from "#contract/intake.ts";
import { formatNumber } from "#core/words/number-words.ts";
import { callApi } from "../app/api.ts";
import { useChart, useDraft } from "../app/questions.ts";
import { Button } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { FindingList } from "./finding-list.tsx";
import { MeaningChooser } from "./meaning-chooser.tsx";
import { PostBar } from "./post-bar.tsx";
import { ReadingSentence } from "./reading-sentence.tsx";
import { RowsTable, type ShownRow } from "./rows-table.tsx";
import { changedRows } from "./step-changes.ts";
import { StepList } from "./step-list.tsx";
import { useDraftEdit, type DraftEdit } from "./use-draft-edit.ts";

/** A file on its way in: how it is read, what its columns mean, what was tidied, what the checks found, posting. */
export function DraftPage() {
  const id = Number(useParams()["draft"]);
  const draft = useDraft(id);
  const chart = useChart();
  const edit = useDraftEdit(id);
  const name = draft.data?.fileName;
  useEffect(() => {
    document.title = `${name ?? "A file"} · Hackle`;
  }, [name]);
  if (draft.data && chart.data) return <OpenDraft draft={draft.data} chart={chart.data} edit={edit} />;
  const error = draft.error ?? chart.error;
  return (
    <div className="px-6 pt-6">
      {error ? (
        <Notice tone="bad" title="This file cannot be shown" detail={error.message}>
          <a className="font-semibold text-indigo underline" href="/loads">
            To the list of loads
          </a>
        </Notice>
      ) : (
        Array.from({ length: 14 }, (_, i) => <div key={i} className="waiting mt-3 h-5" />)
      )}
    </div>
  );
}

function OpenDraft({ draft, chart, edit }: { draft: Draft; chart: Chart; edit: DraftEdit }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [step, setStep] = useState<number | null>(null);
  const [rule, setRule] = useState<string | null>(null);
  const [view, setView] = useState<"tidied" | "raw">("tidied");
  const [problem, setProblem] = useState<string | null>(null);
  const { mapping } = draft.definition.rules;
  const postedId = draft.job?.kind === "post" ? draft.job.loadId : null;
  const [jobId, setJobId] = useState<number | null>(null);

  // The draft is gone once it is posted; its job tells where the load is.
  useEffect(() => {
    if (jobId === null) return;
    let isOver = false;
    const look = async () => {
      while (!isOver) {
        const job = await callApi(`/api/jobs/${jobId}`, jobSchema).catch(() => null);
        if (job?.state === "done" && job.loadId !== null) {
          isOver = true;
          await navigate(`/loads/${job.loadId}`);
          client.removeQueries({ queryKey: ["draft", draft.id] });
          await client.invalidateQueries();
          return;
        }
        if (job && job.state !== "running") {
          setJobId(null);
          await client.invalidateQueries({ queryKey: ["draft", draft.id] });
          return;
        }
        if (job) client.setQueryData<Draft>(["draft", draft.id], (d) => (d ? { ...d, job } : d));
        await new Promise((resolve) => setTimeout(resolve, 300));
      }
    };
    void look();
    return () => {
      isOver = true;
    };
  }, [client, draft.id, jobId, navigate, postedId]);

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

  const post = async () => {
    setProblem(null);
    try {
      const job = await callApi(`/api/drafts/${draft.id}/post`, jobSchema, {
        method: "POST",
        body: { version: draft.version },
      });
      client.setQueryData<Draft>(["draft", draft.id], { ...draft, job });
      setJobId(job.id);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const cancel = async (job: number) => {
    await callApi(`/api/jobs/${job}`, jobSchema, { method: "DELETE" }).catch(() => null);
    await client.invalidateQueries({ queryKey: ["draft", draft.id] });
  };
  const discard = async () => {
    await callApi(`/api/drafts/${draft.id}`, null, { method: "DELETE" });
    await navigate("/loads");
    client.removeQueries({ queryKey: ["draft", draft.id] });
    await client.invalidateQueries({ queryKey: ["drafts"] });
  };

  const finding = draft.report?.findings.find((f) => f.rule === rule);
  const effects = draft.report?.effects ?? draft.sample.effects;
  const effect = step === null ? undefined : effects[step];
  const finalColumns = draft.stages.at(-1) ?? draft.columns;
  const stepColumns = step === null || step === 0 ? draft.columns : (draft.stages[step - 1] ?? draft.columns);
  const numeric = new Set([
    ...draft.profiles.filter((p) => p.type === "number").map((p) => p.name),
    ...Object.entries(mapping.columns).flatMap(([name, m]) => (m.as === "amount" || m.as === "quantity" ? [name] : [])),
  ]);
  const datasetName =
    chart.datasets.find((d) => d.key === mapping.dataset)?.name ?? mapping.creates.dataset?.name ?? "a dataset";
  const table = finding
    ? {
        title: finding.message,
        columns: finalColumns,
        rows: finding.lines.map((l): ShownRow => ({ ...l, pointed: finalColumns.indexOf(l.column) })),
      }
    : effect
      ? {
          title: `Changed by “${draft.stepWords[step ?? 0]}”`,
          columns: effect.columns,
          rows: changedRows(effect, stepColumns),
        }
      : view === "raw"
        ? { title: "As it comes in", columns: draft.columns, rows: [...draft.sample.raw] }
        : { title: "As it will be posted", columns: finalColumns, rows: [...draft.sample.tidied] };
  const isPlain = !finding && !effect;
  const showTab = (next: "raw" | "tidied") => {
    setView(next);
    setStep(null);
    setRule(null);
  };
  return (
    <div className="flex h-screen min-h-[34rem] flex-col max-lg:h-auto">
      <header className="px-5 pt-4 pb-2">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="font-serif text-[21px]">{draft.fileName}</h1>
          <p className="text-slate">
            {draft.intake ? `Loaded as “${draft.intake.name}”, like before` : "A new kind of file"}
            {" · "}
            {sizeWords(draft.size)}
          </p>
          <span className="ml-auto flex items-center gap-1">
            <HistoryButton label="Undo (Ctrl Z)" isDisabled={!edit.canUndo} onClick={edit.undo}>
              <Undo2 size={16} />
            </HistoryButton>
            <HistoryButton label="Redo (Ctrl Shift Z)" isDisabled={!edit.canRedo} onClick={edit.redo}>
              <Redo2 size={16} />
            </HistoryButton>
            <Button onClick={() => void discard()}>Discard</Button>
          </span>
        </div>
        <ReadingSentence draft={draft} chart={chart} apply={edit.apply} />
        {(edit.error ?? problem) && (
          <p role="alert" className="text-madder">
            {edit.error ?? problem}
          </p>
        )}
      </header>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_340px] gap-3 px-5 pb-3 max-lg:grid-cols-1">
        <section
          aria-label="Rows"
          className="flex min-h-0 flex-col rounded-md border border-thread bg-panel max-lg:max-h-[28rem]"
        >
          <div className="flex items-baseline gap-4 border-b border-thread px-3 py-1.5 text-[13px]">
            <Tab isChosen={isPlain && view === "raw"} onClick={() => showTab("raw")}>
              As it comes in
            </Tab>
            <Tab isChosen={isPlain && view === "tidied"} onClick={() => showTab("tidied")}>
              As it will be posted
            </Tab>
            {!isPlain && <span className="truncate font-semibold">{finding ? "The lines found" : table.title}</span>}
            <span className="ml-auto shrink-0 text-slate">
              {isPlain
                ? `first ${formatNumber(table.rows.length, 0)} rows`
                : `${formatNumber(table.rows.length, 0)} shown`}
            </span>
          </div>
          {table.rows.length === 0 ? (
            <p className="p-6 text-slate">
              {effect
                ? "This step changes nothing in the file."
                : "There are no rows below the header. Choose another header line."}
            </p>
          ) : (
            <RowsTable
              label={table.title}
              columns={table.columns}
              rows={table.rows}
              numeric={numeric}
              {...(isPlain && view === "tidied"
                ? {
                    head: (column: string) => (
                      <MeaningChooser column={column} draft={draft} chart={chart} apply={edit.apply} />
                    ),
                  }
                : {})}
              {...(finding
                ? {
                    action: (row: ShownRow) =>
                      draft.definition.rules.rejectedLines.includes(row.line) ? (
                        <LineButton
                          onClick={() =>
                            edit.apply((d) => ({
                              ...d,
                              rules: { ...d.rules, rejectedLines: d.rules.rejectedLines.filter((l) => l !== row.line) },
                            }))
                          }
                        >
                          take back in
                        </LineButton>
                      ) : (
                        <LineButton
                          onClick={() =>
                            edit.apply((d) => ({
                              ...d,
                              rules: { ...d.rules, rejectedLines: [...d.rules.rejectedLines, row.line] },
                            }))
                          }
                        >
                          leave out
                        </LineButton>
                      ),
                  }
                : {})}
            />
          )}
        </section>
        <aside
          className="min-h-0 overflow-y-auto rounded-md border border-thread bg-panel px-3.5 py-3"
          aria-label="Steps and checks"
        >
          <StepList
            draft={draft}
            chosen={step}
            onChoose={(next) => {
              setStep(next);
              setRule(null);
            }}
            apply={edit.apply}
          />
          <section aria-label="Checks" className="mt-4 border-t border-thread pt-3">
            <h2 className="flex items-baseline justify-between font-serif text-[16px]">
              Checks
              {draft.report && draft.report.rejected > 0 && (
                <a
                  className="font-sans text-[13px] text-indigo underline"
                  href={`/api/drafts/${draft.id}/rejected.csv`}
                  download
                >
                  These lines as CSV
                </a>
              )}
            </h2>
            {draft.report ? (
              <FindingList
                draft={draft}
                chart={chart}
                shown={rule}
                onShow={(next) => {
                  setRule(next);
                  setStep(null);
                }}
                apply={edit.apply}
              />
            ) : (
              <p className="mt-1 text-slate">
                {draft.job?.state === "running"
                  ? "The whole file is being checked."
                  : (draft.mappingProblems[0] ??
                    draft.stepProblem?.message ??
                    draft.job?.message ??
                    "Not checked yet.")}
              </p>
            )}
          </section>
          {draft.report && draft.report.totals.length > 0 && <Totals draft={draft} />}
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

/** What each account gets, in its own direction. */
function Totals({ draft }: { draft: Draft }) {
  const totals = draft.report?.totals ?? [];
  return (
    <details className="mt-3 border-t border-thread pt-3">
      <summary className="cursor-pointer font-serif text-[16px]">Totals by account</summary>
      <table className="mt-1.5 w-full text-[13px]">
        <tbody>
          {totals.map((total) => (
            <tr key={total.name} className="border-t border-thread/60">
              <th scope="row" className="py-0.5 text-left font-normal">
                {total.name}
              </th>
              <td className="text-right">{formatAmountText(total.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function formatAmountText(text: string): string {
  return formatNumber(Number(text), text.includes(".") ? text.length - text.indexOf(".") - 1 : 0);
}

function sizeWords(bytes: number): string {
  if (bytes < 1024) return `${bytes} bytes`;
  return bytes < 1_048_576 ? `${formatNumber(bytes / 1024, 0)} KB` : `${formatNumber(bytes / 1_048_576, 1)} MB`;
}

function Tab({ isChosen, onClick, children }: { isChosen: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      onClick={onClick}
      className={`min-h-6 ${isChosen ? "font-semibold shadow-[inset_0_-2px_0_var(--indigo)]" : "text-slate hover:text-ink"}`}
    >
      {children}
    </button>
  );
}

function LineButton({ onClick, children }: { onClick: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className="min-h-6 text-indigo hover:underline" onClick={onClick}>
      {children}
    </button>
  );
}

function HistoryButton({
  label,
  isDisabled,
  onClick,
  children,
}: {
  label: string;
  isDisabled: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={isDisabled}
      onClick={onClick}
      className="grid size-7 place-items-center rounded text-slate hover:bg-panel hover:text-ink disabled:opacity-30"
    >
      {children}
    </button>
  );
}
