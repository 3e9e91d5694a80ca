import { formatNumber } from "#core/formats/number-words.ts";
import type { PanelTable, TableCell, TableColumn } from "#core/panels/parts/panel-table.ts";
import {
  valueStyle,
  writeNumber,
  writePercent,
  writeSigned,
  type MoneyUnit,
  type NumberStyle,
} from "#core/formats/number-words.ts";
import { ScenarioName } from "../figures/scenario-mark.tsx";

/** The numbers behind a panel as a table on screen: the same table that is copied and exported, written in the panel's style. */
export function NumbersTable({
  table,
  caption,
  style,
  deltaStyle,
  money = "units",
}: {
  table: PanelTable;
  caption: string;
  style: NumberStyle;
  deltaStyle: NumberStyle;
  /** The unit of money for columns of KPIs of their own. */
  money?: MoneyUnit;
}) {
  const shown = table.columns.flatMap((column, i) => (column.isForFiles ? [] : [{ column, i }]));
  const write = ({ holds, of }: TableColumn, cell: TableCell): string => {
    if (typeof cell !== "number") return cell ?? "";
    if (holds === "percent") return writePercent(cell);
    if (holds === "count") return formatNumber(cell, 0);
    return holds === "delta"
      ? writeSigned(cell, { ...deltaStyle, prefix: "", suffix: "" })
      : writeNumber(cell, of ? valueStyle(of.unit, of.decimals, money) : style);
  };
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Table of numbers">
      <table className="w-full text-[12px]">
        <caption className="pb-2 text-left text-slate">{caption}</caption>
        <thead>
          <tr className="align-bottom">
            {shown.map(({ column, i }) => (
              <th
                key={i}
                scope="col"
                className={`font-normal text-slate ${i === 0 ? "" : "pl-3"} ${column.holds === "text" ? "text-left" : "text-right"}`}
              >
                <Head column={column} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, r) => (
            <tr key={r} className="border-t border-thread/70">
              {shown.map(({ column, i }, place) => {
                const text = write(column, row[i] ?? null);
                const side = column.holds === "text" ? "text-left" : "text-right";
                return place === 0 ? (
                  <th key={i} scope="row" className="py-1 text-left font-normal whitespace-nowrap">
                    {text}
                  </th>
                ) : (
                  <td key={i} className={`pl-3 whitespace-nowrap ${side}`}>
                    {text}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const SHORT: Readonly<Record<string, string>> = {
  Variance: "Δ",
  "Variance of basis": "Δ%",
};

function Head({ column: { head, scenario } }: { column: TableColumn }) {
  if (scenario === undefined) return SHORT[head] ?? head;
  return <ScenarioName code={scenario} name={head} />;
}
