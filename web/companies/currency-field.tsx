import { useId } from "react";
import { Field } from "../ui/form.tsx";
import { CURRENCIES } from "./currencies.ts";

/** A currency by its code, with the usual ones to choose from. */
export function CurrencyField({ value, onChange }: { value: string; onChange: (code: string) => void }) {
  const list = useId();
  const name = CURRENCIES.find(([code]) => code === value.toUpperCase())?.[1];
  return (
    <Field label={name ? `Currency (${name})` : "Currency code"}>
      <input
        className="field"
        list={list}
        required
        maxLength={3}
        pattern="[A-Za-z]{3}"
        title="Three letters, such as EUR, USD or CHF"
        value={value}
        onChange={(event) => onChange(event.target.value.toUpperCase())}
      />
      <datalist id={list}>
        {CURRENCIES.map(([code, of]) => (
          <option key={code} value={code}>
            {of}
          </option>
        ))}
      </datalist>
    </Field>
  );
}
