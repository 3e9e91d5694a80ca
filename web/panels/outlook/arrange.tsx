import { USUAL_SOURCES } from "#core/panels/outlook/definition.ts";
import { ESTIMATE_NAMES, isEstimate, LATEST } from "#core/compare/outlook-source.ts";
import { useFrameChoices } from "../../app/questions.ts";
import { ChosenList } from "../arrange/chosen-list.tsx";
import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../panel-view.ts";

/** An outlook: of which KPI, and by which sources. */
export default function ArrangeOutlook({ panel, onChange }: ArrangeProps<"outlook">) {
  const outlooks = useFrameChoices({}).data?.outlooks ?? [];
  const chosen = panel.sources ?? USUAL_SOURCES;
  const nameOf = (key: string) =>
    key === LATEST
      ? "The latest forecast"
      : (outlooks.find((own) => own.key === key)?.name ?? (isEstimate(key) ? ESTIMATE_NAMES[key] : key));
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
      <div>
        <p className="text-[12.5px] text-slate">The months left come from</p>
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
