import type { z } from "zod";
import type { OPERATIONS } from "./operations.ts";

/** The name of an operation of the API. */
export type OperationId = keyof typeof OPERATIONS;
type Of<Id extends OperationId> = (typeof OPERATIONS)[Id];

/** "panel" of "panel.csv": a parameter's name ends where its path goes on. */
type Plain<Name extends string> = Name extends `${infer Head}.${string}` ? Head : Name;

/** The parameters that stand in a path: "pack" and "page" of "/packs/:pack/pages/:page". */
export type PathParams<Path extends string> = Path extends `${string}/:${infer Name}/${infer Rest}`
  ? Plain<Name> | PathParams<`/${Rest}`>
  : Path extends `${string}/:${infer Name}`
    ? Plain<Name>
    : never;

type Params<Id extends OperationId> = PathParams<Of<Id>["path"]>;

/** What an operation is called with: the parameters of its path, its query and its body, each only where it has one. */
export type OperationArguments<Id extends OperationId> = ([Params<Id>] extends [never]
  ? { params?: undefined }
  : { params: Readonly<Record<Params<Id>, string | number>> }) &
  (Of<Id> extends { query: infer Q extends z.ZodType }
    ? { query?: Readonly<{ [K in keyof z.input<Q>]?: z.input<Q>[K] | undefined }> }
    : { query?: undefined }) &
  (Of<Id> extends { body: infer B extends z.ZodType } ? { body: z.input<B> } : { body?: undefined });

/** What an operation answers; nothing where it answers with a file, or not at all. */
export type OperationAnswer<Id extends OperationId> = Of<Id>["answer"] extends z.ZodType
  ? z.infer<Of<Id>["answer"]>
  : undefined;

/** Whether an operation can be called with nothing at all. */
export type NeedsNothing<Id extends OperationId> = object extends OperationArguments<Id> ? Id : never;
