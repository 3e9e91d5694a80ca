import { z } from "zod";

export const personSchema = z.object({
  email: z.string(),
  name: z.string(),
  title: z.string(),
  role: z.enum(["analyst", "area-manager", "executive", "administrator"]),
});

export const signInSchema = z.object({
  email: z.string().trim().min(1, "enter your e-mail address").max(200),
  password: z.string().min(1, "enter your password").max(200),
});

export const sampleSignInSchema = z.object({ email: z.string().min(1).max(200) });

export const samplePeopleSchema = z.array(personSchema.extend({ sees: z.string() }));

export type Person = z.infer<typeof personSchema>;
