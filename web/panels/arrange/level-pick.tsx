import type { FrameChoices } from "#contract/frame-choices.ts";
import { Field } from "../../ui/form.tsx";

/** A dimension and a level of it; the highest where `null`. */
export interface Level {
  readonly dimension: string;
  readonly level: string | null;
}

/** Chooses a level of a dimension, or none of them. */
export function LevelPick({
  label,
  none,
  dimensions,
  chosen,
  onPick,
}: {
  label: string;
  /** What it means to choose none; left out where one must be chosen. */
  none?: string;
  dimensions: FrameChoices["dimensions"];
  chosen: Level | null;
  onPick: (level: Level | null) => void;
}) {
  return (
    <Field label={label}>
      <select
        className="field"
        value={chosen ? `${chosen.dimension}/${chosen.level ?? ""}` : ""}
        onChange={(event) => {
          const [dimension, level] = event.target.value.split("/");
          onPick(dimension ? { dimension, level: level ? level : null } : null);
        }}
      >
        {none !== undefined && <option value="">{none}</option>}
        {dimensions.flatMap(({ key, levels }) =>
          levels.map((level, i) => (
            <option key={`${key}/${level}`} value={`${key}/${i === 0 ? "" : level}`}>
              {i === 0 && levels[1] ? `${level}, opening into ${levels[1].toLowerCase()}` : level}
            </option>
          )),
        )}
      </select>
    </Field>
  );
}
