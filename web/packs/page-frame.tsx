import { LayoutTemplate, X } from "lucide-react";
import { useEffect } from "react";
import { formatScope, parseScope } from "#core/dimensions/scope-text.ts";
import type { Scope } from "#core/dimensions/scope.ts";
import { listed } from "#core/formats/listed.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { Page } from "#contract/pack.ts";
import { useOverlays } from "../shell/settings.ts";
import { frameOfPage } from "#contract/frame-address.ts";
import { useFrameParams, type PickWay } from "../frame/frame-params.ts";
import { FrameSentence } from "../frame/frame-sentence.tsx";
import { Button } from "../ui/form.tsx";

/** The frame of a page as one sentence, what it is narrowed to, and the way to arrange it. */
export function PageFrame({
  page,
  choices,
  isRefused,
  mayArrange,
}: {
  page: Page;
  choices: FrameChoices | undefined;
  isRefused: boolean;
  mayArrange: boolean;
}) {
  const params = useFrameParams();
  return (
    <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
      {choices ? (
        <div className="flex flex-wrap items-baseline gap-x-1.5">
          <FrameSentence
            structure={choices}
            frame={isRefused ? {} : frameOfPage({ pack: "", page: page.key }, params.frame)}
            setFrame={isRefused ? params.resetFrame : params.setFrame}
          />
          <PickedWords dimensions={choices.dimensions} />
        </div>
      ) : (
        <div className="waiting h-7 w-2/3" />
      )}
      {choices?.confinedTo && (
        <p className="rounded border border-thread px-2 py-0.5 text-[13px] text-slate">
          All figures: {choices.confinedTo} only
        </p>
      )}
      {mayArrange && (
        <span className="ml-auto print:hidden">
          <Button onClick={() => params.setView({ arrange: "yes", figure: undefined, at: undefined })}>
            <span className="inline-flex items-center gap-1">
              <LayoutTemplate size={14} aria-hidden="true" /> Arrange
            </span>
          </Button>
        </span>
      )}
    </header>
  );
}

const WAYS: readonly { readonly way: PickWay; readonly words: string }[] = [
  { way: "narrow", words: "narrowed to" },
  { way: "weigh", words: "with the part of" },
];

/** What was picked on the page, as words that are taken out one by one; Escape takes all of them. */
export function PickedWords({ dimensions }: { dimensions: FrameChoices["dimensions"] }) {
  const { picked, setPicked, view } = useFrameParams();
  const isOpen = useOverlays((s) => s.open !== null);
  const isAny = picked.narrow !== undefined || picked.weigh !== undefined;
  const isBusy = isOpen || view("figure") !== undefined || view("settings") !== undefined;
  useEffect(() => {
    if (!isAny || isBusy) return undefined;
    const clear = (event: KeyboardEvent) => {
      const isElsewhere =
        event.target instanceof HTMLElement &&
        event.target.closest("input, textarea, select, [role=menu], [role=dialog]");
      if (event.key === "Escape" && !event.defaultPrevented && !isElsewhere)
        setPicked(() => ({ narrow: undefined, weigh: undefined }));
    };
    window.addEventListener("keydown", clear);
    return () => window.removeEventListener("keydown", clear);
  }, [isAny, isBusy, setPicked]);
  return WAYS.map(({ way, words }) => {
    const scope = parseScope(picked[way] ?? "") ?? {};
    const members = Object.entries(scope).flatMap(([dimension, keys]) => keys.map((member) => ({ dimension, member })));
    if (members.length === 0) return null;
    return (
      <span key={way} role="group" aria-label={words} className="text-[17px] leading-relaxed">
        {words}{" "}
        {members.map(({ dimension, member }) => {
          const own = dimensions.find((d) => d.key === dimension);
          const name = own?.members.find((m) => m.key === member)?.name;
          return (
            <button
              key={`${dimension}:${member}`}
              type="button"
              aria-label={`Take ${name ?? member} out`}
              title={name ? `${own.name}: take ${name} out` : `There is no "${member}" any more: take it out`}
              className={`mr-1.5 inline-flex items-center gap-0.5 rounded bg-chosen px-1.5 font-semibold hover:line-through ${name ? "" : "text-madder"}`}
              onClick={() => setPicked((now) => ({ [way]: formatScope(withoutMember(now[way], dimension, member)) }))}
            >
              {name ?? member}
              <X size={12} aria-hidden="true" className="text-slate" />
            </button>
          );
        })}
        <GonePicks members={members} dimensions={dimensions} />
      </span>
    );
  });
}

/** What a link still names though it is no more. */
function GonePicks({
  members,
  dimensions,
}: {
  members: readonly { readonly dimension: string; readonly member: string }[];
  dimensions: FrameChoices["dimensions"];
}) {
  const gone = members.filter(
    ({ dimension, member }) => !dimensions.find((d) => d.key === dimension)?.members.some((m) => m.key === member),
  );
  if (gone.length === 0) return null;
  const names = listed(gone.map(({ member }) => `“${member}”`));
  return (
    <span role="alert" className="text-[13px] text-madder">
      There is no {names} any more: the page is shown without {gone.length === 1 ? "it" : "them"}.
    </span>
  );
}

/** What is picked, without one member. */
function withoutMember(picked: string | undefined, dimension: string, member: string): Scope {
  const { [dimension]: own = [], ...others } = parseScope(picked ?? "") ?? {};
  const rest = own.filter((key) => key !== member);
  return rest.length === 0 ? others : { ...others, [dimension]: rest };
}
