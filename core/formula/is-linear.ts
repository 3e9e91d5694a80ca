import type { CompiledFormula, CompiledNode } from "./node.ts";

/**
 * Whether a formula only adds, subtracts and scales amounts of accounts, so that its result is the sum of what each
 * of them brings by itself.
 */
export function isLinear({ root, inputs }: CompiledFormula): boolean {
  return inputs.every(({ kind }) => kind === "account") && isLinearNode(root);
}

function isLinearNode(node: CompiledNode): boolean {
  switch (node.kind) {
    case "constant":
    case "input":
      return true;
    case "negation":
      return isLinearNode(node.operand);
    case "binary":
      switch (node.operator) {
        case "+":
        case "-":
          return isLinearNode(node.left) && isLinearNode(node.right);
        case "*":
          return (isFixed(node.left) && isLinearNode(node.right)) || (isLinearNode(node.left) && isFixed(node.right));
        case "/":
          return isLinearNode(node.left) && isFixed(node.right);
        default:
          return false;
      }
    default:
      return false;
  }
}

/** Whether a node reads no input. */
function isFixed(node: CompiledNode): boolean {
  switch (node.kind) {
    case "constant":
      return true;
    case "negation":
      return isFixed(node.operand);
    case "binary":
      return isFixed(node.left) && isFixed(node.right);
    default:
      return false;
  }
}
