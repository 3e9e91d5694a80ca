import { FIGURES } from "#contract/operations/figures.ts";
import { ESTIMATE_NAMES, isEstimate, LATEST } from "#core/formula/outlook-source.ts";
import { ChosenList } from "../arrange/chosen-list.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";
import { USUAL_SOURCES } from "#core/panels/outlook/schema.ts";

/** An outlook: of which KPI, and by which sources. */
export default function ArrangeOutlook({ panel, onChange }: ArrangeProps<"outlook">) {
  const outlooks = useAnswer(FIGURES.frameChoices).data?.outlooks ?? [];
  const chosen = panel.sources ?? USUAL_SOURCES;
  const nameOf = (key: string) =>
    key === LATEST
      ? "The latest forecast"
      : (outlooks.find((own) => own.key === key)?.name ?? (isEstimate(key) ? ESTIMATE_NAMES[key] : key));
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <div>
        <p className="text-[12.5px] text-slate">Remaining months from</p>
        <ChosenList
          chosen={chosen}
          nameOf={nameOf}
          rest={outlooks.map(({ key }) => key).filter((key) => !chosen.includes(key))}
          onChange={(sources) => onChange({ ...panel, sources })}
        />
      </div>
    </div>
  );
}
