import type { SyntaxNode } from "@lezer/common";
import type { Expression, FormulaResult, Operator } from "./expression.ts";
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
  return `"${word}" is not expected here. A formula is made of names in lower case, numbers, + - * / and brackets.`;
}

function toExpression(node: SyntaxNode, text: string): Expression {
  const range = { from: node.from, to: node.to };
  const child = (index: number): Expression => toExpression(children(node)[index]!, text);
  switch (node.name) {
    case "Number":
      return { ...range, kind: "number", text: text.slice(node.from, node.to) };
    case "Name":
      return { ...range, kind: "name", name: text.slice(node.from, node.to) };
    case "Group":
      return child(0);
    case "Negation":
      return { ...range, kind: "negation", operand: child(0) };
    case "Call": {
      const name = children(node)[0]!;
      const nameRange = { from: name.from, to: name.to };
      return { ...range, kind: "call", gathering: text.slice(name.from, name.to), nameRange, argument: child(1) };
    }
    case "Binary": {
      const sign = children(node)[1]!;
      return {
        ...range,
        kind: "binary",
        operator: text.slice(sign.from, sign.to) as Operator,
        left: child(0),
        right: child(2),
      };
    }
    default:
      throw new Error(`The grammar has the node "${node.name}" that no expression stands for.`);
  }
}

function children(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let at = node.firstChild; at; at = at.nextSibling) {
    if (/^[A-Z]/.test(at.name)) found.push(at);
  }
  return found;
}
