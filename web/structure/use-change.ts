import { STRUCTURE } from "#contract/operations/structure.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { ArgumentsOf } from "#contract/operations/operation.ts";
import type { EditableStructure } from "#contract/structure.ts";
import { ApiProblem, call } from "../client/api.ts";
import type { BothVersionsOf } from "../ui/both-versions.tsx";
import { answerKey } from "../client/answer.ts";

type Changes = typeof STRUCTURE;

/** The operations that change the structure and answer with it. */
export type StructureOperation = {
  [Name in keyof Changes]: Changes[Name] extends { method: "post" | "put" | "delete" } ? Changes[Name] : never;
}[keyof Changes];

/** Sends changes of the structure; every figure is asked anew afterwards. */
export interface ChangeSender {
  /** Returns whether the change was made; if not, `problem` says why. */
  readonly send: <O extends StructureOperation>(operation: O, args: ArgumentsOf<O>, file?: File) => Promise<boolean>;
  readonly problem: string | null;
  /** Set while somebody else's change stands against the last one. */
  readonly conflict: BothVersionsOf<object> | null;
  /** Leaves what the other made. */
  readonly takeTheirs: () => void;
  /** Makes the refused change on top of what the other made. */
  readonly keepMine: () => void;
  /** How many conflicts were settled; what was typed before belongs to the past then. */
  readonly settled: number;
  readonly isSending: boolean;
}

interface Refused extends BothVersionsOf<object & { readonly version?: number }> {
  readonly again: () => Promise<boolean>;
}

/** Changes of the structure from one page. */
export function useChange(): ChangeSender {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [refused, setRefused] = useState<Refused | null>(null);
  const [settled, setSettled] = useState(0);
  const [isSending, setSending] = useState(false);
  const key = answerKey(STRUCTURE.structure);
  const sender: ChangeSender = {
    send: async (operation, args, file) => {
      setProblem(null);
      setRefused(null);
      setSending(true);
      try {
        const options = file ? { file: await file.text() } : {};
        const structure = await (call as (...given: unknown[]) => Promise<EditableStructure>)(operation, args, options);
        await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== key[0] });
        client.setQueryData(key, structure);
        return true;
      } catch (error) {
        if (error instanceof ApiProblem && error.both) {
          const { current, yours } = error.both as Pick<Refused, "current" | "yours">;
          const again: Refused["again"] = () => sender.send(operation, onTopOf(args, current));
          setRefused({ message: error.message, current, yours, again });
        } else setProblem((error as Error).message);
        await client.invalidateQueries({ queryKey: key });
        return false;
      } finally {
        setSending(false);
      }
    },
    problem,
    conflict: refused,
    takeTheirs: () => {
      setRefused(null);
      setSettled((count) => count + 1);
    },
    keepMine: () => void refused?.again().then((isDone) => isDone && setSettled((count) => count + 1)),
    settled,
    isSending,
  };
  return sender;
}

/** The same change, made on top of what is there now. */
function onTopOf<Args>(args: Args, current: Refused["current"]): Args {
  const { body } = args as { body?: object };
  if (!body) return args;
  const seen = "was" in body ? { was: current } : { version: current?.version };
  return { ...args, body: { ...body, ...seen } };
}
