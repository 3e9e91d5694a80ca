import { KpiPick } from "../arrange/kpi-pick.tsx";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";

/** Accuracy of versions: of which KPI. */
export default function ArrangeAccuracy({ panel, onChange }: ArrangeProps<"accuracy">) {
  return (
    <div className="mt-2 grid gap-2">
      <KpiPick chosen={panel.kpi} onPick={(kpi) => onChange({ ...panel, kpi })} />
    </div>
  );
}
