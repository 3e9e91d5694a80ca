import { createStore, type StoreApi } from "zustand/vanilla";
import { mergeDiff } from "#core/history/merge-diff.ts";
import {
  applyDiff,
  diffRecords,
  isEmptyDiff,
  reverseDiff,
  type Records,
  type RecordsDiff,
} from "#core/history/records-diff.ts";
import type { Pack, PackChanged, PackEdit } from "#contract/pack.ts";
import { PACK_MERGE, recordsOfPack, withRecords } from "#contract/pack-records.ts";
import { ApiProblem } from "../../client/api.ts";

/** An edit that the server does not have yet, or that can be taken back. */
export type Edit = PackEdit & { readonly diff: RecordsDiff };

/** What two people made of one setting: what is kept now, and what one wanted. */
export interface EditConflict {
  readonly message: string;
  /** The record that both changed. */
  readonly record: string;
  readonly current: Readonly<Record<string, unknown>> | null;
  readonly yours: Readonly<Record<string, unknown>> | null;
}

/** How far what was done is kept: everything; on its way; not sent, since the server cannot be reached. */
export type Saving = "saved" | "saving" | "unsent";

export interface PackEditorState {
  /** The pack as the server has it, as far as it is known; `null` before it was read. */
  readonly base: Pack | null;
  /** What was done since and is not known to be kept; the first one is on its way. */
  readonly pending: readonly Edit[];
  /** The pack with all of that: what is shown, and what is changed next. */
  readonly shown: Pack | null;
  readonly past: readonly Edit[];
  readonly future: readonly Edit[];
  readonly saving: Saving;
  readonly problem: string | null;
  readonly conflict: EditConflict | null;
}

/** What an editor needs from outside. */
export interface EditorPorts {
  send(pack: string, edit: PackEdit): Promise<PackChanged>;
  /** Keeps what is not sent yet over a reload of the page, and gives it back. */
  readonly keep: { load(): readonly Edit[]; save(pending: readonly Edit[]): void };
  newName(): string;
  /** After how long sending is tried again, in milliseconds, by the number of attempts. */
  retryAfter(attempt: number): number;
  onSaved(changed: PackChanged): void;
  /** Something stands otherwise than was thought: the pack is to be asked for anew. */
  onRefused(): void;
}

/** Edits of one pack: shown at once, sent one after the other, kept until they are answered. */
export interface PackEditor {
  readonly store: StoreApi<PackEditorState>;
  /** Takes what the server has now. */
  readonly rebase: (pack: Pack) => void;
  /** Does something to the pack's records. Returns whether it changed anything. */
  readonly edit: (change: (records: Records) => Records) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Of a conflict: lets the other's version stand, or makes one's own on top of it. */
  readonly takeTheirs: () => void;
  readonly keepMine: () => void;
  /** Sends what is pending, at once. */
  readonly flush: () => Promise<void>;
  /** Whether everything that was done is kept. */
  readonly settled: () => Promise<void>;
}

const STEPS_KEPT = 200;

