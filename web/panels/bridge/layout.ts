import { scaleLinear } from "d3-scale";
import { writeNumber, writeSigned, type NumberStyle } from "#core/formats/number-words.ts";
import type { Box } from "../../chart-kit/geometry.ts";
import { besideMark, labelWidth, type SideLabel } from "../../chart-kit/labels.ts";
import { barThickness, linePitch } from "../../chart-kit/line-pitch.ts";
import { shorten } from "../../chart-kit/shorten.ts";
import type { BridgeAnswer, BridgeEnd, BridgeStep } from "#core/panels/bridge/schema.ts";

/** What a bridge is laid out from. Values are in the KPI's own unit. */
export interface BridgeOptions {
  readonly data: BridgeAnswer;
  /** The same of the part that is selected, drawn inside; nothing where none is. */
  readonly part?: BridgeAnswer | undefined;
  readonly width: number;
  /** The height there is; lines are drawn out to fill it. */
  readonly room?: number;
  readonly style: NumberStyle;
  readonly deltaStyle: NumberStyle;
}

/** A line of the bridge: a figure it stands on, a step, or a sum between the steps. */
export interface BridgeLine {
  readonly kind: "end" | "step" | "subtotal";
  readonly name: string;
  /** The name in full. */
  readonly fullName: string;
  readonly end: BridgeEnd | null;
  readonly step: BridgeStep | null;
  /** Where the bridge stands after it. */
  readonly after: number;
  readonly band: Box;
  readonly centre: number;
  readonly bar: Box;
  /** What of it is the selected part: as much of the same axis, from where the bar begins. */
  readonly part: Box | null;
  readonly label: SideLabel;
  /** From here a thread leads down to the next line. */
  readonly threadX: number;
}

/** A bridge ready to draw. */
export interface BridgeLayout {
  readonly lines: readonly BridgeLine[];
  readonly height: number;
  /** The height that it needs. */
  readonly least: number;
  readonly plot: Box;
  /** Where zero stands; `null` where the axis begins later. */
  readonly zero: number | null;
  /** Whether the axis is shortened; ends are torn where it begins. */
  readonly isShort: boolean;
  /** Whether a shortened axis is worth offering: steps would be hard to see otherwise. */
  readonly mayShorten: boolean;
}

const LINE = 25;
const TOP = 4;
const BOTTOM = 6;
const GAP = 12;
const LABEL_GAP = 4;
const NAME_SHARE = 0.38;
const LEAST_NAME = 46;
/** Where the largest step is smaller than this part of the axis, it is shortened by itself. */
const INVISIBLE = 0.08;
/** Up to this part a shortened axis is offered. */
const SMALL = 0.25;
/** What is left of the ends on a shortened axis, as a part of what the steps span. */
const STUMP = 0.3;

interface Raw {
  readonly kind: BridgeLine["kind"];
  readonly name: string;
  readonly end: BridgeEnd | null;
  readonly step: BridgeStep | null;
  readonly from: number;
  readonly after: number;
}

