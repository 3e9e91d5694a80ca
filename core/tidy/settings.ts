import { z } from "zod";

/**
 * The settings that steps are made of: each is a schema, and says of itself how a person sets it. The form of a step is
 * derived from them.
 */

/** How a setting is set: which control, what it is called, and what there is to choose from. */
export type SettingField =
  | { readonly as: "columns" | "column" | "texts" | "flag"; readonly label: string }
  | { readonly as: "text"; readonly label: string; readonly keepsSpaces?: boolean }
  | { readonly as: "number"; readonly label: string; readonly min: number; readonly max: number }
  | { readonly as: "number-choice"; readonly label: string; readonly values: readonly number[] }
  | {
      readonly as: "choice";
      readonly label: string;
      readonly names: readonly (readonly [value: string, name: string])[];
    };

const FIELDS = z.registry<SettingField>();

/** How a setting is set; nothing where it has a form of its own. */
export function fieldOf(setting: z.ZodType): SettingField | undefined {
  return FIELDS.get(setting);
}

const LONGEST = 500;
const MOST_NAMES = 2000;

/** A text of a file, or a column's name. */
export const plainText = z.string().max(LONGEST);
/** Texts or names of columns, with no form of their own. */
export const plainTexts = z.array(plainText).max(MOST_NAMES).readonly();

const own = <S extends z.ZodType>(schema: S, field: SettingField): S => {
  FIELDS.add(schema, field);
  return schema;
};

/** Columns of the file, ticked. */
export const columns = (label = "Columns") =>
  own(z.array(plainText).max(MOST_NAMES).readonly(), { as: "columns", label });

/** One column of the file. */
export const column = (label = "Column") => own(z.string().max(LONGEST), { as: "column", label });

/** Texts, typed with commas between them. */
export const texts = (label: string, { min = 0, max = MOST_NAMES } = {}) =>
  own(z.array(plainText).min(min).max(max).readonly(), { as: "texts", label });

/** A text that is typed. */
export const text = (label: string, { max = LONGEST, keepsSpaces = false } = {}) =>
  own(z.string().max(max), { as: "text", label, keepsSpaces });

/** A whole number. */
export const whole = (label: string, { min, max }: { readonly min: number; readonly max: number }) =>
  own(z.number().int().min(min).max(max), { as: "number", label, min, max });

/** Yes or no. */
export const flag = (label: string) => own(z.boolean(), { as: "flag", label });

/** One of a few texts, each with its name. */
export const choice = <const V extends string>(
  label: string,
  names: readonly (readonly [value: V, name: string])[],
): z.ZodEnum<{ [Value in V]: Value }> =>
  own(z.enum(names.map(([value]) => value) as [V, ...V[]]) as z.ZodEnum<{ [Value in V]: Value }>, {
    as: "choice",
    label,
    names,
  });

/** One of a few numbers. */
export const numberChoice = <const V extends number>(label: string, values: readonly V[]) =>
  own(z.union(values.map((value) => z.literal(value)) as [z.ZodLiteral<V>, ...z.ZodLiteral<V>[]]), {
    as: "number-choice",
    label,
    values,
  });
