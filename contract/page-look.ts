import { z } from "zod";
import { placeSchema } from "./place.ts";

/** A page's place that a panel is still to fill, with the kinds that belong there. */
export const openPlaceSchema = z.object({ place: placeSchema, wants: z.array(z.string().max(40)).max(10).readonly() });

/** What a page says and does besides its panels; where nothing is said, words are drafted from the figures. */
export const pageLookSchema = z.object({
  headline: z.string().max(300).optional(),
  subtitle: z.string().max(300).optional(),
  /** Where its figures come from and who answers; drafted where nothing is said. */
  footer: z.string().max(500).optional(),
  /** What a click on a mark does to the other panels: they follow it, or show its part in them. */
  click: z.enum(["narrow", "weigh"]).optional(),
  /** Whether its headline stands on a band of the company's colour. */
  isBanded: z.boolean().optional(),
  /** Whether charts of one unit share one scale, so that they can be compared by eye. */
  sharesScale: z.boolean().optional(),
  /** Places among the dyer's colours of members and KPIs that have one of their own here, on every panel. */
  dyes: z.record(z.string().max(220), z.number().int().min(0).max(7)).optional(),
  open: z.array(openPlaceSchema).max(40).readonly().optional(),
});
export type PageLook = z.infer<typeof pageLookSchema>;
