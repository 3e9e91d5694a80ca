import { EditorView } from "@codemirror/view";

/** How text editors look. */
export const EDITOR_THEME = EditorView.theme({
  "&": { fontSize: "15px", border: "1px solid var(--thread)", borderRadius: "6px", background: "var(--panel)" },
  "&.cm-focused": { outline: "2px solid var(--indigo)", outlineOffset: "1px" },
  ".cm-content": { fontFamily: "ui-monospace, monospace", padding: "10px 12px", caretColor: "var(--ink)" },
  ".cm-tooltip": {
    background: "var(--panel)",
    border: "1px solid var(--thread)",
    color: "var(--ink)",
    borderRadius: "6px",
  },
  ".cm-tooltip.cm-tooltip-autocomplete > ul": { fontFamily: "inherit", fontSize: "13px", maxHeight: "18em" },
  ".cm-tooltip-autocomplete > ul > li": { padding: "3px 8px" },
  ".cm-tooltip-autocomplete > ul > li[aria-selected]": { background: "var(--chosen)", color: "var(--ink)" },
  ".cm-completionDetail": { color: "var(--slate)", fontStyle: "normal", marginLeft: "1em" },
  ".cm-completionInfo": { maxWidth: "22em", padding: "6px 10px", color: "var(--slate)" },
  ".cm-lintRange-error": { backgroundImage: "none", borderBottom: "2px solid var(--madder)" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-placeholder": { color: "var(--slate)" },
});
