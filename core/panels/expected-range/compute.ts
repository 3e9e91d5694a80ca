import type { PlacedHistory } from "../../ahead/history.ts";
import { judgeRange, type Judged } from "../../ahead/judge-range.ts";
import { USUAL_RANGE_LEVEL, type RangeGrain } from "../../ahead/settings.ts";
import { daysOf, saidOf, type KnownEvent } from "../../ahead/known-events.ts";
import { dayOfNumber, formatDay } from "../../calendar/days.ts";
import { rangeName } from "../../calendar/fiscal-calendar.ts";
import { formatMonth } from "../../calendar/month.ts";
import { requireKpi } from "../../frame/company.ts";
import { WORKED_OUT } from "../../forecast/kept-fits.ts";
import type { Period } from "../../series/periods.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { repetition } from "../parts/repetition.ts";
import { eventWords } from "./event-words.ts";
import { joinEvents, type PlacedEvent } from "./events.ts";
import {
  MOST_JUDGED,
  RANGE_PERIODS,
  type ExpectedRangeChoice,
  type ExpectedRangeDefinition,
  type ExpectedRangeAnswer,
  type RangePointAnswer,
  type RangeEventAnswer,
  type EventSaid,
} from "./schema.ts";

export function computeExpectedRange(
  definition: ExpectedRangeDefinition,
  choice: ExpectedRangeChoice,
  question: PanelQuestion,
): ExpectedRangeAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const grain = choice.grain ?? definition.grain;
  const level = choice.level ?? definition.level ?? USUAL_RANGE_LEVEL;
  const { usual, most } = RANGE_PERIODS[grain];
  const own = grain === definition.grain ? definition.last : undefined;
  const last = Math.min(most, choice.last ?? own ?? usual);
  const context = measureContext(question);
  const asking = { grain, last, level };
  const whole = judgeRange(kpi, asking, context);
  const { split } = definition;
  const repeated = split ? repetition(question, split, null) : null;
  const members = repeated && repeated.members.length <= MOST_JUDGED ? repeated.members : [];
  const judged = members.flatMap(({ key, scope }) => {
    const found = judgeRange(kpi, asking, { ...context, scope });
    return "notFitted" in found ? [] : [{ key, found }];
  });
  const base = {
    kind: "expected-range" as const,
    frame: asked.answer,
    kpi: kpiHead(kpi),
    grain,
    level,
    dimension: repeated?.dimension.key ?? null,
  };
  const { name } = kpi.definition;
  if ("notFitted" in whole && whole.notFitted === WORKED_OUT && whole.placed)
    return {
      ...base,
      headline: definition.title ?? `${name} by ${grain}; its expected range is still being calculated.`,
      descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${grain}, for ${asked.answer.words.scope}`,
      model: null,
      points: actualsOf(whole.placed, last),
      events: [],
      notFitted: null,
      notes: ["The expected range is still being calculated."],
    };
  if ("notFitted" in whole)
    return {
      ...base,
      headline: definition.title ?? `No expected range for ${name} yet.`,
      descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${grain}, for ${asked.answer.words.scope}`,
      model: null,
      points: [],
      events: [],
      notFitted: whole.notFitted,
      notes: [],
    };
  const { periods } = whole.placed;
  const nameOf = new Map(members.map((member) => [member.key, member.name]));
  const events = joinEvents([
    ...placedEvents("", whole, whole),
    ...judged.flatMap(({ key, found }) => placedEvents(key, found, whole)),
  ]).map((event): RangeEventAnswer => {
    const where = event.members.map((key) => ({ key, name: nameOf.get(key)! }));
    const days = { from: daysOf(periods[event.from]!).from, to: daysOf(periods[event.to]!).to };
    const said = saidOf(
      {
        kpi: kpi.definition.key,
        ...days,
        scope: context.scope,
        at: repeated && where.length > 0 ? { dimension: repeated.dimension.key, members: event.members } : null,
        isOfWhole: event.isOfWhole,
      },
      company.knownEvents,
      company.dimensions,
    );
    return {
      ...event,
      days: { from: formatDay(dayOfNumber(days.from)), to: formatDay(dayOfNumber(days.to)) },
      said: said ? saidAnswer(said) : null,
      from: periods[event.from]!.key,
      to: periods[event.to]!.key,
      members: where,
      words: eventWords(
        event,
        periods,
        where.map((one) => one.name),
        kpi,
        asked.unit,
      ),
    };
  });
  const shown = whole.points.map(({ period }) => periods[period]!);
  const outside = whole.points.filter(({ isOutside }) => isOutside).length;
  return {
    ...base,
    headline: definition.title ?? headlineOf(name, events, shown, grain),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${grain}, ${rangeName(company.calendar, shown[0]!.from, shown.at(-1)!.to)}, for ${asked.answer.words.scope}, in the range of ${level}% expected one ${grain} ahead`,
    model: whole.model,
    points: whole.points.map((point) => ({ ...point, ...periodWords(periods[point.period]!) })),
    events,
    notFitted: null,
    notes: [
      `${outside} of ${whole.points.length} ${grain}s outside; about ${((1 - level / 100) * whole.points.length).toFixed(1)} would be by chance. By ${whole.model}, from what was known before each.`,
      ...(repeated && members.length === 0
        ? [
            `${repeated.members.length} ${repeated.dimension.plural} are too many to test one by one: the limit is ${MOST_JUDGED}.`,
          ]
        : []),
    ],
  };
}

function periodWords({ key, name, short, from, to }: Period) {
  return {
    period: key,
    name,
    short,
    months: from === to ? formatMonth(from) : `${formatMonth(from)}..${formatMonth(to)}`,
  };
}

/** The last periods with their actuals, before it is known what was expected of them. */
function actualsOf({ periods, history: { values } }: PlacedHistory, last: number): RangePointAnswer[] {
  const [expected, lower, upper, score] = [null, null, null, null];
  return values
    .map((value, t) => ({ ...periodWords(periods[t]!), value, expected, lower, upper, score, isOutside: false }))
    .slice(-last);
}

function saidAnswer({ id, kpi, verdict, reason, by, saidAt }: KnownEvent): EventSaid {
  return { id, verdict, reason, by, saidAt, isForAll: kpi === null };
}

/** A series' events at the places of the whole's periods; a member's history may begin later. */
function placedEvents(of: string, { placed, events }: Judged, whole: Judged): PlacedEvent[] {
  const shift = whole.placed.history.keys.indexOf(placed.history.keys[0]!);
  const end = whole.placed.history.keys.length - 1;
  return shift < 0
    ? []
    : events.map((event) => ({
        ...event,
        of,
        from: Math.min(end, event.from + shift),
        to: Math.min(end, event.to + shift),
      }));
}

function headlineOf(
  name: string,
  events: readonly RangeEventAnswer[],
  shown: readonly Period[],
  grain: RangeGrain,
): string {
  const open = events.filter(({ said }) => said?.verdict !== "dismissed");
  if (open.length === 0)
    return `${name}: nothing unusual in ${shown.length} ${grain}s${events.length > 0 ? ` that was not dismissed` : ""}.`;
  const worst = open.reduce((far, event) => (Math.abs(event.worst) > Math.abs(far.worst) ? event : far));
  const others = open.length === 1 ? "" : `, and ${open.length - 1} more`;
  return `${name}: ${worst.words}${others}.`;
}
