import { SESSION } from "#contract/operations/session.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import { useQueryClient, keepPreviousData } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { newKey } from "#core/reading/names.ts";
import type { Language, LibraryKpi } from "#contract/kpis.ts";
import { ApiProblem, call } from "../client/api.ts";
import { BothVersions, type BothVersionsOf } from "../ui/both-versions.tsx";
import { ChangeList } from "../ui/change-list.tsx";
import { Button } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { useEdited } from "../ui/use-edited.ts";
import { PageState } from "../ui/page-state.tsx";
import { Dependencies } from "./dependencies.tsx";
import { FormulaEditor } from "./formula-editor.tsx";
import { FormulaPreview } from "./formula-preview.tsx";
import { KPI_PART_NAMES, KpiForm } from "./kpi-form.tsx";
import { answerKey, useAnswer } from "../client/answer.ts";
import { useMayEdit } from "../client/use-may-edit.ts";
import type { KpiDefinition } from "#core/kpis/schema.ts";

/** One KPI: its formula with what it gives, all that is said of it, what it depends on, and its history. */
export function KpiPage() {
  const { kpi: key = "" } = useParams();
  const [params] = useSearchParams();
  const kpis = useAnswer(KPIS.kpis);
  const language = useAnswer(KPIS.language);
  const person = useAnswer(SESSION.session);
  const known = kpis.data?.find((k) => k.definition.key === key);
  const isNew = key === "new";
  const title = isNew ? "New KPI" : (known?.definition.name ?? "A KPI");
  useEffect(() => {
    document.title = `${title} · Hackle`;
  }, [title]);
  const error = kpis.error ?? language.error;
  if (!kpis.data || !language.data) return <PageState error={error} title="The KPI cannot be shown" />;
  if (!known && !isNew)
    return (
      <div className="p-8">
        <Notice title={`There is no KPI "${key}"`} detail="It may have been deleted.">
          <Link to="/kpis" className="font-semibold text-accent underline">
            To the KPI library
          </Link>
        </Notice>
      </div>
    );
  const start: KpiDefinition = known?.definition ?? {
    key: "",
    name: "",
    formula: params.get("formula") ?? "",
    unit: { kind: "money" },
    decimals: 0,
    direction: "higher",
    tolerance: { kind: "percent", percent: 1 },
    owner: person.data?.name ?? "",
    description: "",
    status: null,
    fallbackBasis: null,
  };
  return <OpenKpi key={start.key} start={start} known={known ?? null} kpis={kpis.data} language={language.data} />;
}

type KpiConflict = BothVersionsOf<KpiDefinition & { readonly version?: number }>;

/** A KPI, known or new, among the others and in the language it is written in. */
interface OpenedKpi {
  readonly start: KpiDefinition;
  readonly known: LibraryKpi | null;
  readonly kpis: readonly LibraryKpi[];
  readonly language: Language;
}

function OpenKpi({ start, known, kpis, language }: OpenedKpi) {
  const mayEdit = useMayEdit();
  const draft = useKpiDraft({ start, known, kpis, language });
  const { definition, edited, sound, answer } = draft;
  const saving = useSaving(known, definition, edited);
  return (
    <div className="px-6 pt-4 pb-8">
      <p className="text-[13px]">
        <Link to="/kpis" className="text-accent hover:underline">
          KPIs
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="font-serif text-[21px]">{known ? start.name : "New KPI"}</h1>
        {known && <code className="text-slate">{start.key}</code>}
        {mayEdit && (
          <span className="ml-auto flex items-baseline gap-3">
            {known && (
              <Button isDisabled={saving.isBusy} onClick={() => void saving.remove()}>
                Remove
              </Button>
            )}
            {edited.isChanged && <Button onClick={edited.discard}>Discard changes</Button>}
            <Button
              kind="main"
              isDisabled={saving.isBusy || !sound || definition.name === "" || (known !== null && !edited.isChanged)}
              onClick={() => void saving.save()}
            >
              {known ? "Save" : "Add the KPI"}
            </Button>
          </span>
        )}
      </div>
      {saving.problem && (
        <p role="alert" className="mt-1 text-madder">
          {saving.problem}
        </p>
      )}
      {saving.conflict && (
        <BothVersions
          conflict={saving.conflict}
          names={KPI_PART_NAMES}
          onTakeTheirs={() => {
            edited.discard();
            void saving.run(() => Promise.resolve());
          }}
          onKeepMine={() => void saving.save(saving.conflict?.current?.version ?? null)}
        />
      )}
      <div className="mt-3 grid items-start gap-3 min-[1080px]:grid-cols-[minmax(0,1.55fr)_minmax(0,1fr)]">
        <div className="grid min-w-0 gap-3">
          <FormulaSection draft={draft} language={language} isReadOnly={!mayEdit} />
          {sound && (
            <div style={{ opacity: answer.isPlaceholderData ? 0.6 : 1 }}>
              <FormulaPreview tried={sound} unit={definition.unit} decimals={definition.decimals} />
            </div>
          )}
          {known && (
            <section className="rounded-md border border-thread bg-panel px-4 py-3" aria-label="Inputs and uses">
              <h2 className="mb-1 font-serif text-[16px]">Inputs and uses</h2>
              <Dependencies kpi={known} />
            </section>
          )}
        </div>
        <div className="grid gap-3">
          <section aria-label="About it" className="rounded-md border border-thread bg-panel px-4 py-3">
            <KpiForm
              key={edited.stamp}
              definition={definition}
              isNew={!known}
              kpis={kpis}
              scenarios={language.scenarios.filter((s) => s.key !== "forecast" && s.key !== "actual")}
              onChange={edited.change}
            />
          </section>
          {known && <History kpiKey={known.definition.key} mayEdit={mayEdit} run={saving.run} />}
        </div>
      </div>
    </div>
  );
}

