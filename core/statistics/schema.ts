import { z } from "zod";

/** A line fitted through pairs by least squares. */
export const fittedLineSchema = z.object({
  slope: z.number(),
  intercept: z.number(),
  /** Pearson's correlation, −1 to 1. */
  r: z.number(),
  /** The share of the variance of y that the line explains. */
  r2: z.number(),
  n: z.number(),
});

/** A line through pairs of values by least squares, and how closely they lie along it. */
export type FittedLine = z.infer<typeof fittedLineSchema>;
