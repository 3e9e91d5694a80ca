import { notesParts, type NotesPart, type NotesStyle } from "../forecast/notes-words.ts";
import type { KpiForecast } from "./forecast-history.ts";
import type { WaysJudged } from "./judge-ways.ts";
import type { Told, ToldForecast } from "../forecast/told.ts";

/** The notes of a series' forecast: of itself, or of each input it was computed from. */
export interface NotesSection {
  readonly title: string;
  readonly parts: readonly NotesPart[];
}

/** What is needed to write the notes of a series. */
export interface NotesOf {
  readonly name: string;
  readonly forecast: Told<KpiForecast>;
  readonly judged: Told<WaysJudged> | null;
}

/** The notes of a KPI's forecast as a data scientist reads them. Inputs are written in plain numbers, the KPI in its own unit. */
export function aheadNotes({ name, forecast, judged }: NotesOf, style: NotesStyle): NotesSection[] {
  if (!("points" in forecast))
    return [{ title: name, parts: [{ question: "Why is there no forecast?", answer: forecast.notFitted }] }];
  if (!forecast.isByInputs)
    return forecast.made.map((made) => ({ title: name, parts: notesParts(made.forecast, style) }));
  const plain: NotesStyle = { ...style, write: plainNumber };
  const inputs = forecast.made.map((one) => one.name);
  return [
    {
      title: name,
      parts: [
        {
          question: "Which model, and why?",
          answer: `${forecast.model}: ${inputs.join(", ")}. It is a rate of amounts, which does not add up: its inputs are forecast, each by a model of its own, and the formula is applied then, as in every other figure. Its interval comes from 1,000 draws of the inputs together, which hang together as their residuals did.`,
        },
        ...(judged ? waysParts(judged, style) : []),
      ],
    },
    ...forecast.made.map((one) => ({ title: one.name, parts: notesParts(one.forecast, plain) })),
  ];
}

function waysParts({ origins, horizon, rows, coverage }: Told<WaysJudged>, { write }: NotesStyle): NotesPart[] {
  const said = rows.map(
    ({ name, mae, mase }) => `${name} ${write(mae)} (MASE ${mase === null ? "none" : mase.toFixed(2)})`,
  );
  const held = coverage.map(({ level, share }) => `of ${percent(level)} covered ${percent(share)}`);
  return [
    {
      question: "How does it compare with naive methods?",
      answer: `Refitted from ${origins} earlier ${origins === 1 ? "origin" : "origins"}, up to ${horizon} ahead, the mean absolute error was: ${said.join("; ")}.`,
    },
    {
      question: "Do the intervals hold?",
      answer: `From the same origins the intervals ${held.join(", ")}, but there are too few periods to judge by.`,
    },
  ];
}

/** The same as plain text, to be sent to a colleague. */
export function aheadNotesText(sections: readonly NotesSection[]): string {
  return sections
    .map(({ title, parts }) => [title, ...parts.map(({ question, answer }) => `${question}\n${answer}`)].join("\n\n"))
    .join("\n\n\n");
}

/** A model as it is handed to a colleague who computes with it: everything but the history's residuals in words. */
export function aheadNotesJson(all: readonly (NotesOf & { readonly periods: readonly string[] })[]): string {
  return JSON.stringify(
    all.map(({ name, forecast, judged, periods }) => ({
      name,
      periods,
      ...("points" in forecast
        ? {
            model: forecast.model,
            points: forecast.points,
            intervals: forecast.intervals,
            judged,
            made: forecast.made.map(({ name: of, forecast: own }) => ({ of: of === "" ? name : of, ...notesOf(own) })),
          }
        : { notFitted: forecast.notFitted }),
    })),
    null,
    2,
  );
}

function notesOf({ model, notes, residuals }: ToldForecast): object {
  return { model, notes, residuals };
}

function plainNumber(value: number | null): string {
  return value === null || !Number.isFinite(value)
    ? "none"
    : value.toLocaleString("en-GB", { maximumSignificantDigits: 4 });
}

function percent(share: number | null): string {
  return share === null ? "none" : `${Math.round(share * 100)}%`;
}
