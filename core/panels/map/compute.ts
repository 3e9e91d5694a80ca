import { inMember } from "../../compare/measure-ground.ts";
import type { RowParts } from "../../compare/scorecard.ts";
import { countryCode } from "../../dimensions/country-code.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import type { FrameAnswer } from "../../frame/frame-answer.ts";
import { memberMessage } from "../../words/message.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { absentMembers, type AbsentMember } from "../parts/absent-members.ts";
import { kpiHead, type KpiHead } from "../parts/kpi-head.ts";
import { kpiRow, type KpiRow } from "../parts/kpi-row.ts";
import { beyondNotes, orderRows, repetition } from "../parts/repetition.ts";
import type { ShownMember } from "../parts/shown-member.ts";
import type { MapChoice, MapColour, MapDefinition } from "./definition.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: 0 };

/** A member with its country. */
export interface MapPlace {
  readonly member: ShownMember;
  readonly name: string;
  /** ISO 3166-1 numeric; `null` where it carries none. */
  readonly country: string | null;
  readonly row: KpiRow;
}

/** A KPI by country. */
export interface MapAnswer {
  readonly kind: "map";
  readonly frame: FrameAnswer;
  readonly kpi: KpiHead;
  readonly headline: string;
  readonly descriptor: string;
  readonly noun: string;
  readonly dimension: string;
  readonly colour: MapColour;
  /** The largest first, those without a country among them. */
  readonly places: readonly MapPlace[];
  readonly absent: readonly AbsentMember[];
  readonly notes: readonly string[];
}

export function computeMap(definition: MapDefinition, choice: MapChoice, question: PanelQuestion): MapAnswer {
  const { company, asked } = question;
  const kpi = requireKpi(company, choice.kpi ?? definition.kpi);
  const repeated = repetition(question, definition.by, null);
  const { members, level, dimension } = repeated;
  const all = members.map((member) => {
    const own = inMember(measureContext(question), dimension.key, member.key, member.scope);
    const { row, facts } = kpiRow(kpi, PARTS, own, question);
    return { member, name: member.name, country: countryCode(dimension, member.key), row, facts };
  });
  const there = all.filter(({ row }) => isPresent(row.actual));
  const unplaced = there.filter(({ country }) => country === null).length;
  const { name } = kpi.definition;
  const { words } = asked.answer;
  return {
    kind: "map",
    frame: asked.answer,
    kpi: kpiHead(kpi),
    headline:
      definition.title !== undefined && kpi.definition.key === definition.kpi
        ? definition.title
        : memberMessage(
            `${name} by ${level}`,
            there.map(({ name: own, facts }) => ({ name: own, ...facts })),
          ),
    descriptor: `${nameInUnit(kpi.definition, asked.unit)}, by ${level}, ${words.spanMonths}, for ${words.scope}, against ${there[0]?.row.basisName ?? words.basis}`,
    noun: level,
    dimension: dimension.key,
    colour: choice.colour ?? definition.colour,
    places: orderRows(there, "value", false).map(({ facts: _, ...place }) => place),
    absent: absentMembers(all, asked.unit),
    notes: [
      ...beyondNotes(repeated),
      ...(unplaced === 0
        ? []
        : [
            `${unplaced} of ${there.length} carry no country's code: they stand in the list and not on the map. A code can be given as the attribute "country" under Structure.`,
          ]),
    ],
  };
}
