import { useQuery, type keepPreviousData, type UseQueryResult } from "@tanstack/react-query";
import type { AnswerOf, ArgumentsOf, Named } from "#contract/operations/operation.ts";
import { call, type CallArguments } from "./api.ts";

interface Asking<O extends Named> {
  readonly enabled?: boolean;
  readonly placeholderData?: typeof keepPreviousData;
  readonly refetchInterval?: (query: { state: { data: AnswerOf<O> | undefined } }) => number | false;
}

/** The key under which an operation's answer is kept; with no arguments that of all its answers. */
export function answerKey<O extends Named>({ name }: O, args?: ArgumentsOf<O>): readonly unknown[] {
  return args === undefined || Object.values(args).every((part) => part === undefined) ? [name] : [name, args];
}

/** How an operation of the API is asked; what is answered is kept under the operation and its arguments. */
export function answerQuery<O extends Named>(operation: O, args: ArgumentsOf<O>) {
  return {
    queryKey: answerKey(operation, args),
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      (call as (...given: unknown[]) => Promise<AnswerOf<O>>)(operation, args, { signal }),
  };
}

/** Asks an operation of the API: its arguments, where it has any, and how it is asked. */
export function useAnswer<O extends Named>(
  operation: O,
  ...[args, asking = {}]: [...CallArguments<O>, asking?: Asking<O>]
): UseQueryResult<AnswerOf<O>> {
  return useQuery({ ...answerQuery(operation, (args ?? {}) as ArgumentsOf<O>), ...(asking as object) });
}

/** So often work is asked after that goes on beside requests. */
export const JOB_MS = 350;
