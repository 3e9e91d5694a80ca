import type { Fit, Shown } from "./attempt.ts";
import { z } from "zod";
import type { Size } from "../layout/place.ts";
import { frameQuerySchema, moneyUnitSchema } from "../frame/schema.ts";

export const panelKeySchema = z
  .string()
  .regex(/^[a-z0-9-]+$/)
  .max(80);

/** The parts of a frame that a panel can hold. */
const heldFrameSchema = frameQuerySchema.pick({
  asOf: true,
  span: true,
  basis: true,
  scope: true,
  shown: true,
});

const pageAddressSchema = z.object({ pack: panelKeySchema, page: panelKeySchema });

/** What every panel has; where nothing is said, words are drafted from the figures. */
export const panelBase = {
  key: panelKeySchema,
  title: z.string().max(200).optional(),
  subtitle: z.string().max(300).optional(),
  /** The unit money is shown in here, whatever the page's is. */
  unit: moneyUnitSchema.optional(),
  /** Decimals of its figures, whatever its KPIs' are. */
  decimals: z.number().int().min(0).max(4).optional(),
  /** The parts of the frame that it keeps whatever the page says, as an address writes them. */
  holds: heldFrameSchema.optional(),
  /** Whether neither narrowing nor weighing reaches it. */
  isApart: z.boolean().optional(),
  /** Whether it stands on the page without a frame of its own. */
  isBare: z.boolean().optional(),
  /** The page with the detail that it leads to. */
  link: pageAddressSchema.optional(),
  /** The pages that its KPIs lead to, by their keys. */
  links: z.record(z.string().max(60), pageAddressSchema).optional(),
};

/** What a chart has besides; where nothing is said, its axes say what they measure. */
export const chartBase = {
  ...panelBase,
  axisTitle: z.string().max(60).optional(),
  acrossTitle: z.string().max(60).optional(),
  hidesLegend: z.boolean().optional(),
};

/** What a reader chooses of any panel: that it follows the page, whatever it holds. */
export const panelChoice = { follow: z.literal("page").optional() };

/** What a panel refers to, so that it is there when the panel is arranged, and is not removed while it is used. */
export interface References {
  readonly kpis: readonly string[];
  /** The dimensions it opens, splits or repeats by, and their levels. */
  readonly dimensions?: readonly { readonly key: string; readonly level: string | null }[];
}

/** A stored definition as it was written in an earlier form, to be brought one form further. */
export type Migration = (stored: Readonly<Record<string, unknown>>) => Record<string, unknown>;

/** What crosses the wire and is stored of one kind of panel. */
export interface PanelSchema<D extends z.ZodObject, C extends z.ZodObject, A extends z.ZodType> {
  /** What a panel of this kind is called where one is spoken of: "a breakdown". */
  readonly name: string;
  /** The form in which definitions are stored now; grows by one with each migration. */
  readonly form: number;
  /** How much of a page a new panel takes. */
  readonly size: Size;
  /** The same where its definition tells how much it will show. */
  sizeOf?(definition: z.infer<D>): Size;
  readonly definition: D;
  /** What a reader chooses of it, as an address has it. */
  readonly choice: C;
  /** Those choices that only decide how the answer is shown. */
  readonly shown?: readonly (keyof z.infer<C> & string)[];
  readonly answer: A;
  /** How it shows something in the workbench, and how well that tells it. */
  fit(shown: Shown): Fit<z.infer<D>>;
  refersTo(definition: z.infer<D>): References;
  /** The dimensions whose members it shows one by one, which narrowing to some of them leaves whole. */
  splitsBy?(definition: z.infer<D>, choice: z.infer<C>): readonly string[];
  /** Whether its rows can be opened by the members of any dimension. */
  readonly hasOpenRows?: boolean;
  /** From form 1 on: each brings a definition of its place's form to the next. */
  readonly migrations: readonly Migration[];
  /** A further question to the panel. */
  readonly detail?: { readonly query: z.ZodObject; readonly answer: z.ZodType };
}

/** Declares a kind, so that its types are kept. */
export function panelSchemaOf<D extends z.ZodObject, C extends z.ZodObject, A extends z.ZodType, Extra extends object>(
  schema: PanelSchema<D, C, A> & Extra,
): PanelSchema<D, C, A> & Extra {
  return schema;
}

const chartSchema = z.object(chartBase);

/** What every chart has, whatever its kind. */
export type ChartBase = z.infer<typeof chartSchema>;
