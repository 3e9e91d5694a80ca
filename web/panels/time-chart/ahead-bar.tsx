import { useState } from "react";
import { HORIZONS, LEAST_LEVEL, MOST_LEVEL, MOST_WITHOUT, USUAL_SEASON } from "#core/ahead/settings.ts";
import type { Method } from "#core/forecast/method-names.ts";
import { GRAIN_NAMES } from "#core/series/grain.ts";
import { ChoiceWord } from "../../ui/choice-word.tsx";
import { TextButton } from "../../ui/form.tsx";
import { Slider } from "../../ui/slider.tsx";
import { PostForecast } from "./post-forecast.tsx";
import type { PanelProps } from "../../panel-frame/panel-view.ts";
import type { TimeChartDefinition, TimeChartAnswer } from "#core/panels/time-chart/schema.ts";
import { type AheadSettings, horizonOf } from "#core/ahead/schema.ts";

export const METHOD_WORDS: Readonly<Record<Method, string>> = {
  smoothing: "exponential smoothing",
  arima: "seasonal ARIMA",
  waves: "waves of the year",
  theta: "Theta",
  "carried-season": "last season at today's level",
  "grown-season": "last season, grown",
  "seasonal-naive": "the season before repeated",
  naive: "the last value repeated",
  drift: "drift",
  mean: "the mean",
};

/** How a chart looks ahead, each part of it to be changed; the chart follows while something is dragged. */
export default function AheadBar({
  data,
  settings,
  fan,
  onDrag,
  onChoose,
  onNotes,
  split,
}: {
  data: TimeChartAnswer;
  settings: AheadSettings;
  fan: "all" | "one";
  onDrag: (change: AheadSettings) => void;
  onChoose: PanelProps<"time-chart">["actions"]["choose"];
  onNotes: () => void;
  split: TimeChartDefinition["split"] | null;
}) {
  const { ahead, grain } = data;
  const [isOpen, setIsOpen] = useState(false);
  if (!ahead) return null;
  const unit = GRAIN_NAMES[grain];
  const periods = (count: number) => `${count} ${unit}${count === 1 ? "" : "s"}`;
  const horizon = horizonOf(settings, grain);
  const without = settings.without ?? 0;
  const isMade = ahead.series.some(({ history }) => history.made !== null);
  return (
    <section aria-label="Looking ahead" className="px-4 pb-1 text-[12.5px]">
      <p className="text-slate">
        {settingWords(settings, data)}. {ahead.words}{" "}
        <span className="inline-flex flex-wrap gap-x-3">
          {ahead.offer && <TextButton onClick={() => onChoose(ahead.offer!.settings)}>{ahead.offer.name}</TextButton>}
          <TextButton isPressed={isOpen} onClick={() => setIsOpen(!isOpen)}>
            Adjust
          </TextButton>
          <TextButton onClick={onNotes}>Model notes</TextButton>
          <PostForecast data={data} split={split} settings={settings} />
        </span>
      </p>
      {ahead.sum && <p className="text-slate">{ahead.sum.words}</p>}
      <div hidden={!isOpen} className={isOpen ? "flex flex-wrap items-center gap-x-5 gap-y-0.5" : undefined}>
        <Slider
          label="Ahead"
          value={horizon}
          words={periods(horizon)}
          least={1}
          most={HORIZONS[grain].most}
          onDrag={(value) => onDrag({ horizon: value })}
          onDrop={(value) => onChoose({ horizon: value })}
        />
        <Slider
          label="Leave out the last"
          value={without}
          words={without === 0 ? "none" : periods(without)}
          least={0}
          most={MOST_WITHOUT}
          onDrag={(value) => onDrag({ without: value })}
          onDrop={(value) => onChoose({ without: value })}
        />
        <Slider
          label="Interval"
          value={settings.level ?? 95}
          words={settings.level === undefined ? "80 and 95%" : `${settings.level}%`}
          least={LEAST_LEVEL}
          most={MOST_LEVEL}
          onDrag={(value) => onDrag({ level: value })}
          onDrop={(value) => onChoose({ level: value })}
        />
        <ChoiceWord
          label="Season"
          words={seasonWords(settings.season, data)}
          chosen={String(settings.season ?? "")}
          choices={seasonsOf(data).map((season) => ({
            key: String(season ?? ""),
            name: seasonWords(season, data),
          }))}
          onChoose={(key) => onChoose({ season: key === "" ? undefined : Number(key) })}
          className="meaning-word"
        />
        <ChoiceWord
          label="Method"
          words={settings.method ? METHOD_WORDS[settings.method] : "best methods combined"}
          chosen={settings.method ?? ""}
          choices={[
            { key: "", name: "best methods combined" },
            ...Object.entries(METHOD_WORDS).map(([key, name]) => ({ key, name })),
          ]}
          onChoose={(key) => onChoose({ method: key === "" ? undefined : (key as Method) })}
          className="meaning-word"
        />
        {isMade && (
          <ChoiceWord
            label="Forecast"
            words={settings.way === "itself" ? "the series itself" : "by its inputs"}
            chosen={settings.way ?? "inputs"}
            choices={[
              { key: "inputs", name: "by its inputs", note: "each is forecast, and the KPI computed then" },
              { key: "itself", name: "the series itself", note: "the rate itself is forecast" },
            ]}
            onChoose={(way) => onChoose({ way: way as "inputs" | "itself" })}
            className="meaning-word"
          />
        )}
        <ChoiceWord
          label="Fan"
          words={fan === "all" ? "fan of all periods" : "fan of one period"}
          chosen={fan}
          choices={[
            { key: "all", name: "fan of all periods" },
            { key: "one", name: "fan of one period", note: "the one that is pointed at" },
          ]}
          onChoose={(key) => onChoose({ fan: key as "all" | "one" })}
          className="meaning-word"
        />
      </div>
    </section>
  );
}

/** What is looked ahead, in words: "12 months ahead, without the last 3". */
function settingWords(settings: AheadSettings, { grain }: TimeChartAnswer): string {
  const { without = 0 } = settings;
  const unit = GRAIN_NAMES[grain];
  const horizon = horizonOf(settings, grain);
  return `${horizon} ${unit}${horizon === 1 ? "" : "s"} ahead${without === 0 ? "" : `, without the last ${without === 1 ? unit : `${without} ${unit}s`}`}`;
}

/** Seasons worth a choice: found by itself, none, and what the grain can have. */
function seasonsOf({ grain }: TimeChartAnswer): readonly (number | undefined)[] {
  const usual = USUAL_SEASON[grain];
  const own = { day: [7], week: [13, 52], month: [3, 6, 12], quarter: [2, 4], year: [2] }[grain];
  return [undefined, 1, ...own.filter((season) => season > 1 || season === usual)];
}

function seasonWords(season: number | undefined, { grain }: TimeChartAnswer): string {
  if (season === undefined) return "season detected automatically";
  return season === 1 ? "no season" : `season of ${season} ${GRAIN_NAMES[grain]}s`;
}
