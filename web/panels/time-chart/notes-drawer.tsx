import { useState } from "react";
import { aheadNotes, aheadNotesJson, aheadNotesText } from "#core/ahead/notes.ts";
import { intervalsAt } from "#core/panels/time-chart/intervals-at.ts";
import { writeWithUnit, type NumberStyle } from "#core/formats/number-words.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { TextButton } from "../../ui/form.tsx";
import { PageAside } from "../../ui/page-aside.tsx";
import { DrawnNotes } from "./drawn-notes.tsx";
import type { AheadAnswer } from "#core/panels/time-chart/answer.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";

/** What a data scientist needs to judge a forecast, one series at a time; copied as text or JSON, and as a table. */
export default function NotesDrawer({
  data,
  ahead,
  style,
  onClose,
}: {
  data: TimeChartAnswer;
  ahead: AheadAnswer;
  style: NumberStyle;
  onClose: () => void;
}) {
  const [key, setKey] = useState("");
  const [said, setSaid] = useState("");
  const shown = ahead.series.find((series) => series.key === key) ?? ahead.series[0];
  if (!shown) return null;
  const sections = aheadNotes(shown, {
    write: (value) => (value === null ? "none" : writeWithUnit(value, style)),
    periodName: (t) => (t === null ? "" : (shown.history.keys[t] ?? "")),
  });
  const copy = async (text: string, what: string) => {
    try {
      await navigator.clipboard.writeText(text);
      setSaid(`${what} copied.`);
    } catch {
      setSaid("The browser did not allow copying.");
    }
  };
  const periods = data.points.slice(ahead.from);
  return (
    <PageAside label="Model notes" subject={`${data.kpi.key} ${shown.key}`} onClose={onClose}>
      <p className="text-slate">Model notes</p>
      <h2 className="mt-1 font-serif text-[19px] leading-tight">{data.kpi.name}</h2>
      <p className="mt-1 text-[13px] text-slate">
        {data.frame.words.scope}, by {data.grain}, {shown.history.keys[0]} to {shown.history.keys.at(-1)}
      </p>
      {ahead.series.length > 1 && (
        <p className="mt-2">
          <ChoiceWord
            label="Series"
            words={shown.key === "" ? "the whole" : shown.name}
            chosen={shown.key}
            choices={ahead.series.map((series) => ({
              key: series.key,
              name: series.key === "" ? "the whole" : series.name,
            }))}
            onChoose={setKey}
            className="meaning-word"
          />
        </p>
      )}
      <p className="mt-2 flex flex-wrap items-center gap-x-4">
        <TextButton onClick={() => void copy(aheadNotesText(sections), "The notes are")}>Copy as text</TextButton>
        <TextButton
          onClick={() =>
            void copy(
              aheadNotesJson(ahead.series.map((one) => ({ ...one, periods: periods.map(({ period }) => period) }))),
              "The models are",
            )
          }
        >
          Copy as JSON
        </TextButton>
        <span role="status" className="text-[12.5px] text-slate">
          {said}
        </span>
      </p>
      {sections.map(({ title, parts }, i) => (
        <section key={i} aria-label={title} className="mt-4">
          {sections.length > 1 && <h3 className="font-serif text-[16px]">{title}</h3>}
          <dl>
            {parts.map(({ question, answer }) => (
              <div key={question} className="mt-3">
                <dt className="text-[13px] font-semibold">{question}</dt>
                <dd className="mt-0.5 text-[13px] leading-[1.5] [overflow-wrap:anywhere]">{answer}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
      {"points" in shown.forecast && (
        <DrawnNotes
          key={shown.key}
          history={shown.history}
          settings={ahead.settings}
          write={(value) => writeWithUnit(value, style)}
        />
      )}
      <JudgedTable shown={shown} write={(value) => (value === null ? "none" : writeWithUnit(value, style))} />
      <table className="mt-5 w-full text-[12.5px]">
        <caption className="text-left font-serif text-[16px]">Description</caption>
        <thead>
          <tr className="border-b border-thread text-right text-slate">
            <th scope="col" className="text-left font-normal">
              Period
            </th>
            <th scope="col" className="font-normal">
              Forecast
            </th>
            {intervalsAt(shown, 0).map(({ level }) => (
              <th key={level} scope="col" className="pl-3 font-normal">
                {level}%, from – to
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {"points" in shown.forecast &&
            shown.forecast.points.map((point, step) => (
              <tr key={step} className="border-b border-thread/60 text-right tabular-nums">
                <th scope="row" className="py-0.5 text-left font-normal">
                  {periods[step]?.name ?? ""}
                </th>
                <td>{point === null ? "none" : writeWithUnit(point, style)}</td>
                {intervalsAt(shown, step).map(({ level, lower, upper }) => (
                  <td key={level} className="pl-3">
                    {writeWithUnit(lower, style)} – {writeWithUnit(upper, style)}
                  </td>
                ))}
              </tr>
            ))}
        </tbody>
      </table>
    </PageAside>
  );
}

/** The methods beside each other, from earlier origins. */
function JudgedTable({
  shown: { forecast, judged },
  write,
}: {
  shown: AheadAnswer["series"][number];
  write: (value: number | null) => string;
}) {
  if (!("points" in forecast)) return null;
  const rows = forecast.isByInputs ? judged?.rows : forecast.made[0]?.forecast.notes.backtest?.rows;
  if (!rows || rows.length === 0) return null;
  return (
    <table className="mt-5 w-full text-[12.5px]">
      <caption className="text-left font-serif text-[16px]">From earlier origins</caption>
      <thead>
        <tr className="border-b border-thread text-right text-slate">
          <th scope="col" className="text-left font-normal">
            Method
          </th>
          {["MAE", "RMSE", "sMAPE", "MASE"].map((head) => (
            <th key={head} scope="col" className="pl-3 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, mae, rmse, smape, mase }, i) => (
          <tr
            key={name}
            className={`border-b border-thread/60 text-right tabular-nums ${i === 0 ? "font-semibold" : ""}`}
          >
            <th scope="row" className={`py-0.5 text-left ${i === 0 ? "" : "font-normal"}`}>
              {name}
            </th>
            <td className="pl-3 whitespace-nowrap">{write(mae)}</td>
            <td className="pl-3 whitespace-nowrap">{write(rmse)}</td>
            <td className="pl-3">{smape === null ? "none" : `${(smape * 100).toFixed(1)}%`}</td>
            <td className="pl-3">{mase === null ? "none" : mase.toFixed(2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
