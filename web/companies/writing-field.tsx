import { Field } from "../ui/form.tsx";

/** How numbers or days are written, by an example; `null` where somebody reads them as the company writes them. */
export function WritingField<W extends string, V extends W | null>({
  label,
  writings,
  value,
  asCompany,
  onChange,
}: {
  label: string;
  writings: readonly W[];
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
        onChange={({ target }) => onChange((writings.find((writing) => writing === target.value) ?? null) as V)}
      >
        {asCompany !== undefined && <option value="">{asCompany}</option>}
        {writings.map((writing) => (
          <option key={writing} value={writing}>
            {writing}
          </option>
        ))}
      </select>
    </Field>
  );
}
