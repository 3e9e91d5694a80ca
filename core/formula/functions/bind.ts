import { memberDepth, type Dimension } from "../../dimensions/dimension.ts";
import { refuse, type Argument, type Expression, type TextRange } from "../expression.ts";
import { nearestName } from "../nearest-name.ts";
import type { BoundCall, FormulaFunction, Parameter } from "./function.ts";
import { usageOf } from "./index.ts";
import { listed } from "../../formats/listed.ts";

type Call = Extract<Expression, { kind: "call" }>;
type Given = Argument["value"];

/** A dimension's or member's key as formulas write it: names have no hyphens there. */
export function formulaName(key: string): string {
  return key.replaceAll("-", "_");
}

/** Reads a call's arguments by its function's parameters. Refuses what does not fit, with the way it is written. */
export function bindCall(call: Call, own: FormulaFunction, dimensions: readonly Dimension[]): BoundCall {
  const usage = `It is written ${usageOf(own)}.`;
  const inOrder = own.parameters.filter((p) => !p.isOption && p.takes !== "members");
  const options = own.parameters.filter((p) => p.isOption);
  const takesMembers = own.parameters.some((p) => p.takes === "members");
  const given = new Map<Parameter, { at: TextRange; value: Given }[]>();
  const give = (parameter: Parameter, at: TextRange, value: Given) =>
    given.set(parameter, [...(given.get(parameter) ?? []), { at, value }]);
  const members = new Map<string, readonly string[]>();
  let next = 0;
  for (const argument of call.arguments) {
    const { option, value } = argument;
    if (option === null) {
      const parameter = inOrder[Math.min(next, inOrder.length - 1)];
      if (!parameter || (next >= inOrder.length && !takesSeveral(parameter)))
        refuse(argument, `${own.name}(…) takes nothing more here. ${usage}`);
      give(parameter, argument, value);
      next += 1;
      continue;
    }
    const parameter = options.find((p) => p.name === option.name);
    if (parameter) {
      if (given.has(parameter)) refuse(option, `"${option.name}:" is said twice.`);
      give(parameter, argument, value);
    } else if (takesMembers) {
      const dimension = dimensionOf(option.name, option, dimensions);
      if (members.has(dimension.key)) refuse(option, `"${option.name}:" is said twice.`);
      members.set(dimension.key, membersOf(dimension, value));
    } else {
      const near = nearestName(
        option.name,
        options.map((p) => p.name),
      );
      refuse(option, `${own.name}(…) has no option "${option.name}:".${near ? ` Is "${near}:" meant?` : ""} ${usage}`);
    }
  }
  if (takesMembers && members.size === 0)
    refuse(
      call,
      `${own.name}(…) needs a dimension with members, such as ${dimensions[0] ? formulaName(dimensions[0].key) : "route"}: "${dimensions[0]?.members[0]?.name ?? "…"}".`,
    );

  const values: Expression[] = [];
  const counts = new Map<string, number>();
  const choices = new Map<string, string>();
  const chosen: Dimension[] = [];
  let isOverMonths = false;
  let level: { at: TextRange; name: string } | undefined;
  let counted: BoundCall["counted"] = null;
  for (const parameter of own.parameters) {
    const found = given.get(parameter) ?? [];
    const missing = (what: string): never => refuse(call.nameRange, `${own.name}(…) lacks ${what}. ${usage}`);
    switch (parameter.takes) {
      case "value":
      case "values":
        if (found.length < (parameter.takes === "values" ? 2 : 1)) missing(parameter.about);
        for (const { at, value } of found)
          values.push(
            value.kind === "texts"
              ? refuse(at, `${own.name}(…) takes a name or a number here, without quotes.`)
              : value,
          );
        break;
      case "count":
        if (found.length === 0 && parameter.otherwise === null) missing(parameter.about);
        counts.set(parameter.name, found[0] ? countOf(parameter, found[0]) : parameter.otherwise!);
        break;
      case "choice":
        choices.set(parameter.name, found[0] ? choiceOf(parameter, found[0]) : parameter.otherwise);
        break;
      case "number":
        if (found.length === 0 && parameter.otherwise === null) missing(parameter.about);
        counts.set(parameter.name, found[0] ? numberOf(parameter.name, found[0]) : parameter.otherwise!);
        break;
      case "dimension-or-month":
      case "dimension":
      case "dimensions":
        if (found.length === 0) missing(parameter.about);
        for (const { at, value } of found) {
          const name = value.kind === "name" ? value.name : refuse(at, "The name of a dimension is needed here.");
          if (parameter.takes === "dimension-or-month" && name === MONTHS) isOverMonths = true;
          else chosen.push(dimensionOf(name, at, dimensions));
        }
        break;
      case "level":
        if (found[0]) level = { at: found[0].at, name: textOf(found[0]) };
        break;
      case "counted":
        if (found[0]) counted = { at: found[0].at, name: nameOrText(found[0]) };
        break;
      case "members":
        break;
    }
  }
  if (isOverMonths && level) refuse(level.at, "Months have no levels: leave the level out.");
  const isOverMembers = !isOverMonths && own.parameters.some((p) => p.takes === "level");
  return {
    at: call,
    values,
    counts,
    choices,
    dimensions: chosen,
    isOverMonths,
    counted,
    levelMembers: isOverMembers ? membersOfLevel(call, chosen[0]!, level) : [],
    members,
  };
}