type KpiDraft = ReturnType<typeof useKpiDraft>;

/** A KPI as it is edited: what is not saved, its formula as the server reads it, and what follows from that. */
function useKpiDraft({ start, known, kpis, language }: OpenedKpi) {
  const edited = useEdited<KpiDefinition>(start, known?.version ?? null);
  const { formula } = edited.value;
  const asked = useDeferredValue(formula);
  const answer = useAnswer(
    KPIS.tryFormula,
    { body: { formula: asked, self: known?.definition.key ?? null } },
    // While the next one is asked, the last answer stays.
    { placeholderData: keepPreviousData, enabled: asked.trim() !== "" },
  );
  const tried = formula.trim() === "" ? undefined : answer.data;
  const sound = tried && !("problem" in tried) ? tried : null;
  const fault = tried && "problem" in tried ? tried.problem : null;
  // Until a person says otherwise, a new KPI takes the unit its formula has, and a key from its name.
  const isOwn = (part: keyof KpiDefinition) => edited.value[part] !== start[part];
  const inferred: Partial<KpiDefinition> =
    !known && sound?.unit && !isOwn("unit") ? { unit: sound.unit, decimals: sound.decimals } : {};
  const taken = new Set([...kpis.map((k) => k.definition.key), ...language.accounts.map((a) => a.key)]);
  const { name, key } = edited.value;
  const named: Partial<KpiDefinition> = !known && name && !key ? { key: newKey(name, taken, "_") } : {};
  const definition: KpiDefinition = { ...edited.value, ...inferred, ...named };
  return { edited, definition, answer, sound, fault };
}

/** Saving and removing it, and what comes of that: a problem, or another's version beside one's own. */
function useSaving(known: LibraryKpi | null, definition: KpiDefinition, edited: KpiDraft["edited"]) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [conflict, setConflict] = useState<KpiConflict | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const run = async (work: () => Promise<unknown>) => {
    setProblem(null);
    setConflict(null);
    setBusy(true);
    try {
      await work();
      await client.invalidateQueries();
    } catch (failure) {
      if (failure instanceof ApiProblem && failure.both) {
        // Who was first, and with what, stands in the history beside.
        void client.invalidateQueries({ queryKey: answerKey(KPIS.kpiHistory) });
        setConflict({ message: failure.message, ...(failure.both as Pick<KpiConflict, "current" | "yours">) });
      } else setProblem((failure as Error).message);
    } finally {
      setBusy(false);
    }
  };
  const save = (version = edited.version) =>
    run(async () => {
      const library = await call(KPIS.saveKpi, { body: { key: known?.definition.key ?? null, version, definition } });
      client.setQueryData(answerKey(KPIS.kpis), library);
      edited.discard();
      if (!known) await navigate(`/kpis/${definition.key}`, { replace: true });
    });
  const remove = () =>
    run(async () => {
      await call(KPIS.removeKpi, { params: { kpi: definition.key } });
      await navigate("/kpis");
    });
  return { run, save, remove, conflict, problem, isBusy };
}

/** The formula with what is wrong with it, or what it gives. */
function FormulaSection({
  draft: { edited, answer, sound, fault },
  language,
  isReadOnly,
}: {
  draft: KpiDraft;
  language: Language;
  isReadOnly: boolean;
}) {
  return (
    <section aria-label="The formula">
      <FormulaEditor
        value={edited.value.formula}
        language={language}
        mark={fault}
        isReadOnly={isReadOnly}
        onChange={(formula) => edited.change({ formula })}
      />
      <p className="mt-1.5 flex min-h-[24px] flex-wrap gap-x-3 text-[13px]" aria-live="polite">
        {fault ? (
          <span className="text-madder">{fault.message}</span>
        ) : answer.error ? (
          <span className="text-madder">It could not be tried: {answer.error.message}</span>
        ) : sound ? (
          <span className="text-slate">
            It gives {sound.type}.{sound.unit === null && " A KPI is a number: say if(…, 1, 0)."}
          </span>
        ) : (
          <span className="text-slate">Press Ctrl Space for suggestions.</span>
        )}
        <Link to="/kpis/language" className="ml-auto text-accent hover:underline">
          The formula language
        </Link>
      </p>
    </section>
  );
}

function History({
  kpiKey,
  mayEdit,
  run,
}: {
  kpiKey: string;
  mayEdit: boolean;
  run: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const history = useAnswer(KPIS.kpiHistory, { params: { kpi: kpiKey } });
  return (
    <section aria-label="History" className="rounded-md border border-thread bg-panel px-4 py-3">
      <h2 className="font-serif text-[16px]">History</h2>
      {history.error && <p className="text-madder">{history.error.message}</p>}
      {history.data && (
        <ChangeList
          changes={history.data}
          onTakeBack={
            mayEdit ? (change) => void run(() => call(KPIS.undoKpiChange, { params: { change } })) : undefined
          }
          detail={({ formulaBefore, formulaAfter }) =>
            formulaBefore !== null &&
            formulaBefore !== formulaAfter && (
              <span className="block font-mono text-[12px] text-slate">was {formulaBefore}</span>
            )
          }
        />
      )}
    </section>
  );
}
