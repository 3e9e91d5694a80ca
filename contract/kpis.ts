import { z } from "zod";
import { changeSchema } from "./changes.ts";
import { figureSchema, monthSchema, varianceSchema, kpiUnitSchema } from "#core/figures/schema.ts";
import { frameQuerySchema, frameSchema } from "#core/frame/schema.ts";
import { kpiDefinitionSchema } from "#core/kpis/schema.ts";

/** A page of a pack, as one is led to it. */
export const pagePlaceSchema = z.object({
  pack: z.string(),
  packName: z.string(),
  page: z.string(),
  name: z.string(),
});

const named = z.object({ key: z.string(), name: z.string() });

/** What is wrong with a formula, and where: from (included) to (excluded), in UTF-16 units. */
export const formulaProblemSchema = z.object({ from: z.number().int(), to: z.number().int(), message: z.string() });

/** A KPI of the library, with what it depends on and where it is used. */
export const libraryKpiSchema = z.object({
  definition: kpiDefinitionSchema,
  /** Counts its changes. */
  version: z.number().int(),
  /** What its formula names. */
  reads: z.array(named.extend({ kind: z.enum(["account", "kpi"]) })),
  /** KPIs whose formulas or status name it. */
  usedBy: z.array(named),
  pages: z.array(pagePlaceSchema),
  /** Why it has no figures at the moment; `null` when it is sound. */
  problem: formulaProblemSchema.nullable(),
});

export const kpiLibrarySchema = z.array(libraryKpiSchema);

/** What was done to a KPI, newest first. */
export const kpiHistorySchema = z.array(
  changeSchema.extend({ formulaBefore: z.string().nullable(), formulaAfter: z.string().nullable() }),
);

/** A KPI to be saved; `key` says which one is changed, `null` adds it. */
export const kpiSaveSchema = z.object({
  key: z.string().nullable(),
  /** The version it was made from, so that nobody else's change is lost; `null` where it is added. */
  version: z.number().int().nullable(),
  definition: kpiDefinitionSchema,
});

/** A formula that is being typed. */
export const formulaTrySchema = frameQuerySchema.extend({
  formula: z.string().max(2_000_000),
  /** The KPI it belongs to, so that a cycle through it is found. */
  self: z.string().max(100).nullable(),
});

/** What a formula gives at once: its type, its last 24 months, this month, to date and against budget; or where it is wrong. */
export const formulaTriedSchema = z.union([
  z.object({ problem: formulaProblemSchema }),
  z.object({
    frame: frameSchema,
    /** "money, adds up over time" */
    type: z.string(),
    /** The unit it fits; `null` for a yes or no, which is no KPI. */
    unit: kpiUnitSchema.nullable(),
    decimals: z.number().int(),
    printed: z.string(),
    points: z.array(z.object({ month: monthSchema, name: z.string(), actual: figureSchema, budget: figureSchema })),
    figures: z.array(
      z.object({
        name: z.string(),
        months: z.string(),
        actual: figureSchema,
        basisName: z.string(),
        basis: figureSchema,
        variance: varianceSchema,
      }),
    ),
    notes: z.array(z.string()),
  }),
]);

/** All that completion and the reference page show. */
export const languageSchema = z.object({
  accounts: z.array(named.extend({ about: z.string() })),
  kpis: z.array(named.extend({ about: z.string() })),
  /** `written` is how a formula says it behind the sign @. */
  scenarios: z.array(named.extend({ written: z.string() })),
  dimensions: z.array(
    z.object({ name: z.string(), label: z.string(), levels: z.array(z.string()), members: z.array(z.string()) }),
  ),
  functions: z.array(
    z.object({
      name: z.string(),
      group: z.string(),
      usage: z.string(),
      gives: z.string(),
      absence: z.string(),
      example: z.string(),
      parameters: z.array(
        z.object({ name: z.string(), about: z.string(), isOption: z.boolean(), choices: z.array(z.string()) }),
      ),
    }),
  ),
});

export type LibraryKpi = z.infer<typeof libraryKpiSchema>;
export type KpiHistory = z.infer<typeof kpiHistorySchema>;
export type FormulaTried = z.infer<typeof formulaTriedSchema>;
export type Language = z.infer<typeof languageSchema>;
