import type { FrameChoices } from "#contract/frame-choices.ts";
import type { PanelDefinition } from "#core/panels/schemas.ts";
import { Field, Tick } from "../../ui/form.tsx";

type Part = "span" | "basis" | "asOf" | "scope" | "shown";

/** The parts of the frame that a panel keeps whatever the page says, whether it stands apart, and whether it has a frame. */
export function ArrangeKept({
  panel,
  choices,
  onChange,
}: {
  panel: PanelDefinition;
  choices: FrameChoices;
  onChange: (next: PanelDefinition) => void;
}) {
  const { holds = {} } = panel;
  const hold = (part: Part, value: string) => {
    const { [part]: _, ...others } = holds;
    const next = value === "" ? others : { ...others, [part]: value };
    const { holds: __, ...rest } = panel;
    onChange(Object.keys(next).length === 0 ? rest : { ...rest, holds: next });
  };
  const tick = (part: "isApart" | "isBare", isOn: boolean) => {
    const { [part]: _, ...rest } = panel;
    onChange(isOn ? { ...rest, [part]: true } : rest);
  };
  const pick = (part: Part, label: string, options: readonly { key: string; name: string }[]) => {
    const own = holds[part];
    const isKnown = own === undefined || options.some(({ key }) => key === own);
    return (
      <Field label={label}>
        <select className="field" value={own ?? ""} onChange={(event) => hold(part, event.target.value)}>
          <option value="">the page’s</option>
          {!isKnown && <option value={own}>{own}</option>}
          {options.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </Field>
    );
  };
  return (
    <fieldset className="mt-4">
      <legend className="font-serif text-[16px]">Frame settings it holds</legend>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {pick("span", "Span", choices.spans)}
        {pick("shown", "Looked at", choices.shown)}
        {pick("basis", "Against", choices.bases)}
        {pick(
          "asOf",
          "As of",
          choices.asOfChoices.map(({ month, name }) => ({ key: month, name })),
        )}
        {pick(
          "scope",
          "For",
          choices.dimensions.flatMap((dimension) =>
            dimension.members.map(({ key, name }) => ({
              key: `${dimension.key}:${key}`,
              name: `${name} (${dimension.name.toLowerCase()})`,
            })),
          ),
        )}
      </div>
      {(
        [
          ["isApart", "Stands apart: clicks elsewhere do not narrow or weigh it"],
          ["isBare", "No border"],
        ] as const
      ).map(([part, label]) => (
        <Tick key={part} label={label} isOn={panel[part] ?? false} onChange={(isOn) => tick(part, isOn)} />
      ))}
    </fieldset>
  );
}
