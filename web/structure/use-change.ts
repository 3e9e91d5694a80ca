import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { OperationArguments } from "#contract/operation-types.ts";
import { call } from "../app/api.ts";
import { answerKey } from "../app/questions.ts";

/** The operations that change the structure and answer with it. */
export type StructureOperation =
  | "changeAccounts"
  | "importAccounts"
  | "changeMembers"
  | "importMembers"
  | "addDimension"
  | "changeDimension"
  | "changeCalendar"
  | "changeDataset"
  | "addScenario"
  | "undoChange";

/** Sends changes of the structure; every figure is asked anew afterwards. */
export interface ChangeSender {
  /** Returns whether the change was made; if not, `problem` says why. */
  readonly send: <Id extends StructureOperation>(id: Id, args: OperationArguments<Id>, file?: File) => Promise<boolean>;
  readonly problem: string | null;
  readonly isSending: boolean;
}

/** Changes of the structure from one page. */
export function useChange(): ChangeSender {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [isSending, setSending] = useState(false);
  const key = answerKey("structure");
  return {
    send: async (id, args, file) => {
      setProblem(null);
      setSending(true);
      try {
        const options = file ? { file: await file.text() } : {};
        const structure = await (call as (...given: unknown[]) => Promise<unknown>)(id, args, options);
        await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== key[0] });
        client.setQueryData(key, structure);
        return true;
      } catch (error) {
        setProblem((error as Error).message);
        await client.invalidateQueries({ queryKey: key });
        return false;
      } finally {
        setSending(false);
      }
    },
    problem,
    isSending,
  };
}
