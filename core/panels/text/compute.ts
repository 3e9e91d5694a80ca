import type { RowParts } from "../../compare/scorecard.ts";
import { absent } from "../../figures/figure.ts";
import {
  deltaStyle,
  valueStyle,
  writePercent,
  writeSigned,
  writeSignedPercent,
  writeWithUnit,
} from "../../formats/number-words.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiRow } from "../parts/kpi-row.ts";
import { readBlocks } from "./blocks.ts";
import type { FigurePart, FrameToken, TextDefinition, TextToken, TextAnswer } from "./schema.ts";
import type { Figure, Judgement } from "../../figures/schema.ts";
import type { KpiRow } from "../parts/schema.ts";
import type { FrameAnswer } from "../../frame/schema.ts";

/** A figure within a text, written out; `figure` is what it was written from, in the KPI's own unit. */
export interface TextFigure {
  readonly is: "figure";
  readonly kpi: string;
  readonly name: string;
  readonly part: FigurePart;
  readonly text: string;
  readonly figure: Figure;
  /** How it stands against the basis; of parts that are no variance `null`. */
  readonly judgement: Judgement | null;
}
/** Something in braces that says nothing, with why. */
export interface TextProblem {
  readonly is: "problem";
  readonly text: string;
}
/** A word of the frame. */
export interface TextWord {
  readonly is: "word";
  readonly text: string;
}
export type TextInline = TextFigure | TextProblem | TextWord;
const PARTS: RowParts = { priorYear: true, toDate: false, outlook: false, trendMonths: 0 };

export function computeText({ text }: TextDefinition, _choice: object, question: PanelQuestion): TextAnswer {
  const { company, asked } = question;
  const rows = new Map<string, KpiRow>();
  const rowOf = (key: string): KpiRow | undefined => {
    const kpi = company.kpis.get(key);
    if (!kpi) return undefined;
    const row = rows.get(key) ?? kpiRow(kpi, PARTS, measureContext(question), question).row;
    rows.set(key, row);
    return row;
  };
  const inline = (token: TextToken): TextInline => {
    if (token.is === "unknown") return { is: "problem", text: token.why };
    if (token.is === "frame") return { is: "word", text: FRAME_WORDS[token.token](asked.answer) };
    const row = rowOf(token.kpi);
    if (!row) return { is: "problem", text: `There is no KPI "${token.kpi}".` };
    const { text: written, figure, judgement } = SAID[token.part](row, asked.unit);
    return { is: "figure", kpi: token.kpi, name: row.kpi.name, part: token.part, text: written, figure, judgement };
  };
  return { kind: "text", frame: asked.answer, blocks: readBlocks(text, inline) };
}

const FRAME_WORDS: Readonly<Record<FrameToken, (frame: FrameAnswer) => string>> = {
  "as-of": ({ words }) => words.asOf,
  span: ({ words }) => words.span,
  scope: ({ words }) => words.scope,
  basis: ({ words }) => words.basis,
};

interface Said {
  readonly text: string;
  readonly figure: Figure;
  readonly judgement: Judgement | null;
}
type Say = (row: KpiRow, money: PanelQuestion["asked"]["unit"]) => Said;

const value =
  (pick: (row: KpiRow) => Figure | null): Say =>
  (row, money) => {
    const figure = pick(row) ?? absent("no data", "It is not there.");
    const style = valueStyle(row.kpi.unit, row.kpi.decimals, money);
    return { text: "value" in figure ? writeWithUnit(figure.value, style) : figure.absent, figure, judgement: null };
  };
const share =
  (pick: (row: KpiRow) => Figure, write: (fraction: number) => string, isJudged: boolean): Say =>
  (row) => {
    const figure = pick(row);
    return {
      text: "value" in figure ? write(figure.value) : figure.absent,
      figure,
      judgement: isJudged ? row.variance.judgement : null,
    };
  };

/** What each part says of a KPI. */
const SAID: Readonly<Record<FigurePart, Say>> = {
  actual: value((row) => row.actual),
  basis: value((row) => row.basis),
  "prior-year": value((row) => row.priorYear),
  variance: (row, money) => {
    const { delta, judgement } = row.variance;
    const style = deltaStyle(row.kpi.unit, row.kpi.decimals, money);
    return { text: "value" in delta ? writeSigned(delta.value, style) : delta.absent, figure: delta, judgement };
  },
  percent: share((row) => row.variance.deltaPercent, writeSignedPercent, true),
  attainment: share((row) => row.attainment, writePercent, false),
  words: (row) => ({ text: row.words, figure: row.variance.delta, judgement: row.variance.judgement }),
};

/** The figures of a text in the order in which they stand. */
export function figuresOf({ blocks }: TextAnswer): TextFigure[] {
  return blocks
    .flatMap((block) => (block.is === "list" ? block.items.flat() : block.line))
    .filter((inline): inline is TextFigure => inline.is === "figure");
}

/** A text without its marks, as a sentence for those who hear it and for a page's message. */
export function plainText({ blocks }: TextAnswer): string {
  return blocks
    .flatMap((block) => (block.is === "list" ? block.items : [block.line]))
    .map((line) => line.map(({ text }) => text).join(""))
    .join(" ");
}