/** What "over:" calls the months of the span. */
export const MONTHS = "month";

/** A value is looked at for each of at most this many members. */
export const MOST_MEMBERS = 200;

function takesSeveral({ takes }: Parameter): boolean {
  return takes === "values" || takes === "dimensions";
}

function countOf(
  parameter: Extract<Parameter, { takes: "count" }>,
  { at, value }: { at: TextRange; value: Given },
): number {
  const { from, to, name } = parameter;
  const number = value.kind === "number" && /^\d+$/.test(value.text) ? Number(value.text) : NaN;
  if (!(number >= from && number <= to)) refuse(at, `"${name}" is a whole number from ${from} to ${to}.`);
  return number;
}

function numberOf(name: string, { at, value }: { at: TextRange; value: Given }): number {
  if (value.kind === "number" && !value.text.endsWith("%")) return Number(value.text);
  if (value.kind === "negation" && value.operand.kind === "number" && !value.operand.text.endsWith("%"))
    return -Number(value.operand.text);
  refuse(at, `"${name}" is a number written out, such as 2 or 0.5.`);
}

function choiceOf(
  parameter: Extract<Parameter, { takes: "choice" }>,
  { at, value }: { at: TextRange; value: Given },
): string {
  const word = value.kind === "name" ? value.name : "";
  if (!parameter.of.includes(word)) refuse(at, `"${parameter.name}:" is ${listed(parameter.of, "or")}.`);
  return word;
}

function nameOrText({ at, value }: { at: TextRange; value: Given }): string {
  return value.kind === "name" ? value.name : textOf({ at, value });
}

function dimensionOf(name: string, at: TextRange, dimensions: readonly Dimension[]): Dimension {
  const found = dimensions.find((d) => formulaName(d.key) === name);
  if (found) return found;
  const names = dimensions.map((d) => formulaName(d.key));
  const near = nearestName(name, names);
  refuse(at, `There is no dimension "${name}".${near ? ` Is "${near}" meant?` : ` There are ${names.join(", ")}.`}`);
}

function membersOf(dimension: Dimension, value: Given): string[] {
  if (value.kind !== "texts")
    refuse(value, `Members are written in quotes, such as "${dimension.members[0]?.name ?? "…"}".`);
  return value.texts.map((text) => {
    const plain = text.trim().toLowerCase();
    const found = dimension.members.find((m) => m.key === plain || m.name.toLowerCase() === plain);
    if (found) return found.key;
    const near = nearestName(
      text,
      dimension.members.map((m) => m.name),
    );
    refuse(value, `${dimension.name} has no member "${text}".${near ? ` Is "${near}" meant?` : ""}`);
  });
}

function membersOfLevel(
  at: TextRange,
  dimension: Dimension,
  level: { at: TextRange; name: string } | undefined,
): string[] {
  let depth = dimension.levels.length;
  if (level) {
    depth = dimension.levels.findIndex((l) => l.toLowerCase() === level.name.toLowerCase()) + 1;
    if (depth === 0)
      refuse(
        level.at,
        `${dimension.name} has no level "${level.name}". It has ${listed(
          dimension.levels.map((l) => `"${l}"`),
          "or",
        )}.`,
      );
  }
  const found = dimension.members.filter((m) => memberDepth(dimension, m.key) === depth).map((m) => m.key);
  if (found.length === 0) refuse(at, `${dimension.name} has no members on that level.`);
  if (found.length > MOST_MEMBERS)
    refuse(
      at,
      `${dimension.name} has ${found.length} members on that level; ${MOST_MEMBERS} are looked at. Choose a higher level.`,
    );
  return found;
}

function textOf({ at, value }: { at: TextRange; value: Given }): string {
  return value.kind === "texts" && value.texts.length === 1
    ? value.texts[0]!
    : refuse(at, "One name in quotes is needed here.");
}
