import { onOwnMonths, type Place } from "../place.ts";
import type { BoundCall, Compiling, FormulaFunction, Parameter } from "./function.ts";

/** The option by which a part of a formula is taken out of the rule that all parts are measured on the same months. */
export const COVERAGE: Parameter = {
  name: "coverage",
  isOption: true,
  takes: "choice",
  of: ["shared", "own"],
  otherwise: "shared",
  about:
    "shared: measured on the months that all parts of the formula with the same kind of span cover; own: on all months it has itself",
};

/** The place of a call's value by its option. */
export function placeOf({ choices }: BoundCall, place: Place, { newPartApart }: Compiling): Place {
  return choices.get(COVERAGE.name) === "own" ? onOwnMonths(place, newPartApart()) : place;
}

/** A value with a say in the months it is measured on. */
export const read: FormulaFunction = {
  name: "read",
  group: "Time",
  parameters: [{ name: "value", takes: "value", about: "what is read" }, COVERAGE],
  gives:
    "The value itself. Parts of one formula are like for like: parts with the same kind of span are measured on the months that all of them cover, and a note says what is left out. With coverage: own the value keeps all months it has.",
  absence: "Absent where the value is.",
  example: "read(passenger_count, coverage: own) / passenger_count@target",
  compile: (call, place, compiling) => compiling.part(call.values[0]!, placeOf(call, place, compiling)),
};