/** Opens an editor of a pack. */
export function createPackEditor(pack: string, ports: EditorPorts): PackEditor {
  const store = createStore<PackEditorState>()(() => ({
    base: null,
    pending: ports.keep.load(),
    shown: null,
    past: [],
    future: [],
    saving: "saved",
    problem: null,
    conflict: null,
  }));
  const set = (change: Partial<PackEditorState>) => {
    store.setState((state) => {
      const next = { ...state, ...change };
      return "base" in change || "pending" in change ? { ...next, shown: shownOf(next, state.shown) } : next;
    });
    if (change.pending) ports.keep.save(change.pending);
  };
  let sending: Promise<void> | null = null;
  let attempt = 0;
  let retry: ReturnType<typeof setTimeout> | undefined;

  const push = (edit: Edit) => {
    set({ pending: [...store.getState().pending, edit], problem: null, saving: "saving" });
    void flush();
  };
  const drop = (edit: Edit, change: Partial<PackEditorState> = {}) => {
    const { pending, past, future } = store.getState();
    set({
      pending: pending.filter((one) => one.edit !== edit.edit),
      past: change.conflict || change.problem ? past.filter((one) => one.edit !== edit.edit) : past,
      future: change.conflict || change.problem ? future.filter((one) => one.edit !== edit.edit) : future,
      ...change,
    });
  };

  /** What is known of the pack, with what somebody else made of a record: one's own version goes on top of that. */
  const withCurrent = ({ record, current }: EditConflict): Pack | null => {
    const { base } = store.getState();
    if (!base) return null;
    const { [record]: _, ...others } = recordsOf(base);
    return withRecords(base, current ? { ...others, [record]: current } : others);
  };

  const sendFirst = async (edit: Edit): Promise<"sent" | "refused" | "cut off"> => {
    try {
      const changed = await ports.send(pack, edit);
      attempt = 0;
      const { pending } = store.getState();
      set({ base: changed.pack, pending: pending.filter((one) => one.edit !== edit.edit) });
      ports.onSaved(changed);
      return "sent";
    } catch (error) {
      if (isCutOff(error)) return "cut off";
      const { both, message } = error as ApiProblem;
      drop(
        edit,
        both
          ? { conflict: { message, ...both } as EditConflict, base: withCurrent(both as EditConflict) }
          : { problem: (error as Error).message },
      );
      ports.onRefused();
      return "refused";
    }
  };

  const sendPending = async (): Promise<void> => {
    for (;;) {
      const [first] = store.getState().pending;
      if (!first) break;
      if (store.getState().saving !== "unsent") set({ saving: "saving" });
      if ((await sendFirst(first)) !== "cut off") continue;
      set({ saving: "unsent" });
      retry = setTimeout(() => void flush(), ports.retryAfter(attempt));
      attempt += 1;
      return;
    }
    set({ saving: "saved" });
  };
  const flush = (): Promise<void> => {
    clearTimeout(retry);
    sending ??= sendPending().finally(() => (sending = null));
    return sending;
  };

  /** Takes a step back or forward: as an edit of its own, which stands on what others did meanwhile. */
  const step = (from: "past" | "future", to: "past" | "future") => {
    const state = store.getState();
    const last = state[from].at(-1);
    if (!last || !state.shown) return;
    const diff = reverseDiff(last.diff);
    const steps: Partial<PackEditorState> = { [from]: state[from].slice(0, -1) };
    const { conflicts } = mergeDiff(recordsOf(state.shown), diff, PACK_MERGE);
    if (conflicts.length > 0) {
      set({ ...steps, problem: "Someone else has changed this since, so it can no longer be undone." });
      return;
    }
    const edit: Edit = { edit: ports.newName(), diff, takesBack: last.edit };
    set({ ...steps, [to]: [...state[to], edit] });
    push(edit);
  };

  const edit: PackEditor["edit"] = (change) => {
    const { shown, past } = store.getState();
    if (!shown) return false;
    const before = recordsOf(shown);
    const diff = diffRecords(before, change(before));
    if (isEmptyDiff(diff)) return false;
    const made: Edit = { edit: ports.newName(), diff };
    set({ past: [...past, made].slice(-STEPS_KEPT), future: [] });
    push(made);
    return true;
  };

  return {
    store,
    rebase: (base) => {
      // An answer that was on its way when something was sent is older than what that led to.
      if (sending === null) set({ base });
      if (store.getState().pending.length > 0) void flush();
    },
    edit,
    undo: () => step("past", "future"),
    redo: () => step("future", "past"),
    takeTheirs: () => set({ conflict: null }),
    keepMine: () => {
      const { conflict } = store.getState();
      set({ conflict: null });
      if (conflict?.yours)
        edit((records) => ({ ...records, [conflict.record]: onTopOf(records[conflict.record], conflict.yours!) }));
    },
    flush,
    settled: async () => {
      while (store.getState().pending.length > 0) await flush();
    },
  };
}

/** Whether an edit is kept to be sent later, rather than refused. */
function isCutOff(error: unknown): boolean {
  return error instanceof ApiProblem && (error.isUntaken || error.code === "not-signed-in");
}

/** One's own version, in the place that the other's has now. */
function onTopOf(current: unknown, yours: Readonly<Record<string, unknown>>): unknown {
  const { place } = (current ?? {}) as { place?: unknown };
  return place === undefined ? yours : { ...yours, place };
}

const known = new WeakMap<Pack, Records>();

/** A pack's records, made once. */
export function recordsOf(pack: Pack): Records {
  const records = known.get(pack) ?? recordsOfPack(pack);
  known.set(pack, records);
  return records;
}

/** The pack with what is pending. What no longer fits is left out: the server says why. */
function shownOf({ base, pending }: PackEditorState, before: Pack | null): Pack | null {
  if (!base || pending.length === 0) return base;
  let records = recordsOf(base);
  for (const { diff } of pending) records = applyDiff(records, mergeDiff(records, diff, PACK_MERGE).diff);
  return withRecords(before?.key === base.key ? { ...base, pages: mergeIdentity(base, before) } : base, records);
}

/** Pages as they were shown, where they are still there: what did not change is the same object. */
function mergeIdentity(base: Pack, before: Pack): Pack["pages"] {
  const kept = new Map(before.pages.map((page) => [page.key, page]));
  return base.pages.map((page) => kept.get(page.key) ?? page);
}
