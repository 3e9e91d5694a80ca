import { PACKS } from "#contract/operations/packs.ts";
import { FIGURES } from "#contract/operations/figures.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import { fiscalYearName } from "#core/calendar/fiscal-calendar.ts";
import { CHOOSER_LABELS } from "#core/panels/chooser/compute.ts";
import { GRAINS } from "#core/series/grain.ts";
import type { FrameChoices } from "#contract/frame-choices.ts";
import type { DefinitionOf } from "#core/panels/schemas.ts";
import { readablePanels } from "#contract/pack.ts";
import { useParams } from "react-router";
import { Field, Tick } from "../../ui/form.tsx";
import { ChosenList } from "../arrange/chosen-list.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";
import { CHOOSER_PARTS, MOST_OPTIONS, type ChooserPart } from "#core/panels/chooser/schema.ts";
import { TIME_MARKS } from "#core/panels/time-chart/schema.ts";

type Chooser = DefinitionOf<"chooser">;
interface Option {
  readonly key: string;
  readonly name: string;
}

/** What a chooser changes, what can be chosen, and whose panels follow it. */
export default function ArrangeChooser({ panel, dimensions, onChange }: ArrangeProps<"chooser">) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  const choices = useAnswer(FIGURES.frameChoices).data;
  const all: readonly Option[] = optionsOf(panel.sets, {
    kpis: library.filter((kpi) => !kpi.problem).map(({ definition: { key, name } }) => ({ key, name })),
    choices,
    dimensions,
  });
  const nameOf = (key: string) => all.find((option) => option.key === key)?.name ?? key;
  const sets = (part: ChooserPart) => {
    const next = optionsOf(part, {
      kpis: library.slice(0, 6).map(({ definition: { key, name } }) => ({ key, name })),
      choices,
      dimensions,
    });
    onChange({ ...panel, sets: part, options: next.slice(0, 12).map(({ key }) => key) });
  };
  return (
    <>
      <div className="mt-2">
        <Field label="Chooses">
          <select
            className="field"
            value={panel.sets}
            // What there is to choose from comes from the server: until then nothing could be offered.
            disabled={!choices || library.length === 0}
            onChange={(event) => sets(event.target.value as ChooserPart)}
          >
            {CHOOSER_PARTS.map((part) => (
              <option key={part} value={part}>
                {PART_NAMES[part]}
              </option>
            ))}
          </select>
        </Field>
      </div>
      <section aria-label="Options" className="mt-3">
        <h3 className="font-serif text-[16px]">{CHOOSER_LABELS[panel.sets]}, to choose from</h3>
        <ChosenList
          chosen={panel.options}
          nameOf={nameOf}
          rest={all
            .map(({ key }) => key)
            .filter((key) => !panel.options.includes(key))
            .slice(0, MOST_OPTIONS)}
          onChange={(options) => onChange({ ...panel, options })}
        />
      </section>
      <Followers panel={panel} onChange={onChange} />
    </>
  );
}

const PART_NAMES: Readonly<Record<ChooserPart, string>> = {
  kpi: "the KPI",
  grain: "the grain, from day to year",
  marks: "how it is drawn",
  year: "the year of reference lines",
  asOf: "the as-of month",
  span: "the span",
  basis: "what it is compared with",
  scope: "the scope",
};

function optionsOf(
  part: ChooserPart,
  {
    kpis,
    choices,
    dimensions,
  }: { kpis: readonly Option[]; choices: FrameChoices | undefined; dimensions: FrameChoices["dimensions"] },
): readonly Option[] {
  switch (part) {
    case "kpi":
      return kpis;
    case "grain":
      return GRAINS.map((key) => ({ key, name: key }));
    case "marks":
      return TIME_MARKS.map((key) => ({ key, name: key }));
    case "year":
      return yearsOf(choices);
    case "asOf":
      return (choices?.asOfChoices ?? []).map(({ month, name }) => ({ key: month, name }));
    case "span":
      return choices?.spans ?? [];
    case "basis":
      return choices?.bases ?? [];
    case "scope":
      return dimensions.flatMap((dimension) =>
        dimension.members.map(({ key, name }) => ({ key: `${dimension.key}:${key}`, name })),
      );
  }
}

/** The fiscal years that can be asked for, by their whole number. */
function yearsOf(choices: FrameChoices | undefined): Option[] {
  const years = new Map(
    (choices?.asOfChoices ?? []).flatMap(({ month, fiscalYear }) => {
      const calendarYear = Number(month.slice(0, 4));
      const year = [calendarYear, calendarYear + 1].find((own) => fiscalYearName(own) === fiscalYear);
      return year === undefined ? [] : [[String(year), fiscalYear] as const];
    }),
  );
  return [...years].map(([key, name]) => ({ key, name }));
}

/** The panels that follow a chooser. */
function Followers({ panel, onChange }: { panel: Chooser; onChange: (next: Chooser) => void }) {
  const { pack = "", page = "" } = useParams();
  const panels = useAnswer(PACKS.pack, { params: { pack } }).data?.pages.find(({ key }) => key === page);
  const others = panels ? readablePanels(panels).filter(({ definition }) => definition.kind !== "chooser") : [];
  const named = panel.panels ?? others.map(({ key }) => key);
  const set = (key: string, isOn: boolean) => {
    const next = isOn ? [...named, key] : named.filter((own) => own !== key);
    onChange({ ...panel, panels: others.every((other) => next.includes(other.key)) ? null : next });
  };
  return (
    <fieldset className="mt-3">
      <legend className="font-serif text-[16px]">Panels it controls</legend>
      {others.map(({ key, definition }) => (
        <Tick
          key={key}
          label={definition.title ?? `${definition.kind.replace("-", " ")} “${key}”`}
          isOn={named.includes(key)}
          onChange={(isOn) => set(key, isOn)}
        />
      ))}
    </fieldset>
  );
}
