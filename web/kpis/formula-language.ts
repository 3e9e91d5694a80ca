import {
  autocompletion,
  completeFromList,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from "@codemirror/autocomplete";
import { HighlightStyle, LanguageSupport, LRLanguage, syntaxHighlighting, syntaxTree } from "@codemirror/language";
import type { Extension } from "@codemirror/state";
import { styleTags, tags } from "@lezer/highlight";
import { parser } from "#core/formula/grammar/parser.ts";
import type { Language } from "#contract/kpis.ts";

const formulaLanguage = LRLanguage.define({
  name: "formula",
  parser: parser.configure({
    props: [
      styleTags({
        Number: tags.number,
        Text: tags.string,
        "Call/Name": tags.function(tags.name),
        "Option/Name": tags.propertyName,
        "ScenarioName/Name ScenarioName/Text": tags.special(tags.name),
        "Comparison Times Divide Plus Minus At And Or": tags.operator,
      }),
    ],
  }),
  languageData: { closeBrackets: { brackets: ["(", "[", '"'] } },
});

const COLOURS = HighlightStyle.define([
  { tag: tags.function(tags.name), color: "var(--indigo)", fontWeight: "600" },
  { tag: tags.special(tags.name), color: "var(--weld-text)" },
  { tag: tags.propertyName, color: "var(--slate)" },
  { tag: tags.string, color: "var(--verdigris)" },
  { tag: tags.number, color: "var(--heather)" },
  { tag: tags.operator, color: "var(--slate)" },
]);

/** The formula language for the editor: one grammar for reading, colours and completion. */
export function formulaSupport(language: Language): Extension {
  return [
    new LanguageSupport(formulaLanguage),
    syntaxHighlighting(COLOURS),
    autocompletion({ override: [completionsFor(language)], activateOnTyping: true, icons: false }),
  ];
}

/** Offers what may stand where the cursor is: scenarios, options, dimensions, members; else functions and names. */
export function completionsFor(language: Language): (context: CompletionContext) => CompletionResult | null {
  const names = completeFromList([
    ...language.kpis.map((k): Completion => ({ label: k.key, detail: `KPI ${k.name}`, info: k.about, boost: 2 })),
    ...language.accounts.map((a): Completion => ({ label: a.key, detail: a.name, info: a.about, boost: 1 })),
    ...language.functions.map((f): Completion => ({
      label: f.name,
      detail: f.usage.slice(f.name.length),
      info: f.gives,
      apply: `${f.name}(`,
    })),
  ]);
  const dimensions = language.dimensions.map((d): Completion => ({ label: d.name, detail: `dimension ${d.label}` }));
  return (context) => {
    const behindAt = context.matchBefore(/@\s*[a-z0-9_"-]*$/);
    if (behindAt)
      return {
        from: behindAt.from + 1,
        options: language.scenarios.map((s) => ({ label: s.written, detail: s.name })),
        validFor: /^[a-z0-9_"-]*$/,
      };
    const inQuotes = context.matchBefore(/"[^"\n]*$/);
    if (inQuotes && openQuotes(context))
      return {
        from: inQuotes.from + 1,
        options: membersFor(language, context).map((m) => ({ label: m.label, detail: m.detail, apply: `${m.label}"` })),
        validFor: /^[^"\n]*$/,
      };
    const word = context.matchBefore(/[a-z][a-z0-9_]*$/i);
    if (!word && !context.explicit) return null;
    const from = word?.from ?? context.pos;
    const call = language.functions.find((f) => f.name === enclosingCall(context));
    const option = optionBefore(context, from);
    const parameter = call?.parameters.find((p) => p.name === option);
    if (parameter && parameter.choices.length > 0)
      return { from, options: parameter.choices.map((label) => ({ label })), validFor: /^\w*$/ };
    if (option && ["of", "over"].includes(option)) return { from, options: dimensions, validFor: /^\w*$/ };
    const all = names(context) as CompletionResult | null;
    const options = (call?.parameters ?? [])
      .filter((p) => p.isOption)
      .map((p): Completion => ({ label: p.name, detail: p.about, apply: `${p.name}: `, boost: 3 }));
    const ofCall =
      call?.name === "only"
        ? [
            ...dimensions.map((d) => ({ ...d, apply: `${d.label}: "` })),
            ...language.dimensions.flatMap((d) =>
              d.members.map((m) => ({ label: m, detail: `in ${d.label}`, apply: `${d.name}: "${m}"` })),
            ),
          ]
        : call?.name === "ignoring"
          ? dimensions
          : [];
    return { from, options: [...options, ...ofCall, ...(all?.options ?? [])], validFor: /^[\w]*$/ };
  };
}

function membersFor(language: Language, context: CompletionContext): { label: string; detail: string }[] {
  const before = context.state.sliceDoc(0, context.pos);
  const named = /([a-z][a-z0-9_]*)\s*:\s*\[?(?:\s*"[^"]*"\s*,)*\s*"[^"]*$/.exec(before)?.[1];
  if (named === "level")
    return language.dimensions.flatMap((d) => d.levels.map((l) => ({ label: l, detail: d.label })));
  return language.dimensions
    .filter((d) => named === undefined || d.name === named)
    .flatMap((d) => d.members.map((m) => ({ label: m, detail: d.label })));
}

function openQuotes(context: CompletionContext): boolean {
  return (context.state.sliceDoc(0, context.pos).match(/"/g)?.length ?? 0) % 2 === 1;
}

/** The function whose brackets the cursor is in. */
function enclosingCall(context: CompletionContext): string | undefined {
  for (let node = syntaxTree(context.state).resolveInner(context.pos, -1); ;) {
    if (node.name === "Call" && node.firstChild) {
      const { from, to } = node.firstChild;
      if (context.pos > to) return context.state.sliceDoc(from, to);
    }
    if (!node.parent) return undefined;
    node = node.parent;
  }
}

function optionBefore(context: CompletionContext, from: number): string | undefined {
  return /([a-z][a-z0-9_]*)\s*:\s*$/.exec(context.state.sliceDoc(0, from))?.[1];
}