/** Lays a bridge out line by line, each step where the one before it ended. Pure: the same options give the same marks. */
export function layoutBridge({ data, part, width, room: height = 0, style, deltaStyle }: BridgeOptions): BridgeLayout {
  const raw = rawLines(data);
  const weighed = part && new Map(rawLines(part).map((line) => [lineKey(line), line.after - line.from]));
  const pitch = linePitch(LINE, raw.length, height - TOP - BOTTOM);
  const thickness = barThickness(pitch);
  const names = raw.map(({ name }) => labelWidth(name) + 4);
  const nameWidth = Math.min(Math.max(LEAST_NAME, ...names), Math.max(LEAST_NAME, width * NAME_SHARE));
  const plot: Box = {
    x: nameWidth + GAP,
    y: TOP,
    width: Math.max(20, width - nameWidth - GAP),
    height: raw.length * pitch,
  };
  const stands = raw.flatMap(({ from, after, kind }) => (kind === "end" ? [after] : [from, after]));
  const [low, high] = [Math.min(...stands, Infinity), Math.max(...stands, -Infinity)];
  const isOneSided = raw.length > 0 && (low > 0 || high < 0);
  const reach = Math.max(Math.abs(low), Math.abs(high));
  const largest = Math.max(
    0,
    ...raw.filter(({ kind }) => kind === "step").map(({ from, after }) => Math.abs(after - from)),
  );
  const share = reach > 0 && Number.isFinite(reach) ? largest / reach : 1;
  const mayShorten = isOneSided && largest > 0 && share < SMALL && high - low < reach * 0.6;
  const isShort = mayShorten && (data.axis === "short" || (data.axis === null && share < INVISIBLE));
  const texts = raw.map((line) => labelText(line, style, deltaStyle));
  const room = Math.min(plot.width * 0.4, Math.max(0, ...texts.map(labelWidth)) + LABEL_GAP * 2);
  const stump = (high - low) * STUMP || 1;
  const domain = isShort
    ? low > 0
      ? [low - stump, high]
      : [low, high + stump]
    : [Math.min(0, finite(low)), Math.max(0, finite(high))];
  const [from, to] = domain[0] === domain[1] ? [domain[0]!, domain[0]! + 1] : (domain as [number, number]);
  // Figures stand right of what grows and left of what shrinks: both sides have room for them where something does so.
  const hasLeft = raw.some(({ kind, from: a, after }) => (kind === "end" ? after < 0 : after < a));
  const x = scaleLinear(
    [from, to],
    [plot.x + (hasLeft && (isShort ? low < 0 : from < 0) ? room : 0), plot.x + plot.width - room],
  );
  const ground = isShort ? (low > 0 ? plot.x : plot.x + plot.width - room) : x(0);

  /** On a shortened axis an end's part says nothing: its bar does not begin at zero. */
  const partBar = (line: Raw, bar: Box): Box | null => {
    const value = weighed?.get(lineKey(line));
    // What is gathered of a part is of other members, and a sum between steps of steps that it may not have.
    if (value === undefined || line.kind === "subtotal" || line.step?.kind === "others") return null;
    if (line.kind === "end" && isShort) return null;
    const [a, b] = [x(line.from), x(line.from + value)];
    // Cut off it would say something else; the card has its figure.
    if (Math.min(a, b) < plot.x || Math.max(a, b) > plot.x + plot.width) return null;
    const inner = bar.height * 0.44;
    return {
      x: Math.min(a, b),
      y: bar.y + (bar.height - inner) / 2,
      width: Math.max(0.75, Math.abs(b - a)),
      height: inner,
    };
  };

  const lines = raw.map((line, i): BridgeLine => {
    const top = TOP + i * pitch;
    const [a, b] = [line.kind === "end" ? ground : x(line.from), x(line.after)];
    const bar: Box = {
      x: Math.min(a, b),
      y: top + (pitch - thickness) / 2,
      width: Math.max(0.75, Math.abs(b - a)),
      height: thickness,
    };
    const isLeft = line.kind === "end" ? line.after < 0 : line.after < line.from;
    const at = isLeft ? bar.x - LABEL_GAP : bar.x + bar.width + LABEL_GAP;
    return {
      kind: line.kind,
      name: shorten(line.name, nameWidth),
      fullName: line.name,
      end: line.end,
      step: line.step,
      after: line.after,
      band: { x: 0, y: top, width, height: pitch },
      centre: top + pitch / 2,
      bar,
      part: partBar(line, bar),
      label: besideMark(texts[i]!, at, isLeft, plot),
      threadX: x(line.after),
    };
  });
  return {
    lines,
    height: TOP + raw.length * pitch + BOTTOM,
    least: TOP + raw.length * LINE + BOTTOM,
    plot,
    zero: isShort ? null : x(0),
    isShort,
    mayShorten,
  };
}

/** By what a line of the whole and that of a part are the same. */
function lineKey({ kind, end, step }: Raw): string {
  return kind === "end" ? `end ${end!.name}` : `${kind} ${step!.key}`;
}

/** The lines from the start over all steps to the end, and past it. */
function rawLines({ start, steps, end, beyond }: BridgeAnswer): Raw[] {
  const lines: Raw[] = [];
  let at = 0;
  const stand = (of: BridgeEnd) => {
    lines.push({ kind: "end", name: of.name, end: of, step: null, from: 0, after: of.value });
    at = of.value;
  };
  const go = (step: BridgeStep) => {
    lines.push({ kind: "step", name: step.name, end: null, step, from: at, after: at + step.value });
    at += step.value;
  };
  if (start) stand(start);
  let sum = 0;
  for (const step of steps) {
    go(step);
    sum += step.value;
    if (step.subtotal !== null) {
      lines.push({
        kind: "subtotal",
        name: `${step.subtotal}, together`,
        end: null,
        step: { ...step, value: sum },
        from: at - sum,
        after: at,
      });
      sum = 0;
    }
  }
  if (end) stand(end);
  if (beyond) {
    go(beyond.gap);
    stand(beyond.end);
  }
  return lines;
}

function labelText({ kind, end, step }: Raw, style: NumberStyle, deltaStyle: NumberStyle): string {
  if (kind === "end") return writeNumber(end!.value, style);
  return writeSigned(step!.value, { ...deltaStyle, prefix: "", suffix: "" });
}

function finite(value: number): number {
  return Number.isFinite(value) ? value : 0;
}
