import { z } from "zod";
import { dateWritingSchema, numberWritingSchema } from "./session.ts";

/** The shortest password that is taken. */
export const SHORTEST_PASSWORD = 10;

export const newPasswordSchema = z
  .string()
  .min(SHORTEST_PASSWORD, `take a password of at least ${SHORTEST_PASSWORD} characters`)
  .max(200);

/** The currency a company reports in, by its ISO 4217 code. */
export const currencySchema = z
  .string()
  .trim()
  .toUpperCase()
  .regex(/^[A-Z]{3}$/, "a currency is three letters, such as EUR, USD or CHF");

const nameSchema = z.string().trim().min(1, "give it a name").max(80);
const emailSchema = z.string().trim().toLowerCase().min(3).max(200).includes("@", { message: "an address has an @" });

/** A company that is started: what it is called, how it counts, and who sees to it. */
export const companyStartSchema = z.object({
  name: nameSchema,
  currency: currencySchema,
  /** The first month of its fiscal year, 1 to 12. */
  startMonth: z.number().int().min(1).max(12),
  administrator: z.object({ name: nameSchema, email: emailSchema, password: newPasswordSchema }),
});
export type CompanyStart = z.infer<typeof companyStartSchema>;

/** The companies of an installation. */
export const companyListSchema = z.object({
  companies: z.array(z.object({ key: z.string(), name: z.string(), isSample: z.boolean() })),
  /** The one that is looked at; `null` where none was entered. */
  entered: z.string().nullable(),
  /** Whether one can be started from here. */
  mayStart: z.boolean(),
});
export type CompanyList = z.infer<typeof companyListSchema>;

export const companyEnterSchema = z.object({ company: z.string().max(80) });

/** What a company says of itself. */
export const companySchema = z.object({
  name: z.string(),
  currency: z.string(),
  startMonth: z.number(),
  numbers: numberWritingSchema,
  dates: dateWritingSchema,
  /** 1 (Monday) to 7 (Sunday). */
  weekStart: z.number(),
  isSample: z.boolean(),
});
export type Company = z.infer<typeof companySchema>;

const companySettings = z.object({
  name: nameSchema,
  currency: currencySchema,
  numbers: numberWritingSchema,
  dates: dateWritingSchema,
  weekStart: z.union([z.literal(1), z.literal(6), z.literal(7)]),
});
/** What is left out stays; `was` says what whoever changes it saw. */
export const companyChangeSchema = companySettings.partial().extend({ was: companySettings.partial().optional() });

/** Its name, written by who means it. */
export const companyRemoveSchema = z.object({ name: z.string().max(200) });

const roleSchema = z.enum(["analyst", "area-manager", "executive", "administrator"]);

/** A person of a company, as its administrator sees them. */
export const personListSchema = z.array(
  z.object({
    id: z.number(),
    name: z.string(),
    email: z.string(),
    title: z.string(),
    role: roleSchema,
    /** Whether they have yet to choose a password of their own. */
    hasFirstPassword: z.boolean(),
    isYou: z.boolean(),
  }),
);
export type PersonList = z.infer<typeof personListSchema>;

export const personAddSchema = z.object({
  name: nameSchema,
  email: emailSchema,
  title: z.string().trim().max(80).default(""),
  role: roleSchema,
  password: newPasswordSchema,
});
export const personChangeSchema = z
  .object({ name: nameSchema, title: z.string().trim().max(80), role: roleSchema, password: newPasswordSchema })
  .partial();

export const passwordChangeSchema = z.object({ current: z.string().max(200), password: newPasswordSchema });
