import { KPIS } from "#contract/operations/kpis.ts";
import { ChosenList } from "./chosen-list.tsx";
import { useAnswer } from "../../client/answer.ts";

/** The KPIs of a panel in their order, with the rest of the library to add. */
export function KpiList({
  label,
  chosen,
  onChange,
}: {
  label: string;
  chosen: readonly string[];
  onChange: (next: string[]) => void;
}) {
  const library = useAnswer(KPIS.kpis).data ?? [];
  return (
    <section aria-label="KPIs" className="mt-4">
      <h3 className="font-serif text-[16px]">{label}</h3>
      <ChosenList
        chosen={chosen}
        nameOf={(key) => library.find((kpi) => kpi.definition.key === key)?.definition.name ?? key}
        rest={library.flatMap(({ definition: { key }, problem }) => (problem || chosen.includes(key) ? [] : key))}
        onChange={onChange}
      />
    </section>
  );
}
