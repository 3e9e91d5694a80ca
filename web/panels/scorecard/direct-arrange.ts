import type { KeyboardEvent } from "react";
import type { DefinitionOf } from "#core/panels/schemas.ts";
import { dragOrder, movedOnto, type DragOrderProps } from "../../ui/drag-order.ts";
import { moved } from "../arrange/moved.ts";
import { moveKpi } from "./move-kpi.ts";
import { placeKpi } from "./place-kpi.ts";
import { DEFAULT_COLUMNS } from "#core/panels/scorecard/schema.ts";

type Scorecard = DefinitionOf<"scorecard">;
type Columns = NonNullable<Scorecard["columns"]>;

/** How a scorecard is arranged where it stands: rows, columns and groups are dragged, or moved with Alt and an arrow. */
export interface DirectArrange {
  readonly row: (kpi: string) => DragOrderProps;
  readonly column: (key: string) => DragOrderProps;
  readonly group: (title: string) => DragOrderProps;
  /** Moves what an arrow with Alt was pressed on. Returns whether it did. */
  readonly onKey: (event: KeyboardEvent) => boolean;
}

/** The ways to arrange a scorecard in place; what they make of it goes to `arrange`. */
export function directArrange(panel: Scorecard, arrange: (next: Scorecard) => void): DirectArrange {
  const { groups } = panel;
  const columns: Columns = panel.columns ?? DEFAULT_COLUMNS;
  const setGroups = (next: Scorecard["groups"]) => arrange({ ...panel, groups: next });
  const setColumns = (next: Columns) => arrange({ ...panel, columns: next });
  const titles = groups.map(({ title }) => title);
  const byTitle = (order: readonly string[]) => order.map((title) => groups.find((group) => group.title === title)!);
  const moveColumn = (key: string, by: -1 | 1): boolean => {
    const at = columns.findIndex((column) => column === key);
    if (at < 0 || at + by < 0 || at + by >= columns.length) return false;
    setColumns(moved(columns, at, at + by));
    return true;
  };
  const moveRow = (kpi: string, by: -1 | 1): boolean => {
    const g = groups.findIndex(({ kpis }) => kpis.includes(kpi));
    const i = groups[g]?.kpis.indexOf(kpi) ?? -1;
    const isAtEnd = by < 0 ? g === 0 && i === 0 : g === groups.length - 1 && i === groups[g]!.kpis.length - 1;
    if (i < 0 || isAtEnd) return false;
    setGroups(moveKpi(groups, g, i, by));
    return true;
  };
  const moveGroup = (title: string, by: -1 | 1): boolean => {
    const at = titles.indexOf(title);
    if (at < 0 || at + by < 0 || at + by >= groups.length) return false;
    setGroups(moved(groups, at, at + by));
    return true;
  };
  return {
    row: dragOrder(`row-${panel.key}`, (kpi, onto) => setGroups(placeKpi(groups, kpi, onto))),
    column: dragOrder(`column-${panel.key}`, (key, onto) =>
      setColumns(movedOnto(columns, key as Columns[number], onto as Columns[number])),
    ),
    group: dragOrder(`group-${panel.key}`, (title, onto) => setGroups(byTitle(movedOnto(titles, title, onto)))),
    onKey: ({ key, altKey, target }) => {
      if (!altKey) return false;
      const element = target as HTMLElement;
      const column = element.closest<HTMLElement>("[data-column]")?.dataset["column"];
      const kpi = element.closest<HTMLElement>("tr[data-kpi]")?.dataset["kpi"];
      const group = element.closest<HTMLElement>("[data-group]")?.dataset["group"];
      const sideways = key === "ArrowLeft" ? -1 : key === "ArrowRight" ? 1 : 0;
      const upwards = key === "ArrowUp" ? -1 : key === "ArrowDown" ? 1 : 0;
      if (sideways !== 0) return column !== undefined && moveColumn(column, sideways);
      if (upwards === 0) return false;
      if (kpi !== undefined) return moveRow(kpi, upwards);
      return group !== undefined && moveGroup(group, upwards);
    },
  };
}
