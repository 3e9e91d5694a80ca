import { kindName, kindWord } from "#core/panels/schemas.ts";
import { ArrowLeft, ArrowRight, X } from "lucide-react";
import { Suspense, useEffect, useMemo } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import { pickMember } from "#core/dimensions/pick-member.ts";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { PanelKind } from "#core/panels/schemas.ts";
import { fits } from "#core/panels/attempt.ts";
import type { Attempt } from "#core/workbench/attempt.ts";
import { attemptPanel, fittingKinds } from "#core/workbench/fit.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { panelFrame } from "#core/panels/panel-frame.ts";
import { useSearchChange } from "../frame/address-changes.ts";
import { useFrameParams } from "../frame/frame-params.ts";
import { FrameSentence } from "../frame/frame-sentence.tsx";
import { PanelBoundary } from "../packs/panel-boundary.tsx";
import { LevelPick } from "../panels/arrange/level-pick.tsx";
import { parseFigureAddress } from "../panel-frame/figure-address.ts";
import { viewOf } from "../panels/index.ts";
import type { PanelProps } from "../panel-frame/panel-view.ts";
import { PageAsidePlace } from "../ui/page-aside.tsx";
import { ProvenanceDrawer } from "../panel-frame/provenance-drawer.tsx";
import { FindChoice } from "../ui/find-choice.tsx";
import { IconButton } from "../ui/form.tsx";
import { Notice } from "../ui/notice.tsx";
import { attemptParams, readAttempt } from "./attempt-address.ts";
import { KeepOnPage } from "./keep-on-page.tsx";
import { Starts } from "./starts.tsx";
import { useTrail } from "./trail.ts";
import { useFrameChoices } from "../frame/use-frame-choices.ts";
import type { AskedPanel } from "../client/asked-panel.ts";

/** A page of one panel with nothing decided: KPIs, a split, a filter, a kind; back and forward through what was tried. */
export function WorkbenchPage() {
  const [search] = useSearchParams();
  const changeSearch = useSearchChange();
  const params = useFrameParams();
  const choices = useFrameChoices(params.frame);
  const attempt = readAttempt(search);
  const set = (change: Partial<Attempt>) =>
    changeSearch(() => ({ ...attemptParams({ ...(attempt ?? { kpis: [], split: null, kind: null }), ...change }) }), {
      replace: false,
    });
  const names = attempt?.kpis.map((key) => choices.data?.kpis.find((kpi) => kpi.key === key)?.name ?? key).join(", ");
  useEffect(() => {
    document.title = `${names === undefined ? "" : `${names} · `}Workbench · Hackle`;
  }, [names]);
  const asked = parseFigureAddress(params.view("figure"));
  const at = params.view("at");
  return (
    <div className="flex min-h-screen min-w-0">
      <div className="min-w-0 flex-1 px-5 pt-4 pb-8 max-sm:px-3">
        <header className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="font-serif text-[22px]">Workbench</h1>
          <TrailButtons />
        </header>
        {choices.error && !choices.data && (
          <Notice tone="bad" title="This link's settings are not valid" detail={choices.error.message} />
        )}
        {choices.data && (
          <>
            <FrameSentence structure={choices.data} frame={params.frame} setFrame={params.setFrame} />
            <Controls choices={choices.data} attempt={attempt} onChange={set} />
            {attempt ? (
              <AttemptPanel key={attempt.kpis.join()} attempt={attempt} />
            ) : (
              <div className="py-6">
                <Starts choices={choices.data} onStart={set} />
              </div>
            )}
          </>
        )}
      </div>
      <PageAsidePlace />
      {asked && (
        <ProvenanceDrawer
          frame={at === undefined ? params.frame : { ...params.frame, scope: at }}
          kpi={asked.kpi}
          side={asked.side}
          onClose={() => params.setView({ figure: undefined, at: undefined })}
        />
      )}
    </div>
  );
}

/** Back and forward through what was tried. */
function TrailButtons() {
  const { search } = useLocation();
  const navigate = useNavigate();
  const { tried, at, note, go } = useTrail();
  useEffect(() => {
    if (new URLSearchParams(search).has("kpi")) note(search);
  }, [search, note]);
  const to = (index: number) => {
    go(index);
    void navigate(`/workbench${tried[index]!}`);
  };
  return (
    <span className="flex items-center gap-1">
      <IconButton label="Back to the previous view" isDisabled={at <= 0} onClick={() => to(at - 1)}>
        <ArrowLeft size={15} />
      </IconButton>
      <IconButton label="Forward" isDisabled={at >= tried.length - 1} onClick={() => to(at + 1)}>
        <ArrowRight size={15} />
      </IconButton>
      {tried.length > 1 && (
        <span className="text-[13px] text-slate">
          {at + 1} of {tried.length} tried
        </span>
      )}
    </span>
  );
}

