import { useKpis } from "../../app/questions.ts";
import { Field } from "../../ui/form.tsx";

/** Chooses the one KPI that a panel shows. */
export function KpiPick({
  label = "KPI, until the reader chooses another",
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
  isOffered?: (kpi: NonNullable<ReturnType<typeof useKpis>["data"]>[number]["definition"]) => boolean;
  onPick: (kpi: string) => void;
}) {
  const library = useKpis().data ?? [];
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
