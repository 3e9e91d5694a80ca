import { z } from "zod";
import { scopeSchema } from "./frame.ts";

const panelKey = z.string().regex(/^[a-z0-9-]+$/);

/** A scorecard: KPIs by row, in groups. */
export const scorecardPanelSchema = z.object({
  key: panelKey,
  kind: z.literal("scorecard"),
  groups: z.array(z.object({ title: z.string(), kpis: z.array(z.string()) })),
});

/** One KPI over time; `kpi` is shown until the reader chooses another. */
export const timeChartPanelSchema = z.object({ key: panelKey, kind: z.literal("time-chart"), kpi: z.string() });

export const panelSchema = z.discriminatedUnion("kind", [scorecardPanelSchema, timeChartPanelSchema]);

/** A page; its scope holds until the reader chooses another. */
export const pageSchema = z.object({
  key: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string(),
  scope: scopeSchema,
  panels: z.array(panelSchema),
});

/** A management review: pages in an order. */
export const packSchema = z.object({
  key: z.string().regex(/^[a-z0-9-]+$/),
  name: z.string(),
  pages: z.array(pageSchema),
});

export const packListSchema = z.array(
  z.object({ key: z.string(), name: z.string(), pages: z.array(z.object({ key: z.string(), name: z.string() })) }),
);

export type PackDefinition = z.infer<typeof packSchema>;
export type PageDefinition = z.infer<typeof pageSchema>;
export type PanelDefinition = z.infer<typeof panelSchema>;
export type PackList = z.infer<typeof packListSchema>;
