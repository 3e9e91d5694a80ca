import { z } from "zod";
import { SCENARIO_CODES } from "../compare/scenario-code.ts";
import { MONEY_UNITS } from "../formats/number-words.ts";
import { monthSchema } from "../figures/schema.ts";

/** Which members are in, by dimension. */
export const scopeSchema = z.record(z.string(), z.array(z.string()).readonly());

/**
 * A frame as it stands in an address: `asOf=2026-10&span=year-to-date&basis=budget&scope=route:skerry-sound`.
 * What is left out takes its default: the last closed month, year to date, Budget, everything, thousands.
 */
export const frameQuerySchema = z.object({
  asOf: z.string().max(40).optional(),
  span: z.string().max(40).optional(),
  basis: z.string().max(80).optional(),
  scope: z.string().max(4000).optional(),
  /** Members of the scope to which what is shown is narrowed, in the form of a scope. */
  narrow: z.string().max(4000).optional(),
  unit: z.string().max(20).optional(),
  /** Where the months come from that are not closed yet: the latest forecast where nothing is said. */
  outlook: z.string().max(80).optional(),
  /** The version that is looked at in the place of the actual. */
  shown: z.string().max(80).optional(),
  /** The pack the frame is of; some start from a dataset and a basis of their own. */
  pack: z.string().max(100).optional(),
  /** The page of it that the frame is of: the page's own scope holds until another one is chosen. */
  page: z.string().max(100).optional(),
});

/** How a scenario is drawn and marked. */
export const scenarioCodeSchema = z.enum(SCENARIO_CODES);

export const moneyUnitSchema = z.enum(MONEY_UNITS);

/** The frame an answer was computed for, with everything named. `isOpen`: the span goes on after what is shown of it. */
export const frameSchema = z.object({
  asOf: monthSchema,
  span: z.string(),
  basis: z.string(),
  /** In which of the scenarios' codes the basis is drawn. */
  basisCode: scenarioCodeSchema,
  scope: scopeSchema,
  unit: moneyUnitSchema,
  /** Where the months come from that are not closed, where that was chosen. */
  outlook: z.string().optional(),
  /** The version that is looked at in the place of the actual, where one was chosen. */
  shown: z.string().optional(),
  words: z.object({
    asOf: z.string(),
    span: z.string(),
    spanMonths: z.string(),
    isOpen: z.boolean(),
    shown: z.string(),
    basis: z.string(),
    scope: z.string(),
  }),
});

export type FrameQuery = z.infer<typeof frameQuerySchema>;

/** The frame an answer was computed for, with everything named. */
export type FrameAnswer = z.infer<typeof frameSchema>;