function Controls({
  choices,
  attempt,
  onChange,
}: {
  choices: FrameChoices;
  attempt: Attempt | null;
  onChange: (change: Partial<Attempt>) => void;
}) {
  const kpis = attempt?.kpis ?? [];
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2 border-y border-thread py-2">
      <FindChoice
        label={kpis.length === 0 ? "Choose a KPI" : "Add a KPI"}
        choices={choices.kpis.filter(({ key }) => !kpis.includes(key))}
        onChoose={(key) => onChange({ kpis: [...kpis, key] })}
      />
      {kpis.length > 0 && (
        <ul aria-label="KPIs shown" className="flex flex-wrap gap-1.5 pb-1">
          {kpis.map((key) => {
            const name = choices.kpis.find((kpi) => kpi.key === key)?.name ?? key;
            return (
              <li key={key} className="inline-flex items-center rounded bg-chosen pl-2 font-semibold">
                {name}
                <button
                  type="button"
                  aria-label={`Leave out ${name}`}
                  className="grid size-[24px] place-items-center text-slate hover:text-ink"
                  onClick={() => onChange({ kpis: kpis.filter((own) => own !== key) })}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {attempt && (
        <LevelPick
          label="Split by"
          none="nothing"
          dimensions={choices.dimensions}
          chosen={attempt.split}
          onPick={(split) => onChange({ split })}
        />
      )}
      {attempt && <Kinds attempt={attempt} onChange={onChange} />}
    </div>
  );
}

/** The kinds that can show it, the fittest first; those that cannot say why. */
function Kinds({ attempt, onChange }: { attempt: Attempt; onChange: (change: Partial<Attempt>) => void }) {
  const { panel } = attemptPanel(attempt);
  return (
    <div role="group" aria-label="Kind" className="flex flex-wrap gap-1">
      {fittingKinds(attempt).map(({ kind, fit }) => (
        <button
          key={kind}
          type="button"
          aria-pressed={panel.kind === kind}
          aria-disabled={!fits(fit)}
          title={fits(fit) ? viewOf(kind).question : fit.unfit}
          onClick={() => fits(fit) && onChange({ kind })}
          className={`min-h-7 rounded px-2 first-letter:uppercase ${panel.kind === kind ? "bg-chosen font-semibold text-accent shadow-[inset_0_-2px_0_var(--accent)]" : fits(fit) ? "hover:bg-chosen" : "cursor-not-allowed text-slate line-through"}`}
        >
          {kindWord(kind)}
        </button>
      ))}
    </div>
  );
}

function AttemptPanel({ attempt }: { attempt: Attempt }) {
  const params = useFrameParams();
  const { panel, why } = useMemo(() => attemptPanel(attempt), [attempt]);
  const choice = params.choice(panel.key);
  const asked: AskedPanel = {
    place: { pack: "workbench", page: "workbench", panel: panel.key },
    panel: panel,
    frame: panelFrame(panel as PanelDefinition, params.frame, choice),
    pageFrame: params.frame,
    choice,
    pageScope: {},
    storedAmong: null,
  };
  const props = {
    panel,
    asked,
    choice,
    picked: {},
    part: null,
    leads: null,
    standing: null,
    ordinal: 1,
    actions: {
      choose: (change: Record<string, string | undefined>) => params.setChoice(panel.key, change),
      ask: (figure: string, at?: string) => params.setView({ figure, at }),
      // In the workbench a click filters: the sentence above says so, and takes it back.
      pick: ({ dimension, member }: { dimension: string; member: string }, { adds }: { adds: boolean }) => {
        params.setFrame((now) => {
          const scope = pickMember(parseScope(now.scope ?? "") ?? {}, { dimension, member, adds });
          return { scope: Object.keys(scope).length === 0 ? undefined : formatScope(scope) };
        });
      },
      follow: () => {},
      arrange: undefined,
    },
  } as unknown as PanelProps<PanelKind>;
  const { Panel } = viewOf(panel.kind);
  return (
    <div className="mt-3">
      {why && (
        <p role="status" className="mb-2 text-[13px]">
          {why} Until then it is shown as {kindName(panel.kind)}.
        </p>
      )}
      <div className={viewOf(panel.kind).fills ? "h-[min(62vh,560px)]" : ""}>
        <PanelBoundary of={panel}>
          <Suspense fallback={<div className="waiting h-64" />}>
            <Panel {...props} />
          </Suspense>
        </PanelBoundary>
      </div>
      <KeepOnPage panel={panel} frame={params.frame} />
    </div>
  );
}
