import { DRAFTS } from "#contract/operations/drafts.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Definition, Draft } from "#contract/intake.ts";
import { call } from "../client/api.ts";
import { useDraftHistories } from "./draft-history.ts";
import { answerKey } from "../client/answer.ts";

/** Changing a draft: every change is saved as it is made, in order, and can be undone. */
export interface DraftEdit {
  readonly apply: (change: (definition: Definition) => Definition) => void;
  readonly rename: (intakeName: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly isSaving: boolean;
  readonly error: string | null;
}

/** Edits of one draft. A change shows at once; if the server has another version, that one is shown instead, with the reason. */
export function useDraftEdit(id: number): DraftEdit {
  const client = useQueryClient();
  const histories = useDraftHistories();
  const queue = useRef(Promise.resolve());
  const waiting = useRef(0);
  const [isSaving, setSaving] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const draftKey = answerKey(DRAFTS.draft, { params: { draft: id } });
  const now = () => client.getQueryData<Draft>(draftKey);

  const save = (change: Partial<Pick<Draft, "definition" | "intakeName">>) => {
    const draft = now();
    if (!draft) return;
    client.setQueryData<Draft>(draftKey, { ...draft, ...change });
    waiting.current += 1;
    setSaving(true);
    setError(null);
    queue.current = queue.current.then(async () => {
      const current = now();
      try {
        await client.cancelQueries({ queryKey: draftKey });
        const saved = await call(DRAFTS.changeDraft, {
          params: { draft: id },
          body: {
            version: (current ?? draft).version,
            definition: change.definition ?? (current ?? draft).definition,
            intakeName: change.intakeName ?? (current ?? draft).intakeName,
          },
        });
        const shown = now();
        // A later change that still waits stays visible over this answer.
        const later =
          waiting.current > 1 && shown ? { definition: shown.definition, intakeName: shown.intakeName } : {};
        client.setQueryData<Draft>(draftKey, { ...saved, ...later });
      } catch (problem) {
        setError((problem as Error).message);
        await client.refetchQueries({ queryKey: draftKey });
      } finally {
        waiting.current -= 1;
        if (waiting.current === 0) setSaving(false);
      }
    });
  };
  const history = histories.byDraft[id];
  return {
    apply: (change) => {
      const draft = now();
      if (!draft) return;
      histories.record(id, draft.definition);
      save({ definition: change(draft.definition) });
    },
    rename: (intakeName) => save({ intakeName }),
    undo: () => {
      const draft = now();
      const before = draft && histories.undo(id, draft.definition);
      if (before) save({ definition: before });
    },
    redo: () => {
      const draft = now();
      const next = draft && histories.redo(id, draft.definition);
      if (next) save({ definition: next });
    },
    canUndo: (history?.past.length ?? 0) > 0,
    canRedo: (history?.future.length ?? 0) > 0,
    isSaving,
    error,
  };
}
