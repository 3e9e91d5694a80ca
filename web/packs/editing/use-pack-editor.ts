import { KPIS } from "#contract/operations/kpis.ts";
import { PACKS } from "#contract/operations/packs.ts";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo } from "react";
import { useStore } from "zustand";
import type { Pack } from "#contract/pack.ts";
import { call } from "../../client/api.ts";
import { createPackEditor, type Edit, type PackEditor, type PackEditorState } from "./pack-editor.ts";
import { answerKey } from "../../client/answer.ts";

/** Editors live as long as the application, so that what is pending or can be taken back outlives a look elsewhere. */
const editors = new WeakMap<QueryClient, Map<string, PackEditor>>();

/** What is asked anew when a pack changed. */
const FOLLOWING: readonly string[] = [KPIS.kpis.name, PACKS.packs.name, PACKS.pageHistory.name];
const FIRST_RETRY_MS = 1000;
const LONGEST_RETRY_MS = 15_000;

/** The editor of a pack for one person: the same wherever it is asked for. */
export function packEditor(client: QueryClient, pack: string, person: string): PackEditor {
  const own = editors.get(client) ?? new Map<string, PackEditor>();
  editors.set(client, own);
  const name = `${person} ${pack}`;
  const editor =
    own.get(name) ??
    createPackEditor(pack, {
      send: async (key, edit) => {
        const changed = await call(PACKS.editPack, { params: { pack: key }, body: edit });
        // What is the same as before stays the same object.
        const shared = client.setQueryData<Pack>(answerKey(PACKS.pack, { params: { pack: key } }), changed.pack);
        return { ...changed, pack: shared ?? changed.pack };
      },
      keep: keptIn(`hackle-unsent ${name}`),
      newName: () => crypto.randomUUID(),
      retryAfter: (attempt) => Math.min(LONGEST_RETRY_MS, FIRST_RETRY_MS * 2 ** attempt),
      onSaved: () =>
        void client.invalidateQueries({ predicate: ({ queryKey: [id] }) => FOLLOWING.includes(String(id)) }),
      onRefused: () => void client.invalidateQueries({ queryKey: answerKey(PACKS.pack, { params: { pack } }) }),
    });
  own.set(name, editor);
  return editor;
}

/** A pack as it is shown to whoever edits it, with how far what they did is kept. */
export function usePackEditor(
  pack: Pack | undefined,
  key: string,
  person: string,
): PackEditorState & { editor: PackEditor } {
  const client = useQueryClient();
  const editor = useMemo(() => packEditor(client, key, person), [client, key, person]);
  const state = useStore(editor.store);
  // Before anything can be clicked: an edit of a pack that the editor does not know yet would be lost.
  useLayoutEffect(() => {
    if (pack) editor.rebase(pack);
  }, [editor, pack]);
  useEffect(() => {
    const send = () => void editor.flush();
    window.addEventListener("online", send);
    return () => window.removeEventListener("online", send);
  }, [editor]);
  return { ...state, editor };
}

function keptIn(name: string) {
  return {
    load: (): readonly Edit[] => {
      try {
        return JSON.parse(localStorage.getItem(name) ?? "[]") as Edit[];
      } catch {
        return [];
      }
    },
    save: (pending: readonly Edit[]) => {
      try {
        if (pending.length === 0) localStorage.removeItem(name);
        else localStorage.setItem(name, JSON.stringify(pending));
      } catch {
        // A browser that keeps nothing still sends what is pending while the page is open.
      }
    },
  };
}
