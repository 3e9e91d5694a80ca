import { ChoiceWord } from "../../ui/choice-word.tsx";
import { PanelSheet } from "../../panel-frame/panel-sheet.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import type { ChooserAnswer } from "#core/panels/chooser/schema.ts";

/** So many options stand side by side; more are opened from a word. */
const SIDE_BY_SIDE = 8;
const AS_ARRANGED = "";

/** What the reader can change of other panels, all together. */
export default function ChooserPanel(view: PanelProps<"chooser">) {
  return (
    <PanelSheet view={view} label="Chooser" skeleton={<div className="waiting m-3 h-6 w-1/2" />}>
      {(data) => <Options view={view} data={data} standing={view.standing ?? standingIn(data)} />}
    </PanelSheet>
  );
}

/** What the page's frame says of what is chosen here; a chart's grain is a month where nothing is said. */
function standingIn({ sets, frame }: ChooserAnswer): string | null {
  if (sets === "grain") return "month";
  return sets === "span" || sets === "basis" || sets === "asOf" ? frame[sets] : null;
}

function Options({
  view: { actions },
  data,
  standing,
}: {
  view: PanelProps<"chooser">;
  data: ChooserAnswer;
  /** What is shown while nothing is chosen. */
  standing: string | null;
}) {
  const { options, chosen, label } = data;
  const shown = chosen ?? standing;
  const choose = (key: string) => actions.choose({ chosen: key === AS_ARRANGED || key === chosen ? undefined : key });
  const name = options.find((option) => option.key === shown)?.name ?? "as arranged";
  if (options.length > SIDE_BY_SIDE)
    return (
      <p className="px-4 py-2.5">
        <span className="text-slate">{label}</span>{" "}
        <ChoiceWord
          label={label}
          words={name}
          choices={[
            { key: AS_ARRANGED, name: "as arranged" },
            ...options.flatMap(({ key, name: own, note, problem }) => (problem ? [] : [{ key, name: own, note }])),
          ]}
          chosen={chosen ?? AS_ARRANGED}
          onChoose={choose}
          className="meaning-word font-semibold"
        />
      </p>
    );
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-center gap-x-1 gap-y-1 px-4 py-2">
      <span className="mr-2 text-slate" aria-hidden="true">
        {label}
      </span>
      {options.map((option) => (
        <button
          key={option.key}
          type="button"
          aria-pressed={option.key === shown}
          disabled={option.problem !== null}
          title={option.problem ?? option.note}
          onClick={() => choose(option.key)}
          className={`min-h-7 rounded px-2.5 disabled:text-slate disabled:line-through ${option.key === shown ? "bg-chosen font-semibold text-accent shadow-[inset_0_-2px_0_var(--accent)]" : "hover:bg-chosen"}`}
        >
          {option.name}
        </button>
      ))}
      {chosen !== null && (
        <button
          type="button"
          className="ml-2 min-h-7 text-[13px] text-accent hover:underline"
          onClick={() => choose(AS_ARRANGED)}
        >
          as arranged
        </button>
      )}
    </div>
  );
}
