import { deltaStyle, valueStyle, type MoneyUnit, type NumberStyle } from "#core/formats/number-words.ts";
import type { AnswerOf, PanelKind } from "#core/panels/schemas.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";
import type { PanelProps } from "../panel-frame/panel-view.ts";

/** What a panel's own drawing and words are made from. */
export interface Own<K extends PanelKind> extends Pick<PanelProps<K>, "panel" | "choice" | "picked" | "actions"> {
  readonly data: AnswerOf<K>;
  /** The same of the part that is selected; `undefined` while none is. */
  readonly part: AnswerOf<K> | undefined;
  /** How its values are written, and their differences. */
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
  readonly money: MoneyUnit;
}

/** A panel's view with its figures, in the unit of `kpi`. */
export function ownOf<K extends PanelKind>(
  { panel, choice, picked, actions }: PanelProps<K>,
  { data, part, kpi }: { data: AnswerOf<K>; part: AnswerOf<K> | undefined; kpi: KpiHead },
): Own<K> {
  const money = data.frame.unit;
  return {
    panel,
    choice,
    picked,
    actions,
    data,
    part,
    money,
    style: valueStyle(kpi.unit, kpi.decimals, money),
    deltaStyle: deltaStyle(kpi.unit, kpi.decimals, money),
  };
}
