import type { PanelDefinition } from "#contract/panels/index.ts";
import type { MoneyUnit } from "#core/words/number-words.ts";
import { Field, TextField } from "../../ui/form.tsx";

const UNITS: readonly { readonly key: MoneyUnit; readonly name: string }[] = [
  { key: "units", name: "€, in full" },
  { key: "thousand", name: "€ thousand" },
  { key: "million", name: "€ million" },
];

/** A panel's own title, subtitle and unit; left empty, they are drafted or the page's. */
export function ArrangeWords<P extends PanelDefinition>({
  panel,
  onChange,
}: {
  panel: P;
  onChange: (next: P) => void;
}) {
  const set = (part: "title" | "subtitle" | "unit", value: string) => {
    const { [part]: _, ...rest } = panel;
    onChange((value === "" ? rest : { ...rest, [part]: value }) as P);
  };
  return (
    <div className="mt-3 grid gap-2">
      {(["title", "subtitle"] as const).map((part) => (
        <TextField
          key={part}
          label={part === "title" ? "Title" : "Subtitle"}
          value={panel[part] ?? ""}
          whenLeft
          onCommit={(text) => set(part, text.trim())}
        />
      ))}
      <Field label="Money in">
        <select className="field" value={panel.unit ?? ""} onChange={(e) => set("unit", e.target.value)}>
          <option value="">the page’s unit</option>
          {UNITS.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
    </div>
  );
}
