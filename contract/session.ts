import { z } from "zod";
import { DATE_WRITINGS, NUMBER_WRITINGS } from "#core/formats/writing.ts";

export const personSchema = z.object({
  email: z.string(),
  name: z.string(),
  title: z.string(),
  role: z.enum(["analyst", "area-manager", "executive", "administrator"]),
});

/** The looks a company can choose: ground, rule and accent. */
export const PALETTES = ["linen", "chalk", "heath", "dusk"] as const;
export const paletteSchema = z.enum(PALETTES);
export type Palette = z.infer<typeof paletteSchema>;

export const numberWritingSchema = z.enum(NUMBER_WRITINGS);
export const dateWritingSchema = z.enum(DATE_WRITINGS);

/** Who is signed in, what is opened for them, and how their company looks. */
export const sessionSchema = personSchema.extend({
  /** The pack that is opened at sign-in; `null` opens their home. */
  opens: z.string().nullable(),
  palette: paletteSchema,
  /** What the company is called, what it reports in, and whether it is the sample. */
  company: z.object({
    name: z.string(),
    isSample: z.boolean(),
    currency: z.string(),
    numbers: numberWritingSchema,
    dates: dateWritingSchema,
  }),
  /** How they read numbers; `null`: as the company writes them. */
  numbers: numberWritingSchema.nullable(),
  /** How they read days, likewise. */
  dates: dateWritingSchema.nullable(),
  /** Whether a password of their own is to be chosen before anything else. */
  mustChoosePassword: z.boolean(),
});
export type Session = z.infer<typeof sessionSchema>;

/** What a person chooses to be opened at sign-in. */
export const opensSchema = z.object({ pack: z.string().max(80).nullable() });
export const ownWritingSchema = z
  .object({ numbers: numberWritingSchema.nullable(), dates: dateWritingSchema.nullable() })
  .partial();
export type OwnWriting = z.infer<typeof ownWritingSchema>;
export const companyLookSchema = z.object({ palette: paletteSchema });

export const signInSchema = z.object({
  email: z.string().trim().min(1, "enter your e-mail address").max(200),
  password: z.string().min(1, "enter your password").max(200),
});

export const sampleSignInSchema = z.object({ email: z.string().min(1).max(200) });

export const samplePeopleSchema = z.array(personSchema.extend({ sees: z.string() }));

export type Person = z.infer<typeof personSchema>;
