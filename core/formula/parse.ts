import type { SyntaxNode } from "@lezer/common";
import type { Argument, Expression, FormulaResult, Operator } from "./expression.ts";
import { parser } from "./grammar/parser.ts";

/** The longest formula text that is read. */
export const MAX_FORMULA_LENGTH = 4000;
/** The deepest nesting that is read. */
export const MAX_FORMULA_DEPTH = 60;

/** Reads a formula's text into a tree. Never throws: what is wrong comes back with its place. */
export function parseFormula(text: string): FormulaResult<Expression> {
  if (text.trim() === "") return problem(0, text.length, "The formula is empty: name an account or a KPI.");
  if (text.length > MAX_FORMULA_LENGTH) {
    return problem(
      MAX_FORMULA_LENGTH,
      text.length,
      `The formula has ${text.length} characters; ${MAX_FORMULA_LENGTH} are read. Split it into several KPIs.`,
    );
  }
  const depth = bracketDepth(text);
  if (depth > MAX_FORMULA_DEPTH) {
    return problem(
      0,
      text.length,
      `The formula nests ${depth} brackets; ${MAX_FORMULA_DEPTH} are read. Split it into several KPIs.`,
    );
  }
  const tree = parser.parse(text);
  const error = firstError(tree.topNode);
  if (error)
    return problem(
      error.from,
      Math.max(error.to, Math.min(error.from + 1, text.length)),
      syntaxMessage(text, error.from),
    );
  return { ok: true, value: toExpression(tree.topNode.firstChild!, text) };
}

function problem(
  from: number,
  to: number,
  message: string,
): { ok: false; problem: { from: number; to: number; message: string } } {
  return { ok: false, problem: { from, to, message } };
}

function bracketDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (const character of text) {
    if (character === "(") deepest = Math.max(deepest, ++depth);
    else if (character === ")") depth -= 1;
  }
  return deepest;
}

function firstError(top: SyntaxNode): SyntaxNode | undefined {
  let found: SyntaxNode | undefined;
  top.cursor().iterate((node) => {
    if (!found && node.type.isError) found = node.node;
    return !found;
  });
  return found;
}

function syntaxMessage(text: string, at: number): string {
  const rest = text.slice(at).trimStart();
  if (rest === "") return "The formula breaks off: a name, a number or a closing bracket is missing at the end.";
  const word = /^\S{1,20}/.exec(rest)?.[0] ?? rest[0]!;
  return `"${word}" is not expected here. A formula is made of names in lower case, numbers, + - * /, comparisons, functions and brackets.`;
}

function toExpression(node: SyntaxNode, text: string): Expression {
  const range = { from: node.from, to: node.to };
  const parts = children(node);
  const child = (index: number): Expression => toExpression(parts[index]!, text);
  switch (node.name) {
    case "Number":
      return { ...range, kind: "number", text: textOf(node, text) };
    case "Name":
      return { ...range, kind: "name", name: textOf(node, text) };
    case "Group":
      return child(0);
    case "Scenario": {
      const name = parts[2]!;
      return {
        ...range,
        kind: "scenario",
        operand: child(0),
        scenario: unquoted(textOf(name, text)),
        scenarioRange: { from: name.from, to: name.to },
      };
    }
    case "Negation":
      return { ...range, kind: "negation", operand: child(0) };
    case "Not":
      return { ...range, kind: "not", operand: child(0) };
    case "Call": {
      const name = parts[0]!;
      return {
        ...range,
        kind: "call",
        name: textOf(name, text),
        nameRange: { from: name.from, to: name.to },
        arguments: children(parts[1]!).map((argument) => toArgument(argument, text)),
      };
    }
    case "Binary":
      return {
        ...range,
        kind: "binary",
        operator: textOf(parts[1]!, text) as Operator,
        left: child(0),
        right: child(2),
      };
    default:
      throw new Error(`The grammar has the node "${node.name}" that no expression stands for.`);
  }
}

function toArgument(node: SyntaxNode, text: string): Argument {
  const range = { from: node.from, to: node.to };
  if (node.name !== "Option") return { ...range, option: null, value: toExpression(node, text) };
  const [name, , value] = children(node) as [SyntaxNode, SyntaxNode, SyntaxNode];
  const option = { name: textOf(name, text), from: name.from, to: name.to };
  const place = { from: value.from, to: value.to };
  if (value.name === "Text" || value.name === "List") {
    const texts = value.name === "Text" ? [value] : children(value);
    return { ...range, option, value: { ...place, kind: "texts", texts: texts.map((t) => unquoted(textOf(t, text))) } };
  }
  return { ...range, option, value: toExpression(value, text) };
}

function textOf(node: SyntaxNode, text: string): string {
  return text.slice(node.from, node.to);
}

function unquoted(text: string): string {
  return text.startsWith('"') ? text.slice(1, -1) : text;
}

function children(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let at = node.firstChild; at; at = at.nextSibling) {
    if (/^[A-Z]/.test(at.name)) found.push(at);
  }
  return found;
}
