import type { AnswerOf } from "#contract/operations/operation.ts";
import { KPIS } from "#contract/operations/kpis.ts";
import { Field } from "../../ui/form.tsx";
import { useAnswer } from "../../client/answer.ts";

/** Chooses the one KPI that a panel shows. */
export function KpiPick({
  label = "Default KPI",
  none,
  chosen,
  isOffered = () => true,
  onPick,
}: {
  label?: string;
  /** What stands for no KPI, chosen as ""; there is always one where it is left out. */
  none?: string;
  chosen: string;
  /** Which KPIs fit. */
  isOffered?: (kpi: AnswerOf<typeof KPIS.kpis>[number]["definition"]) => boolean;
  onPick: (kpi: string) => void;
}) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  return (
    <Field label={label}>
      <select className="field" value={chosen} onChange={(event) => onPick(event.target.value)}>
        {none !== undefined && <option value="">{none}</option>}
        {library
          .filter(({ definition, problem }) => (!problem && isOffered(definition)) || definition.key === chosen)
          .map(({ definition }) => (
            <option key={definition.key} value={definition.key}>
              {definition.name}
            </option>
          ))}
      </select>
    </Field>
  );
}
