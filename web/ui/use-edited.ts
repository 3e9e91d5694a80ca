import { useState } from "react";

/** Something kept that is being edited. */
export interface Edited<T> {
  /** What it would be saved as. */
  readonly value: T;
  /** The version that editing began on; the latest while nothing is changed. */
  readonly version: number | null;
  readonly isChanged: boolean;
  /** Changes with what is edited: fields that hold their own text begin anew with it. */
  readonly stamp: string;
  readonly change: (part: Partial<T>) => void;
  /** Goes back to what is kept, as it is by now. */
  readonly discard: () => void;
}

/**
 * Edits something on top of the version it had when editing began. What others change meanwhile does not take the
 * place of what is typed: saving on top of an older version is refused, and both are shown. While nothing is changed,
 * what is kept is followed.
 */
export function useEdited<T extends object>(kept: T, version: number | null): Edited<T> {
  const [edit, setEdit] = useState<{ from: T; version: number | null; parts: Partial<T> } | null>(null);
  const [resets, setResets] = useState(0);
  const parts = edit ? (Object.keys(edit.parts) as (keyof T)[]) : [];
  const isChanged = parts.some((part) => JSON.stringify(edit!.parts[part]) !== JSON.stringify(edit!.from[part]));
  return {
    value: edit ? { ...edit.from, ...edit.parts } : kept,
    version: edit ? edit.version : version,
    isChanged,
    stamp: `${resets}/${JSON.stringify(edit?.from ?? kept)}`,
    change: (part) => setEdit((now) => ({ ...(now ?? { from: kept, version }), parts: { ...now?.parts, ...part } })),
    discard: () => {
      setEdit(null);
      setResets((count) => count + 1);
    },
  };
}
