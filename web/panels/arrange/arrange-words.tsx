import { PANEL_SCHEMAS, type PanelDefinition } from "#core/panels/schemas.ts";
import type { ChartBase } from "#core/panels/panel-schema.ts";
import { MONEY_UNITS, moneyName } from "#core/formats/number-words.ts";
import { Field, TextField, Tick } from "../../ui/form.tsx";

/** What a chart can say besides, by the setting that it is kept in. */
const AXIS_TITLES = [
  { key: "axisTitle", label: "Value axis title (replaces the unit)" },
  { key: "acrossTitle", label: "Category axis title" },
] as const;

/**
 * A panel's own words, unit and decimals; left empty, they are drafted, the page's, or the KPIs'. Which of them
 * a kind has is what its contract says.
 */
export function ArrangeWords<P extends PanelDefinition>({
  panel,
  onChange,
}: {
  panel: P;
  onChange: (next: P) => void;
}) {
  const own: Partial<ChartBase> = panel;
  const set = (part: keyof ChartBase, value: string | number | true) => {
    const { [part]: _, ...rest } = own;
    onChange((value === "" ? rest : { ...rest, [part]: value }) as P);
  };
  const { shape } = PANEL_SCHEMAS[panel.kind].definition;
  const hasFigures = panel.kind !== "chooser";
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
      {AXIS_TITLES.filter(({ key }) => Object.hasOwn(shape, key)).map(({ key, label }) => (
        <TextField key={key} label={label} value={own[key] ?? ""} whenLeft onCommit={(text) => set(key, text.trim())} />
      ))}
      {hasFigures && (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Money in">
            <select className="field" value={panel.unit ?? ""} onChange={(e) => set("unit", e.target.value)}>
              <option value="">the page’s unit</option>
              {MONEY_UNITS.map((key) => (
                <option key={key} value={key}>
                  {key === "units" ? `${moneyName(key)}, in full` : moneyName(key)}
                </option>
              ))}
            </select>
          </Field>
          <Field label="Decimals">
            <select
              className="field"
              value={panel.decimals ?? ""}
              onChange={(e) => set("decimals", e.target.value === "" ? "" : Number(e.target.value))}
            >
              <option value="">each KPI’s own</option>
              {[0, 1, 2, 3, 4].map((decimals) => (
                <option key={decimals} value={decimals}>
                  {decimals}
                </option>
              ))}
            </select>
          </Field>
        </div>
      )}
      {Object.hasOwn(shape, "hidesLegend") && (
        <Tick
          label="Show the legend"
          isOn={own.hidesLegend !== true}
          onChange={(isOn) => set("hidesLegend", isOn ? "" : true)}
        />
      )}
    </div>
  );
}
