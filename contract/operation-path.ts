import type { OperationId, PathParams } from "./operation-types.ts";
import { OPERATIONS } from "./operations.ts";

type ParamsOf<Id extends OperationId> = Readonly<Record<PathParams<(typeof OPERATIONS)[Id]["path"]>, string | number>>;

/** The address of an operation with its parameters in place, and its query; what is undefined is left out. */
export function operationPath<Id extends OperationId>(
  id: Id,
  {
    params,
    query = {},
  }: {
    params?: ParamsOf<Id> | undefined;
    query?: Readonly<Record<string, string | number | boolean | undefined>> | undefined;
  } = {},
): string {
  const path = OPERATIONS[id].path.replace(/:([a-zA-Z]+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Readonly<Record<string, string | number>> | undefined)?.[name])),
  );
  const search = new URLSearchParams();
  for (const [key, value] of Object.entries(query)) if (value !== undefined) search.set(key, String(value));
  const text = search.toString();
  return text ? `${path}?${text}` : path;
}
