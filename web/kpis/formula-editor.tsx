import { closeBrackets, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { bracketMatching } from "@codemirror/language";
import { setDiagnostics } from "@codemirror/lint";
import { EditorState } from "@codemirror/state";
import { EditorView, keymap, placeholder } from "@codemirror/view";
import { useEffect, useRef } from "react";
import type { Language } from "#contract/kpis.ts";
import { EDITOR_THEME } from "../ui/editor-theme.ts";
import { formulaSupport } from "./formula-language.ts";

/** Where a formula is wrong. */
export interface Mark {
  readonly from: number;
  readonly to: number;
  readonly message: string;
}

/** A formula as it is typed: coloured, completed, its fault marked under the exact word. */
export function FormulaEditor({
  value,
  language,
  mark,
  isReadOnly,
  onChange,
}: {
  value: string;
  language: Language;
  mark: Mark | null;
  isReadOnly: boolean;
  onChange: (formula: string) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const first = useRef(value);
  const change = useRef(onChange);
  useEffect(() => {
    change.current = onChange;
  }, [onChange]);
  useEffect(() => {
    if (!holder.current) return;
    const editor = new EditorView({
      parent: holder.current,
      state: EditorState.create({
        doc: first.current,
        extensions: [
          formulaSupport(language),
          history(),
          closeBrackets(),
          bracketMatching(),
          keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
          placeholder("Start with the name of an account or KPI"),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ "aria-label": "Formula" }),
          EditorState.readOnly.of(isReadOnly),
          EditorView.editable.of(!isReadOnly),
          EDITOR_THEME,
          EditorView.updateListener.of((update) => {
            if (update.docChanged) change.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => {
      first.current = editor.state.doc.toString();
      editor.destroy();
      view.current = null;
    };
  }, [language, isReadOnly]);
  useEffect(() => {
    const editor = view.current;
    if (editor && value !== editor.state.doc.toString())
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const { length } = editor.state.doc;
    const from = Math.min(mark?.from ?? 0, length);
    editor.dispatch(
      setDiagnostics(
        editor.state,
        mark ? [{ from, to: Math.min(Math.max(mark.to, from), length), severity: "error", message: mark.message }] : [],
      ),
    );
  }, [mark, value]);
  return <div ref={holder} />;
}
