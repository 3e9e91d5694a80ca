import { z } from "zod";

/**
 * Who may ask an operation. "anyone" needs no session; "signed-in" is open also to who has yet to choose a password of
 * their own; every reader may what "reader" says, and each further role what those before it may.
 */
export type Access = "anyone" | "signed-in" | "reader" | "editor" | "administrator";

/** One operation of the API: all that the server, the client and the description of the API need to know of it. */
export interface Operation {
  readonly method: "get" | "post" | "put" | "delete";
  /** Its address, with parameters as ":pack". */
  readonly path: `/api/${string}`;
  readonly access: Access;
  /** What it does, for the description of the API. */
  readonly summary: string;
  /** Parameters of the path that are more than a text. */
  readonly params?: Readonly<Record<string, z.ZodType>>;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** The media type of a body that is a file. */
  readonly upload?: string;
  /** The answer's schema; a media type where it is a file; `null` where there is none. */
  readonly answer: z.ZodType | string | null;
}

/** An operation with its name, by which answers are kept and the API's description calls it. */
export type Named<Name extends string = string, O extends Operation = Operation> = O & { readonly name: Name };

/** Declares the operations of an area; each gets the name it stands under. */
export function operations<const T extends Readonly<Record<string, Operation>>>(
  of: T,
): { readonly [Name in keyof T & string]: Named<Name, T[Name]> } {
  return Object.fromEntries(Object.entries(of).map(([name, operation]) => [name, { ...operation, name }])) as never;
}

/** The number of a record, as it stands in an address. */
export const idSchema = z.coerce.number().int().min(1).max(2_000_000_000);

/** "panel" of "panel.csv": a parameter's name ends where its path goes on. */
type Plain<Name extends string> = Name extends `${infer Head}.${string}` ? Head : Name;

/** The parameters that stand in a path: "pack" and "page" of "/packs/:pack/pages/:page". */
export type PathParams<Path extends string> = Path extends `${string}/:${infer Name}/${infer Rest}`
  ? Plain<Name> | PathParams<`/${Rest}`>
  : Path extends `${string}/:${infer Name}`
    ? Plain<Name>
    : never;

type ParamNames<O extends Operation> = PathParams<O["path"]>;

/** What an operation is called with: the parameters of its path, its query and its body, each only where it has one. */
export type ArgumentsOf<O extends Operation> = ([ParamNames<O>] extends [never]
  ? { params?: undefined }
  : { params: Readonly<Record<ParamNames<O>, string | number>> }) &
  (O extends { query: infer Q extends z.ZodType }
    ? { query?: Readonly<{ [K in keyof z.input<Q>]?: z.input<Q>[K] | undefined }> }
    : { query?: undefined }) &
  (O extends { body: infer B extends z.ZodType } ? { body: z.input<B> } : { body?: undefined });

/** What an operation answers; nothing where it answers with a file, or not at all. */
export type AnswerOf<O extends Operation> = O["answer"] extends z.ZodType ? z.infer<O["answer"]> : undefined;

/** The address of an operation with its parameters in place, and its query; what is undefined is left out. */
export function operationPath<O extends Pick<Operation, "path">>(
  { path }: O,
  {
    params,
    query = {},
  }: {
    params?: Readonly<Record<PathParams<O["path"]>, string | number>> | undefined;
    query?: Readonly<Record<string, string | number | boolean | undefined>> | undefined;
  } = {},
): string {
  const filled = path.replace(/:([a-zA-Z]+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Readonly<Record<string, string | number>> | undefined)?.[name])),
  );
  const search = new URLSearchParams();
  for (const [key, value] of Object.entries(query)) if (value !== undefined) search.set(key, String(value));
  const text = search.toString();
  return text ? `${filled}?${text}` : filled;
}
