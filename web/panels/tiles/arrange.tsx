import { DEFAULT_TILE_FIGURES } from "#core/panels/tiles/definition.ts";
import { TILE_FIGURES, type TileFigureKind } from "#core/panels/tiles/figure-kinds.ts";
import type { DefinitionOf } from "#contract/panels/index.ts";
import { useKpis } from "../../app/questions.ts";
import { Field } from "../../ui/form.tsx";
import type { ArrangeProps } from "../panel-view.ts";
import { ORDER_CHOICES, orderKey, parseOrder, TOP_CHOICES } from "./tile-order.ts";
import { ChosenList } from "../arrange/chosen-list.tsx";

const FIGURE_NAMES: Readonly<Record<TileFigureKind, string>> = {
  month: "The month",
  "month-to-date": "Month to date",
  "same-day": "Last month to the same day",
  "year-to-date": "Year to date",
  "prior-year": "Prior year",
  "run-rate-month": "Run rate of the month",
  "run-rate-year": "Run rate of the year",
  outlook: "Full-year outlook",
};

/** Tiles: of which KPIs, with which small figures, repeated by what, in which order. */
export default function ArrangeTiles({ panel, dimensions, onChange }: ArrangeProps<"tiles">) {
  const kpis = useKpis();
  const nameOf = (key: string) => kpis.data?.find((k) => k.definition.key === key)?.definition.name ?? key;
  const figures = panel.figures ?? DEFAULT_TILE_FIGURES;
  const { repeatBy } = panel;
  return (
    <>
      <div className="mt-3 grid gap-2">
        <Field label="Repeated by">
          <select
            className="field"
            value={repeatBy ? `${repeatBy.dimension}/${repeatBy.level ?? ""}` : ""}
            onChange={(e) => onChange({ ...panel, repeatBy: parseRepeat(e.target.value) })}
          >
            <option value="">nothing: a tile for each KPI</option>
            {dimensions.flatMap(({ key, levels }) =>
              levels.map((level, i) => (
                <option key={`${key}/${level}`} value={`${key}/${i === 0 ? "" : level}`}>
                  {i === 0 && levels[1] ? `${level}, opening into ${levels[1].toLowerCase()}` : level}
                </option>
              )),
            )}
          </select>
        </Field>
        <Field label="Order">
          <select
            className="field"
            value={orderKey(panel.order, panel.isReversed)}
            onChange={(e) => onChange({ ...panel, ...parseOrder(e.target.value) })}
          >
            {ORDER_CHOICES.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        {repeatBy && (
          <Field label="Apart">
            <select
              className="field"
              value={panel.top === null ? "all" : String(panel.top)}
              onChange={(e) => onChange({ ...panel, top: e.target.value === "all" ? null : Number(e.target.value) })}
            >
              {TOP_CHOICES.map(({ key, name }) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          </Field>
        )}
      </div>
      <section aria-label="Small figures" className="mt-4">
        <h3 className="font-serif text-[16px]">Small figures</h3>
        <ChosenList
          chosen={figures}
          nameOf={(key) => FIGURE_NAMES[key]}
          rest={TILE_FIGURES.filter((key) => !figures.includes(key))}
          mayBeEmpty
          onChange={(next) => onChange({ ...panel, figures: next })}
        />
        <p className="mt-1 text-[12.5px] text-slate">What the large figure already says is left out.</p>
      </section>
      <section aria-label="KPIs" className="mt-4">
        <h3 className="font-serif text-[16px]">{repeatBy ? "Layers" : "KPIs"}</h3>
        <ChosenList
          chosen={panel.kpis}
          nameOf={nameOf}
          rest={(kpis.data ?? []).flatMap(({ definition: { key }, problem }) =>
            problem || panel.kpis.includes(key) ? [] : key,
          )}
          onChange={(next) => onChange({ ...panel, kpis: next })}
        />
      </section>
    </>
  );
}

function parseRepeat(value: string): DefinitionOf<"tiles">["repeatBy"] {
  const [dimension, level] = value.split("/");
  return dimension ? { dimension, level: level ? level : null } : null;
}
