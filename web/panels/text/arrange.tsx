import { KPIS } from "#contract/operations/kpis.ts";
import { closeBrackets, autocompletion, completionKeymap, type CompletionContext } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { linter } from "@codemirror/lint";
import { EditorState } from "@codemirror/state";
import { EditorView, keymap } from "@codemirror/view";
import { Bold, Heading2, Link2, List, Sigma } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { IconButton } from "../../ui/form.tsx";
import { EDITOR_THEME } from "../../ui/editor-theme.ts";
import type { ArrangeProps } from "../../panel-frame/panel-view.ts";
import { useAnswer } from "../../client/answer.ts";
import { FIGURE_PARTS, FRAME_TOKENS, kpisOfText, readToken } from "#core/panels/text/schema.ts";

/** After how long without a key what was written is kept, in milliseconds. */
const QUIET_MS = 500;

interface Named {
  readonly key: string;
  readonly name: string;
}

/** A text as it is written: Markdown, with figures completed in braces. */
export default function ArrangeText({ panel, onChange }: ArrangeProps<"text">) {
  const library = useAnswer(KPIS.kpis).data;
  if (!library) return <div className="waiting mt-3 h-40" />;
  const kpis = library.filter(({ problem }) => !problem).map(({ definition: { key, name } }) => ({ key, name }));
  return (
    <TextEditor key={panel.key} kpis={kpis} value={panel.text} onCommit={(text) => onChange({ ...panel, text })} />
  );
}

function TextEditor({
  kpis,
  value,
  onCommit,
}: {
  kpis: readonly Named[];
  value: string;
  onCommit: (text: string) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const commit = useRef(onCommit);
  const kept = useRef(value);
  const known = useRef(kpis);
  const [unknown, setUnknown] = useState<readonly string[]>([]);
  useEffect(() => {
    commit.current = onCommit;
    known.current = kpis;
  });
  useEffect(() => {
    if (!holder.current) return undefined;
    let quiet: ReturnType<typeof setTimeout> | undefined;
    const keep = () => {
      clearTimeout(quiet);
      const text = editor.state.doc.toString();
      const missing = kpisOfText(text).filter((key) => !known.current.some((kpi) => kpi.key === key));
      setUnknown(missing);
      // What names a KPI that is not there stays in the editor until it does.
      if (missing.length > 0 || text === kept.current) return;
      kept.current = text;
      commit.current(text);
    };
    const editor = new EditorView({
      parent: holder.current,
      state: EditorState.create({
        doc: kept.current,
        extensions: [
          history(),
          closeBrackets(),
          autocompletion({ override: [(context) => complete(context, known.current)], activateOnTyping: true }),
          linter((of) => tokenFaults(of.state.doc.toString(), known.current), { delay: 200 }),
          keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ "aria-label": "Text" }),
          EDITOR_THEME,
          EditorView.theme({ ".cm-content": { fontFamily: "inherit", minHeight: "150px" } }),
          EditorView.domEventHandlers({ blur: () => keep() }),
          EditorView.updateListener.of((update) => {
            if (!update.docChanged) return;
            clearTimeout(quiet);
            quiet = setTimeout(keep, QUIET_MS);
          }),
        ],
      }),
    });
    view.current = editor;
    return () => {
      keep();
      editor.destroy();
      view.current = null;
    };
  }, []);
  // Taken back or changed by somebody else: the editor follows, unless it is being written in.
  useEffect(() => {
    const editor = view.current;
    if (!editor || value === kept.current) return;
    kept.current = value;
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  const around = (before: string, behind = "") => {
    const editor = view.current;
    if (!editor) return;
    const { from, to } = editor.state.selection.main;
    editor.dispatch({
      changes: [
        { from, insert: before },
        { from: to, insert: behind },
      ],
      selection: { anchor: from + before.length, head: to + before.length },
    });
    editor.focus();
  };
  const lineStart = (mark: string) => {
    const editor = view.current;
    if (!editor) return;
    const { from } = editor.state.doc.lineAt(editor.state.selection.main.from);
    editor.dispatch({ changes: { from, insert: mark } });
    editor.focus();
  };
  return (
    <section aria-label="The text" className="mt-3">
      <div role="toolbar" aria-label="Marks" className="flex gap-0.5">
        <IconButton label="Heading" onClick={() => lineStart("## ")}>
          <Heading2 size={15} />
        </IconButton>
        <IconButton label="Bold" onClick={() => around("**", "**")}>
          <Bold size={15} />
        </IconButton>
        <IconButton label="List" onClick={() => lineStart("- ")}>
          <List size={15} />
        </IconButton>
        <IconButton label="Link" onClick={() => around("[", "](https://)")}>
          <Link2 size={15} />
        </IconButton>
        <IconButton label="Figure" onClick={() => around(`{${kpis[0]?.key ?? ""}`, "}")}>
          <Sigma size={15} />
        </IconButton>
      </div>
      <div ref={holder} className="mt-1" />
      {unknown.length > 0 && (
        <p role="alert" className="text-[13px] text-madder">
          There is no KPI {unknown.map((key) => `"${key}"`).join(", ")}: the text is kept once it names KPIs of the
          library.
        </p>
      )}
      <p className="mt-1 text-[12.5px] text-slate">
        A KPI in braces follows the frame: <code>{"{total_revenue}"}</code>; behind it{" "}
        {FIGURE_PARTS.slice(1).join(", ")}. Words of the frame: {FRAME_TOKENS.map((token) => `{${token}}`).join(", ")}.
      </p>
    </section>
  );
}

/** Completes what stands in braces: a KPI, then what is said of it. */
function complete(context: CompletionContext, kpis: readonly Named[]) {
  const typed = context.matchBefore(/\{[^{}\n]*/);
  if (!typed) return null;
  const inside = typed.text.slice(1);
  const isPart = /\s/.test(inside);
  const from = typed.from + 1 + (isPart ? inside.lastIndexOf(" ") + 1 : 0);
  const options = isPart
    ? FIGURE_PARTS.map((part) => ({ label: part, type: "keyword" }))
    : [
        ...kpis.map(({ key, name }) => ({ label: key, detail: name, type: "variable" })),
        ...FRAME_TOKENS.map((token) => ({ label: token, detail: "of the frame", type: "keyword" })),
      ];
  return { from, options, validFor: /^[\w-]*$/ };
}

/** Braces that say nothing, marked where they stand. */
function tokenFaults(text: string, kpis: readonly Named[]) {
  return [...text.matchAll(/\{([^{}\n]{1,120})\}/g)].flatMap((match) => {
    const token = readToken(match[1]!);
    const message =
      token.is === "unknown"
        ? token.why
        : token.is === "figure" && !kpis.some(({ key }) => key === token.kpi)
          ? `There is no KPI "${token.kpi}".`
          : null;
    return message === null
      ? []
      : [{ from: match.index, to: match.index + match[0].length, severity: "error" as const, message }];
  });
}
