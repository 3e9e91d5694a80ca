import { z } from "zod";

/** A person's tokens for other programs; what a token is, is told only when it is made. */
export const tokenListSchema = z.array(
  z.object({ id: z.number().int(), name: z.string(), createdAt: z.string(), lastUsedAt: z.string().nullable() }),
);
export const tokenCreateSchema = z.object({
  name: z.string().trim().min(1, "say what the token is for").max(100),
});
export const newTokenSchema = z.object({ token: z.string() });

export type TokenList = z.infer<typeof tokenListSchema>;
export type NewToken = z.infer<typeof newTokenSchema>;
