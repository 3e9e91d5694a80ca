import { partOf } from "#core/panels/parts/part-of.ts";
import { valueStyle, writePercent, writeWithUnit, type MoneyUnit } from "#core/formats/number-words.ts";
import type { Figure, Variance } from "#core/figures/schema.ts";
import type { KpiHead } from "#core/panels/parts/schema.ts";
import { JudgementMark } from "../figures/judgement.tsx";

/** What is read of a mark, for the eye as a card and for listeners as a sentence. */
export interface Reading {
  readonly title: string;
  readonly lines: readonly ReadingLine[];
  /** The judgement of what is read, with its variance in words. */
  readonly judged?: { readonly judgement: Variance["judgement"]; readonly text: string } | null;
  /** What of it is the selected part; empty while nothing is selected. */
  readonly weighed?: readonly (Weighed | null)[];
  /** Notes on the figures. */
  readonly notes?: string;
  /** What a click does. */
  readonly hint?: string | null;
}

export interface ReadingLine {
  /** Empty where the text speaks for itself. */
  readonly name: string;
  readonly text: string;
  readonly isStrong?: boolean;
}

/** The selected part of a figure, in words, and as a share where it is one. */
export interface Weighed {
  readonly name: string;
  readonly text: string;
  /** 0 to 1; `null` where a share says nothing. */
  readonly share: number | null;
}

/** The selected part of a figure: its percent, or its own figure where a share says nothing; `null` where there is none. */
export function weighedIn(
  { unit, decimals }: Pick<KpiHead, "unit" | "decimals">,
  whole: Figure,
  part: Figure | undefined,
  money: MoneyUnit,
): Weighed | null {
  const of = partOf(unit, whole, part);
  if (!of) return null;
  return of.is === "share"
    ? { name: SELECTED, text: writePercent(of.share), share: of.share }
    : { name: SELECTED, text: writeWithUnit(of.value, valueStyle(unit, decimals, money)), share: null };
}

/** The selected part of a figure in its own words; `null` while nothing is selected. */
export function weighedAs(
  figure: Figure | undefined,
  write: (value: number) => string,
  name: string = SELECTED,
): Weighed | null {
  return figure ? { name, text: "value" in figure ? write(figure.value) : figure.absent, share: null } : null;
}

const SELECTED = "Selected part";

/** A reading as one sentence. */
export function readingWords({ title, lines, judged, weighed = [] }: Reading): string {
  const said = [
    ...lines.map(({ name, text }) => `${name} ${text}`.trim()),
    ...(judged && judged.text !== "" ? [judged.text] : []),
    ...(judged?.judgement ? [judged.judgement] : []),
    ...weighed.flatMap((part) => (part ? [`${part.name.toLowerCase()} ${part.text}`] : [])),
  ];
  return said.length === 0 ? title : `${title}: ${said.join(", ")}`;
}

/** What a reading card holds below its title. */
export function ReadingLines({ reading: { lines, judged, weighed = [], notes = "", hint } }: { reading: Reading }) {
  return (
    <>
      {lines.length > 0 && (
        <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
          {lines.map(({ name, text, isStrong }, i) => (
            <div key={i} className={`contents ${isStrong ? "font-semibold" : ""}`}>
              {name !== "" && <dt className="font-normal">{name}</dt>}
              <dd className={name === "" ? "col-span-2" : "text-right"}>{text}</dd>
            </div>
          ))}
        </dl>
      )}
      {judged && (judged.judgement !== null || judged.text !== "") && (
        <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1">
          <JudgementMark judgement={judged.judgement} />
          <span className="ml-auto text-right">{judged.text}</span>
        </p>
      )}
      {weighed.map((part, i) => part && <WeighedLine key={i} part={part} />)}
      {notes !== "" && <p className="mt-1 text-[12px] text-slate">{notes}</p>}
      {hint && <p className="mt-1 text-[11.5px] text-slate">{hint}</p>}
    </>
  );
}

function WeighedLine({ part: { name, text, share } }: { part: Weighed }) {
  return (
    <p className="mt-1 flex justify-between gap-2 border-t border-thread pt-1 text-slate">
      <span>{name}</span>
      <span className="flex items-center gap-1.5">
        {share !== null && <ShareBar share={share} />}
        {text}
      </span>
    </p>
  );
}

/** The selected part under a figure in a list or a table: a bar with its percent, or its own figure. */
export function WeighedMark({ part }: { part: Weighed | null }) {
  if (!part) return null;
  return (
    <span
      className="flex items-center justify-end gap-1.5 text-[11.5px] text-slate"
      title={`${part.name}: ${part.text}`}
    >
      {part.share !== null && <ShareBar share={part.share} />}
      {part.text}
    </span>
  );
}

function ShareBar({ share }: { share: number }) {
  return (
    <span aria-hidden="true" className="inline-block h-[5px] w-10 bg-indigo/25">
      <span className="block h-full bg-indigo" style={{ width: `${share * 100}%` }} />
    </span>
  );
}
