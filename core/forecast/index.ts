export { forecastSeries } from "./forecast-series.ts";
export type {
  ForecastInput,
  ForecastNotes,
  ForecastOptions,
  JudgedMethod,
  MadeForecast,
  SeriesForecast,
} from "./forecast.ts";
export { backtest, type Backtest, type BacktestOptions, type BacktestRow } from "./backtest.ts";
export {
  expectedRange,
  type ExpectedRange,
  type RangeEvent,
  type RangeOptions,
  type RangePoint,
} from "./expected-range.ts";
export { easterRegressors, CALENDAR_EFFECTS, type CalendarEffect, type Regressor } from "./calendar-effects.ts";
export { notesParts, notesText, type NotesPart, type NotesStyle } from "./notes-words.ts";
export { fitMethod } from "./methods.ts";
export { METHODS, type Method } from "./method-names.ts";
export { fitSmoothing, type SmoothingFit } from "./smoothing/fit.ts";
export { chooseSmoothing } from "./smoothing/choose.ts";
export { projectSmoothing } from "./smoothing/project.ts";
export { formName, formWords, stableForms, type SmoothingForm } from "./smoothing/form.ts";
