import { NUMBER_WRITINGS, type NumberWriting } from "#core/words/writing.ts";
import { Field } from "../ui/form.tsx";

/** How numbers are written, by an example; `null` where somebody reads them as the company writes them. */
export function NumberWritingField<V extends NumberWriting | null>({
  label,
  value,
  asCompany,
  onChange,
}: {
  label: string;
  value: V;
  /** What stands for no choice of one's own, where that can be chosen. */
  asCompany?: string;
  onChange: (value: V) => void;
}) {
  return (
    <Field label={label}>
      <select
        className="field"
        value={value ?? ""}
        onChange={({ target }) => onChange((NUMBER_WRITINGS.find((writing) => writing === target.value) ?? null) as V)}
      >
        {asCompany !== undefined && <option value="">{asCompany}</option>}
        {NUMBER_WRITINGS.map((writing) => (
          <option key={writing} value={writing}>
            {writing}
          </option>
        ))}
      </select>
    </Field>
  );
}
