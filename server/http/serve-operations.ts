import type { Request, RequestHandler, Response, Router } from "express";
import { z } from "zod";
import type { Access, Operation, PathParams } from "#contract/operations/operation.ts";
import { requireAccess } from "#server/access/roles.ts";
import type { Reader } from "#server/access/reader.ts";
import { contentDisposition, type Download } from "#server/export/downloads.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { answerCsv } from "./csv.ts";
import { answerLines } from "./json-lines.ts";
import { whenGone } from "./when-gone.ts";

type Parsed<Schema, Else> = Schema extends z.ZodType ? z.output<Schema> : Else;

/** What a use case is given of a request: all of it parsed, and who asks. */
export interface Call<O extends Operation = Operation> {
  readonly params: {
    readonly [Name in PathParams<O["path"]>]: O extends { params: infer P }
      ? Parsed<P[Name & keyof P], string>
      : string;
  };
  readonly query: O extends { query: infer Q } ? Parsed<Q, undefined> : undefined;
  readonly body: O extends { body: infer B } ? Parsed<B, undefined> : undefined;
  readonly reader: O["access"] extends "anyone" ? undefined : Reader;
  /** Ends when whoever asked is gone. */
  readonly signal: AbortSignal;
  /** For files that are read as they come, and for cookies. */
  readonly req: Request;
  readonly res: Response;
}

/** A file as an answer: made first and then sent, at hand as rows, kept at a path, or lines that are sent as they come. */
export type FileAnswer =
  | Omit<Download, "person">
  | { readonly fileName: string; readonly rows: Iterable<string> }
  | { readonly fileName: string; readonly path: string }
  | { readonly lines: AsyncIterable<string> };

/** What a use case answers: by the operation's schema, with a file, or nothing. */
export type AnswerTo<O extends Operation> = O["answer"] extends z.ZodType
  ? Unchanging<z.input<O["answer"]>>
  : O["answer"] extends string
    ? FileAnswer
    : void;

/** What core makes is not to be changed: an answer may be it as it is. */
type Unchanging<T> = T extends object ? { readonly [K in keyof T]: Unchanging<T[K]> } : T;

type UseCase<O extends Operation> = (call: Call<O>) => AnswerTo<O> | Promise<AnswerTo<O>>;

/** A use case; with handlers that a request has to pass before anything of it is looked at. */
export type Route<O extends Operation> =
  | UseCase<O>
  | { readonly before: readonly RequestHandler[]; readonly run: UseCase<O> };

/** The use cases of an area's operations: one for each. */
export type Routes<Operations> = {
  readonly [Name in keyof Operations]: Operations[Name] extends Operation ? Route<Operations[Name]> : never;
};

/** What all operations are served with. */
export interface Serving {
  /** Who asks, by cookie or token; not needed where anyone may ask everything. Throws "not-signed-in". */
  readonly readReader?: (req: Request) => Promise<Reader>;
  readonly sendDownload?: (res: Response, reader: Reader | undefined, file: Omit<Download, "person">) => Promise<void>;
  /** Whether every answer is held against its schema, as tests do; in use the compiler has to do. */
  readonly isAnswerChecked: boolean;
}

/**
 * Serves an area's operations: each request is let through by its role, parsed by the operation's schemas, handed to
 * its use case, and answered as the operation says. What is thrown goes on to whoever answers problems.
 */
export function serveOperations<Operations extends Readonly<Record<string, Operation>>>(
  router: Router,
  operations: Operations,
  routes: Routes<Operations>,
  serving: Serving,
): void {
  for (const [name, operation] of Object.entries<Operation>(operations)) {
    const route = routes[name] as Route<Operation>;
    const { before, run } = typeof route === "function" ? { before: [], run: route } : route;
    const paramsSchema = paramsOf(operation);
    router[operation.method](operation.path, ...before, async (req, res) => {
      const reader = operation.access === "anyone" ? undefined : await serving.readReader!(req);
      if (reader) requireAccess(operation.access as Exclude<Access, "anyone">, reader);
      const call = {
        params: readRequest(paramsSchema, req.params),
        query: operation.query && readRequest(operation.query, req.query),
        body: operation.body && readRequest(operation.body, req.body),
        reader,
        get signal() {
          return whenGone(res);
        },
        req,
        res,
      } as unknown as Call;
      await send(operation, await run(call), { res, reader, serving });
    });
  }
}

async function send(
  { name, answer: schema }: Operation & { name?: string },
  answer: unknown,
  { res, reader, serving }: { res: Response; reader: Reader | undefined; serving: Serving },
): Promise<void> {
  if (schema === null) res.status(204).end();
  else if (typeof schema === "string") await sendFile(schema, answer as FileAnswer, { res, reader, serving });
  else {
    if (serving.isAnswerChecked) {
      const read = schema.safeParse(answer);
      if (!read.success) throw new Error(`${name} does not answer as its contract says: ${read.error.message}`);
    }
    res.json(answer);
  }
}

async function sendFile(
  type: string,
  file: FileAnswer,
  { res, reader, serving }: { res: Response; reader: Reader | undefined; serving: Serving },
): Promise<void> {
  if ("lines" in file) await answerLines(res, file.lines);
  else if ("write" in file) await serving.sendDownload!(res, reader, file);
  else if ("rows" in file) answerCsv(res, file.fileName, file.rows);
  else {
    res.setHeader("Content-Disposition", contentDisposition(file.fileName));
    res.type(type).sendFile(file.path, { dotfiles: "allow" });
  }
}

/** The schema of an operation's path: a parameter of which nothing is said is a text. */
function paramsOf({ path, params = {} }: Operation): z.ZodObject {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!);
  return z.object(Object.fromEntries(names.map((name) => [name, params[name] ?? z.string()])));
}
