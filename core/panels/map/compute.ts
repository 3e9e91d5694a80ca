import { inMember } from "../../compare/measure-ground.ts";
import type { RowParts } from "../../compare/scorecard.ts";
import { countryCode } from "../../dimensions/country-code.ts";
import { isPresent } from "../../figures/figure.ts";
import { requireKpi } from "../../frame/company.ts";
import { memberMessage } from "../../words/message.ts";
import { measureContext, type PanelQuestion } from "../panel-question.ts";
import { absentMembers } from "../parts/absent-members.ts";
import { kpiHead } from "../parts/kpi-head.ts";
import { kpiRow } from "../parts/kpi-row.ts";
import { beyondNotes, orderRows, repetition } from "../parts/repetition.ts";
import { nameInUnit } from "../../words/name-in-unit.ts";
import type { MapChoice, MapDefinition, MapAnswer } from "./schema.ts";

const PARTS: RowParts = { priorYear: false, toDate: false, outlook: false, trendMonths: 0 };

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
            `${unplaced} of ${there.length} have no country code: they are in the list, not on the map. A code can be given as the attribute "country" under Structure.`,
          ]),
    ],
  };
}
