import { expect, it } from "vitest";
import { monthOf } from "../calendar/month.ts";
import type { MadeForecast } from "./forecast.ts";
import { forecastSeries } from "./forecast-series.ts";
import { notesParts, notesText, type NotesStyle } from "./notes-words.ts";
import referenceFits from "./testing/reference-fits.json" with { type: "json" };

const AIR = referenceFits.AirPassengers.values;
const STYLE: NotesStyle = { write: (value) => value!.toFixed(1), periodName: (t) => `period ${t! + 1}` };
const made = (values: readonly number[], season: number): MadeForecast => {
  const forecast = forecastSeries({ values, season, firstMonth: monthOf(1949, 1) }, { horizon: 12 });
  if ("notFitted" in forecast) throw new Error(forecast.notFitted);
  return forecast;
};

it("answer what a data scientist asks, from the numbers of the forecast", () => {
  const forecast = made(AIR, 12);
  const answers = new Map(notesParts(forecast, STYLE).map(({ question, answer }) => [question, answer]));
  expect([...answers.keys()]).toHaveLength(6);
  const { notes, model } = forecast;
  expect(answers.get("Which model, and why?")).toContain(model.name);
  expect(answers.get("Which model, and why?")).toMatch(/AICc \d+\.\d.* Of \d+ forms it is the lowest; next come ETS/);
  expect(answers.get("How does it compare with naive methods?")).toContain(
    `Seasonal naive ${notes.backtest!.rows.find(({ name }) => name === "Seasonal naive")!.mase.toPrecision(3)}`,
  );
  expect(answers.get("Are the residuals white noise?")).toMatch(/Ljung-Box over 24 lags: .*, p /);
  expect(answers.get("Do the intervals hold?")).toMatch(/of 80% covered \d+%, of 95% covered \d+%/);
  expect(answers.get("What was excluded or adjusted for?")).toContain("Fitted to 144 periods.");
  const text = notesText("Passengers", forecast, STYLE);
  for (const [question, answer] of answers) expect(text).toContain(`${question}\n${answer}`);
  expect(text).not.toMatch(/NaN|undefined|Infinity/);
});

it("say so where nothing can be judged, and name what was left out", () => {
  const short = notesText("Short", made([4, 5, 7, 6], 1), STYLE);
  expect(short).toContain("too short for backtests");
  expect(short).not.toMatch(/NaN|undefined|Infinity/);
  const struck = AIR.map((value, t) => (t === 100 ? value * 9 : value));
  expect(notesText("Struck", made(struck, 12), STYLE)).toContain("Excluded: period 101.");
});
