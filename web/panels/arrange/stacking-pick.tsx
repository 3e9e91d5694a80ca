import { STACKINGS, type Stacking } from "#core/panels/parts/stacking.ts";
import { Field } from "../../ui/form.tsx";
import { STACKING_WORDS } from "../../chart-kit/stacking-words.ts";

/** How several series stand as columns or bars. */
export function StackingPick({
  label,
  chosen,
  onPick,
}: {
  label: string;
  chosen: Stacking;
  onPick: (stacking: Stacking) => void;
}) {
  return (
    <Field label={label}>
      <select
        className="field"
        value={chosen}
        onChange={(event) => onPick(STACKINGS.find((key) => key === event.target.value)!)}
      >
        {STACKINGS.map((key) => (
          <option key={key} value={key}>
            {STACKING_WORDS[key]}
          </option>
        ))}
      </select>
    </Field>
  );
}
