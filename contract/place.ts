import { z } from "zod";
import { FARTHEST_ROW, GRID_COLUMNS, MOST_ROWS } from "#core/layout/place.ts";

/** Where a panel stands on its page: columns from the left, rows from the top. */
export const placeSchema = z
  .object({
    x: z
      .number()
      .int()
      .min(0)
      .max(GRID_COLUMNS - 1),
    y: z.number().int().min(0).max(FARTHEST_ROW),
    w: z.number().int().min(1).max(GRID_COLUMNS),
    h: z.number().int().min(1).max(MOST_ROWS),
  })
  .refine(({ x, w }) => x + w <= GRID_COLUMNS, `a panel ends at column ${GRID_COLUMNS} at the latest`);
