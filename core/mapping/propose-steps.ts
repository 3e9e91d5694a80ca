import type { ColumnProfile } from "../reading/column-profile.ts";
import { profileColumns } from "../reading/column-profile.ts";
import { detectDateFormat, readDate, type DateFormat } from "../reading/read-date.ts";
import { readNumber } from "../reading/read-number.ts";
import type { TidyStep } from "../tidy/steps/index.ts";
import { TOTAL_WORDS } from "../tidy/steps/skip-totals.ts";
import { tidyTable } from "../tidy/tidy-run.ts";
import { ACCOUNT_NUMBER, REFERENCE_NAME } from "./column-names.ts";
import type { MappingView } from "./mapping-view.ts";
import { proposeRateSteps } from "./propose-rates.ts";
import type { Sample } from "./sample.ts";
import { markOf } from "./table-mark.ts";
import type { Understanding } from "./understand-table.ts";

/** Tidy steps that a file's looks ask for: total rows skipped, months laid out as columns turned into rows. */
export function proposeSteps(
  sample: Sample,
  view: MappingView,
  { title, understood }: { readonly title: string; readonly understood: Understanding | undefined },
): TidyStep[] {
  const steps: TidyStep[] = [];
  const figures = new Set(understood?.body.figures.map((place) => sample.columns[place]!));
  // Columns that can only be read with the other decimal mark are brought to the file's own.
  const profiles = profileColumns(sample.columns, sample.rows, view.calendar).filter(
    ({ name }) => !understood || figures.has(name),
  );
  const mark = markOf(profiles);
  const others = profiles.filter((p) => p.type === "number" && p.tellsMark && p.mark !== mark).map(({ name }) => name);
  if (others.length > 0) steps.push({ kind: "number-format", columns: others, mark: mark === "," ? "." : "," });
  // Total rows stand at the end, out of the sample's sight: skipping them costs nothing when there are none.
  const hasText = sample.rows.some((row) => row.some((cell) => cell !== "" && !readNumber(cell, ".")));
  if (hasText)
    steps.push(
      { kind: "skip-totals", words: [...TOTAL_WORDS] },
      { kind: "skip-notes" },
      ...proposeSkipSums(sample, profiles, view),
    );
  const ofRates = proposeRateSteps(sample, title, view);
  return [
    ...(understood?.firstSteps ?? []),
    ...steps,
    ...(ofRates.length > 0 ? ofRates : (understood?.steps ?? []).map((step) => plainTurn(step, view))),
  ];
}

/** Columns that are called as their months are written need no list of months beside them. */
function plainTurn(step: TidyStep, { calendar }: MappingView): TidyStep {
  if (step.kind !== "turn" || step.into.length !== 1) return step;
  const names = step.turned.map(({ name }) => name);
  const format = detectDateFormat(names, calendar)?.format;
  const isPlain =
    format !== undefined &&
    step.turned.every(({ name, texts }) => {
      const [own, said] = [readDate(name, format, calendar), readDate(texts[0]!, "iso", calendar)];
      return own !== undefined && own.month === said?.month && own.day === said.day;
    });
  return isPlain ? { kind: "unpivot", columns: names, nameInto: step.into[0]!, valueInto: step.valueInto } : step;
}

/** Subtotals that do not call themselves so are told by their arithmetic, where there are any. */
function proposeSkipSums(sample: Sample, profiles: readonly ColumnProfile[], { calendar }: MappingView): TidyStep[] {
  const columns = profiles
    .filter(({ name, type }) => type === "number" && !ACCOUNT_NUMBER.test(name) && !REFERENCE_NAME.test(name))
    .map(({ name }) => name);
  if (columns.length === 0) return [];
  const step: TidyStep = { kind: "skip-sums", columns };
  const rows = sample.rows.map((cells, line) => ({ line, cells }));
  const { table } = tidyTable([step], { columns: sample.columns, rows }, { mark: markOf(profiles), calendar });
  return table.rows.length < rows.length ? [step] : [];
}

/** The format that column names laid out as periods are written in. */
export function unpivotFormat(columns: readonly string[], view: MappingView): DateFormat | undefined {
  return detectDateFormat(columns, view.calendar)?.format;
}
