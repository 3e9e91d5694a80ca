import { z } from "zod";
import { monthSchema } from "./figure.ts";

/** Which members are in, by dimension. */
export const scopeSchema = z.record(z.string(), z.array(z.string()));

/**
 * A frame as it stands in an address: `asOf=2026-10&span=year-to-date&basis=budget&scope=route:skerry-sound`.
 * What is left out takes its default: the last closed month, year to date, Budget, everything, thousands.
 */
export const frameQuerySchema = z.object({
  asOf: z.string().max(40).optional(),
  span: z.string().max(40).optional(),
  basis: z.string().max(80).optional(),
  scope: z.string().max(4000).optional(),
  unit: z.string().max(20).optional(),
  /** The pack the frame is of; some start from a dataset and a basis of their own. */
  pack: z.string().max(100).optional(),
});

export const moneyUnitSchema = z.enum(["units", "thousand", "million"]);

/** The frame an answer was computed for, with everything named. `isOpen`: some of the span is not closed yet. */
export const frameSchema = z.object({
  asOf: monthSchema,
  span: z.string(),
  basis: z.string(),
  scope: scopeSchema,
  unit: moneyUnitSchema,
  words: z.object({
    asOf: z.string(),
    span: z.string(),
    spanMonths: z.string(),
    isOpen: z.boolean(),
    basis: z.string(),
    scope: z.string(),
  }),
});

export type FrameQuery = z.infer<typeof frameQuerySchema>;
export type WireFrame = z.infer<typeof frameSchema>;

/** Reads "route:a,b;vessel:c" into a scope; `undefined` when it is not written so. */
export function parseScope(text: string): Record<string, string[]> | undefined {
  const scope: Record<string, string[]> = {};
  for (const part of text.split(";").filter((p) => p !== "")) {
    const match = /^([a-z0-9-]+):([a-z0-9,-]*)$/.exec(part);
    if (!match) return undefined;
    scope[match[1]!] = match[2]!.split(",").filter((m) => m !== "");
  }
  return scope;
}

/** Writes a scope in the form `parseScope` reads, always in the same order. */
export function formatScope(scope: Readonly<Record<string, readonly string[]>>): string {
  return Object.keys(scope)
    .sort()
    .map((key) => `${key}:${[...scope[key]!].sort().join(",")}`)
    .join(";");
}
