import type { AccuracyAnswer, AccuracyRow } from "#core/panels/accuracy/schema.ts";
import { accuracyTable } from "#core/panels/accuracy/table.ts";
import { writePercent, writeSigned, writeWithUnit } from "#core/formats/number-words.ts";
import type { Around } from "../../chart-kit/chart-body.tsx";
import { figurePanel } from "../../chart-kit/figure-panel.tsx";
import type { Own } from "../../chart-kit/own.ts";
import { WeighedMark } from "../../chart-kit/reading.tsx";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { ScenarioName } from "../../figures/scenario-mark.tsx";
import { formatFigureAddress } from "../../panel-frame/figure-address.ts";

type OwnAccuracy = Own<"accuracy">;

/** How right the versions of a KPI's forecast were, beside the budget and the prior year. */
export default figurePanel<"accuracy">({
  label: "Accuracy of versions",
  kpi: ({ kpi }) => kpi,
  caption: ({ data, style }) => `${data.kpi.name} in ${style.unitName}`,
  table: accuracyTable,
  around,
  Figures: Versions,
});

function judgedOf({ rows }: AccuracyAnswer): AccuracyRow[] {
  return rows.filter(({ months }) => months > 0);
}

function around({ data, actions }: OwnAccuracy): Around {
  return {
    head: (
      <ChoiceWord
        label="Judged by"
        words={data.isAlike ? "the months that all have" : "the months after each was made"}
        chosen={data.isAlike ? "on" : "off"}
        choices={[
          { key: "on", name: "the months that all have", note: "like for like" },
          { key: "off", name: "the months after each was made" },
        ]}
        onChoose={(key) => actions.choose({ alike: key === "on" ? "on" : "off" })}
        className="meaning-word"
      />
    ),
    refusal: judgedOf(data).some(({ isForecast }) => isForecast)
      ? null
      : {
          title: "Nothing to judge yet",
          detail: `No forecast of ${data.kpi.name} was made before a month that is closed by ${data.frame.words.asOf}. Look at a later month, or post a forecast.`,
        },
  };
}

function Versions({ data, part, actions, deltaStyle }: OwnAccuracy) {
  const judged = judgedOf(data);
  const aheads = [...new Set(judged.flatMap(({ byAhead }) => byAhead.map(({ ahead }) => ahead)))].sort((a, b) => a - b);
  const most = Math.max(...judged.map(({ share }) => share ?? 0), 1e-9);
  const partOfRow = ({ key }: AccuracyRow) => part?.rows.find((row) => row.key === key)?.share ?? null;
  return (
    <table className="mt-1 w-full text-[13px]">
      <caption className="sr-only">{data.headline}</caption>
      <thead>
        <tr className="text-right align-bottom text-slate">
          <th scope="col" className="py-1 text-left font-normal">
            <ScenarioName code="forecast" name="Version" />
          </th>
          <th scope="col" className="px-2 text-left font-normal">
            Judged by
          </th>
          <th scope="col" className="w-[22%] px-2 text-left font-normal">
            Off, by what came
          </th>
          <th scope="col" className="px-2 font-normal" title="The mean of what came less what was said">
            Bias a month
          </th>
          {aheads.map((ahead) => (
            <th key={ahead} scope="col" className="px-1.5 font-normal" title={`${ahead} months ahead`}>
              +{ahead}
              <span className="sr-only"> {ahead === 1 ? "month" : "months"} ahead</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.rows.map((row) => (
          <tr key={row.key} className="border-t border-thread/70 text-right tabular-nums">
            <th scope="row" className="py-1.5 text-left font-normal">
              {row.name}
              <span className="block text-[12px] text-slate">{row.note}</span>
            </th>
            <td className="px-2 text-left">
              {row.over ? (
                <button
                  type="button"
                  className="min-h-[24px] text-left hover:underline"
                  onClick={() => actions.ask(formatFigureAddress(data.kpi.key, "actual", row.over!.months))}
                >
                  {row.over.name}
                </button>
              ) : (
                <span className="text-slate">no month yet</span>
              )}
            </td>
            <td className="px-2 text-left">
              <Off row={row} most={most} mae={row.mae === null ? "" : writeWithUnit(row.mae, deltaStyle)} />
              <WeighedMark part={weighedShare(partOfRow(row))} />
            </td>
            <td className="px-2">{row.bias === null ? "" : writeSigned(row.bias, deltaStyle)}</td>
            {aheads.map((ahead) => {
              const own = row.byAhead.find((one) => one.ahead === ahead);
              return (
                <td key={ahead} className="px-1.5">
                  {own === undefined || own.share === null ? "" : writePercent(own.share)}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function weighedShare(share: number | null) {
  return share === null
    ? null
    : { name: "Selected part", text: `${writePercent(share)} of the selected part`, share: null };
}

/** The error as a bar with its percent; the amount on pointing. */
function Off({ row: { share, isForecast }, most, mae }: { row: AccuracyRow; most: number; mae: string }) {
  if (share === null) return <span className="text-slate">{mae}</span>;
  return (
    <span className="flex items-center gap-2" title={`${mae} a month`}>
      <span
        aria-hidden="true"
        className="inline-block h-[10px] shrink-0"
        style={{
          width: `${(share / most) * 60}%`,
          minWidth: 1,
          background: isForecast ? "var(--indigo)" : "var(--walnut)",
        }}
      />
      {writePercent(share)}
    </span>
  );
}
