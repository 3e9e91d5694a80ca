import { useEffect, useRef, useState } from "react";
import type { KpiForecast } from "#core/ahead/forecast-history.ts";
import type { Told } from "#core/forecast/told.ts";
import { isSame } from "#core/history/records-diff.ts";
import { AheadWorker } from "./worker-client.ts";
import type { TimeChartAnswer } from "#core/panels/time-chart/schema.ts";
import type { AheadSettings } from "#core/ahead/schema.ts";

/** A chart that follows settings as they are dragged: forecast in a worker until the answer to them is there. */
export interface Previewed {
  readonly data: TimeChartAnswer;
  /** The settings as they are dragged. */
  readonly settings: AheadSettings;
  readonly isPreview: boolean;
  readonly drag: (change: AheadSettings) => void;
}

export function usePreview(answer: TimeChartAnswer): Previewed {
  const [dragged, setDragged] = useState<AheadSettings | null>(null);
  const [made, setMade] = useState<{ of: TimeChartAnswer; settings: AheadSettings; data: TimeChartAnswer } | null>(
    null,
  );
  const preview = useRef<AheadWorker>(undefined);
  useEffect(() => () => preview.current?.end(), []);
  const { ahead } = answer;
  const settings = ahead ? { ...ahead.settings, ...dragged } : {};
  const isPreview = ahead !== null && dragged !== null && !isSame(settings, ahead.settings);
  // The answer to what was dragged is there: it is told from now on.
  if (dragged !== null && !isPreview) setDragged(null);
  const drag = (change: AheadSettings) => {
    if (!ahead) return;
    const next = { ...settings, ...change };
    setDragged(next);
    preview.current ??= new AheadWorker();
    preview.current.ask(
      "forecast",
      ahead.series.map(({ history }) => history),
      next,
      (forecasts) =>
        void withForecasts(answer, forecasts, next).then((data) => setMade({ of: answer, settings: next, data })),
    );
  };
  const data = isPreview && made?.of === answer ? made.data : answer;
  return { data, settings, isPreview, drag };
}

async function withForecasts(
  answer: TimeChartAnswer,
  forecasts: readonly Told<KpiForecast>[],
  settings: AheadSettings,
): Promise<TimeChartAnswer> {
  // Only those who drag need it.
  const { lookAhead } = await import("#core/panels/time-chart/ahead.ts");
  const { series, beyond } = answer.ahead!;
  const next = series.map((one, i) => ({ ...one, forecast: forecasts[i]!, judged: null }));
  const looked = lookAhead(answer, beyond, next, settings);
  const [whole] = next;
  const model = whole && "points" in whole.forecast ? whole.forecast.model : null;
  return {
    ...looked,
    ahead: looked.ahead && {
      ...looked.ahead,
      ...(model === null ? {} : { words: `${model}: preview, tested when you release.`, offer: null }),
    },
  };
}
