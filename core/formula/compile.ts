import type { AccountTree } from "../accounts/account-tree.ts";
import type { Account } from "../accounts/account.ts";
import type { Dimension } from "../dimensions/dimension.ts";
import { Refusal, refuse, type Expression, type FormulaResult, type TextRange } from "./expression.ts";
import { bindCall } from "./functions/bind.ts";
import type { ClockCount, Compiling } from "./functions/function.ts";
import { FUNCTIONS } from "./functions/index.ts";
import { nearestName } from "./nearest-name.ts";
import type { CompiledFormula, CompiledNode, FormulaInput } from "./node.ts";
import { parseFormula } from "./parse.ts";
import { inScenario, inTime, TOP, type Place } from "./place.ts";
import { arithmetic, commonUnit, derivedBehaviour, NUMBER, requireNumber, requireTruth, type Typed } from "./typed.ts";
import { BARE, PLAIN } from "./unit.ts";
import { PLAIN_VIEW, type View } from "./view.ts";

/** What names a formula may use: accounts, KPIs by their formula's text, scenarios, dimensions. */
export interface FormulaNames {
  readonly accounts: AccountTree;
  readonly kpis: ReadonlyMap<string, string>;
  readonly scenarios: readonly string[];
  readonly dimensions: readonly Dimension[];
  /** The KPI the formula belongs to, so that a cycle through it is found. */
  readonly self?: string;
}

/** A formula with all it refers to has at most this many parts. */
export const MAX_FORMULA_PARTS = 10_000;
/**
 * A formula with all it refers to looks at most at this many different times and
 * members: each may be a question to the database, for every column of a scorecard.
 */
export const MAX_FORMULA_VIEWS = 500;
/** KPIs refer to KPIs at most this deep. */
const MAX_KPI_DEPTH = 40;

/**
 * Reads a formula, resolves its names, follows KPIs into their own formulas and
 * checks units and time behaviour. Never throws: a refusal says where and why.
 */
export function compileFormula(text: string, names: FormulaNames): FormulaResult<CompiledFormula> {
  const compiler = new Compiler(names);
  try {
    const typed = compiler.text(text, TOP, names.self === undefined ? [] : [names.self]);
    return { ok: true, value: compiler.finish(typed) };
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, problem: error.problem };
    throw error;
  }
}

/** What a formula and the formulas nested in it have in common. */
class Shared {
  readonly parsed = new Map<string, Expression>();
  readonly mentioned = new Set<string>();
  parts = 0;
  partsApart = 0;
}

class Compiler {
  private readonly inputs: FormulaInput[] = [];
  private readonly inputAt = new Map<string, number>();
  private readonly views: View[] = [];
  private readonly viewAt = new Map<string, number>();

  constructor(
    private readonly names: FormulaNames,
    private readonly shared = new Shared(),
  ) {}

  /** What accounts count: passengers, litres … */
  private get counted(): readonly string[] {
    const units = [...this.names.accounts.accounts.values()].map(({ unit }) => unit);
    return [...new Set(units.flatMap((unit) => (unit.kind === "count" ? [unit.of] : [])))];
  }

  finish({ node, unit, behaviour, gathering }: Typed): CompiledFormula {
    const names = [...this.shared.mentioned];
    return { root: node, inputs: this.inputs, views: this.views, unit, behaviour, gathering, names };
  }

  text(text: string, place: Place, path: readonly string[]): Typed {
    let expression = this.shared.parsed.get(text);
    if (!expression) {
      const result = parseFormula(text);
      if (!result.ok) throw new Refusal(result.problem);
      expression = result.value;
      this.shared.parsed.set(text, expression);
    }
    return this.expression(expression, place, path);
  }

  private expression(expression: Expression, place: Place, path: readonly string[]): Typed {
    this.shared.parts += 1;
    if (this.shared.parts > MAX_FORMULA_PARTS)
      refuse(
        expression,
        `With all it refers to, the formula has more than ${MAX_FORMULA_PARTS} parts. Make it simpler.`,
      );
    switch (expression.kind) {
      case "number":
        return constant(expression, expression.text);
      case "name":
        return this.name(expression.name, expression, place, path);
      case "call":
        return this.call(expression, place, path);
      case "scenario":
        this.requireScenario(expression.scenario, expression.scenarioRange);
        return this.expression(expression.operand, inScenario(place, expression.scenario), path);
      case "negation": {
        const operand = this.expression(expression.operand, place, path);
        requireNumber(expression.operand, operand);
        return { ...operand, node: { kind: "negation", operand: operand.node, decimals: operand.node.decimals } };
      }
      case "not": {
        const operand = this.expression(expression.operand, place, path);
        requireTruth(expression.operand, operand);
        return { ...operand, node: { kind: "not", operand: operand.node, decimals: 0 } };
      }
      case "binary":
        return this.binary(expression, place, path);
    }
  }

  private binary(expression: Extract<Expression, { kind: "binary" }>, place: Place, path: readonly string[]): Typed {
    const left = this.expression(expression.left, place, path);
    const right = this.expression(expression.right, place, path);
    const { operator } = expression;
    switch (operator) {
      case "+":
      case "-":
      case "*":
      case "/":
        return arithmetic(expression, operator, left, right);
      case "and":
      case "or":
        requireTruth(expression.left, left);
        requireTruth(expression.right, right);
        return truth({ kind: "logic", operator, left: left.node, right: right.node, decimals: 0 }, [left, right]);
      default:
        requireNumber(expression.left, left);
        requireNumber(expression.right, right);
        commonUnit(expression, left, right, "compared");
        return truth({ kind: "comparison", operator, left: left.node, right: right.node, decimals: 0 }, [left, right]);
    }
  }

  private name(name: string, at: TextRange, place: Place, path: readonly string[]): Typed {
    const account = this.names.accounts.accounts.get(name);
    const formula = this.names.kpis.get(name);
    // The names of the formula itself, not those of the KPIs it refers to.
    if (path.length <= (this.names.self === undefined ? 0 : 1) && (account || formula !== undefined))
      this.shared.mentioned.add(name);
    if (account) return this.account(account, place);
    if (formula === undefined) {
      const near = nearestName(name, [
        ...this.names.accounts.accounts.keys(),
        ...this.names.kpis.keys(),
        ...FUNCTIONS.keys(),
      ]);
      refuse(at, `There is no account or KPI "${name}".${near ? ` Is "${near}" meant?` : ""}`);
    }
    if (path.includes(name)) refuse(at, `The KPI refers to itself: ${[...path, name].join(" → ")}.`);
    if (path.length >= MAX_KPI_DEPTH)
      refuse(at, `KPIs refer to each other more than ${MAX_KPI_DEPTH} deep: ${path.slice(0, 3).join(" → ")} → ….`);
    try {
      return { ...this.text(formula, place, [...path, name]), label: name };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      refuse(at, error.message);
    }
  }

  private call(call: Extract<Expression, { kind: "call" }>, place: Place, path: readonly string[]): Typed {
    const own = FUNCTIONS.get(call.name);
    if (!own) {
      const near = nearestName(call.name, [...FUNCTIONS.keys()]);
      refuse(
        call.nameRange,
        `There is no function "${call.name}".${near ? ` Is "${near}" meant?` : ""} The reference page lists them all.`,
      );
    }
    const compiling: Compiling = {
      part: (expression, at) => this.expression(expression, at, path),
      clock: (at, count, unit) => this.clock(at, count, unit),
      memberAt: (at, dimension, members) => ({
        kind: "input",
        input: this.input({ kind: "member", view: this.view(at.view), dimension, members }),
        decimals: 0,
      }),
      counted: this.counted,
      newPartApart: () => (this.shared.partsApart += 1),
      nested: (expression, at) => this.nested(expression, at, path),
      nestedInput: (how, at, formula, from) => {
        const view = this.view({ ...at.view, scope: [] });
        const input =
          how === "outlook"
            ? { kind: how, view, formula, ...(from === undefined ? {} : { from }) }
            : { kind: "monthly" as const, view, how, formula };
        return { kind: "input", input: this.input(input), decimals: how === "count" ? 0 : formula.root.decimals };
      },
    };
    const typed = own.compile(bindCall(call, own, this.names.dimensions), place, compiling);
    if (this.views.length > MAX_FORMULA_VIEWS) refuseViews(call);
    return typed;
  }

  /** A formula within the formula, read anew in each month or for a whole year: it stands in the place's scenario and scope. */
  private nested(
    expression: Expression,
    place: Place,
    path: readonly string[],
  ): { typed: Typed; formula: CompiledFormula } {
    const inner = new Compiler(this.names, this.shared);
    const view: View = { ...PLAIN_VIEW, scenario: place.view.scenario, scope: place.view.scope };
    const typed = inner.expression(expression, { ...place, view }, path);
    if (inner.views.length > MAX_FORMULA_VIEWS) refuseViews(expression);
    return { typed, formula: inner.finish(typed) };
  }

  private account(account: Account, place: Place): Typed {
    const isBalance = account.behaviour === "balance";
    const how = isBalance ? (place.gathering ?? "closing") : "sum";
    // What a span opens with is what the month before it closed with.
    const at = how === "opening" ? inTime(place, { do: "first" }, { do: "back", months: 1 }) : place;
    const input = this.input({
      kind: "account",
      view: this.view(at.view),
      account: account.key,
      gathering: how === "opening" ? "closing" : how,
    });
    return {
      node: { kind: "input", input, decimals: account.decimals },
      unit: account.unit,
      behaviour: account.behaviour,
      label: account.key,
      said: isBalance && place.gathering !== null,
      nature: account.behaviour,
      gathering: isBalance ? (place.gathering ?? "closing") : null,
    };
  }

  private clock(place: Place, count: ClockCount, unit: "day" | "month"): Typed {
    const input = this.input({ kind: "clock", view: this.view(place.view), count, unit });
    return {
      node: { kind: "input", input, decimals: 0 },
      // Money by months is money still: an amount for a month, whatever it is multiplied with next.
      unit: unit === "day" ? { kind: "days" } : BARE,
      ...NUMBER,
      label: `${unit}s`,
    };
  }

  private input(input: FormulaInput): number {
    const key = JSON.stringify(input);
    const known = this.inputAt.get(key);
    if (known !== undefined) return known;
    this.inputAt.set(key, this.inputs.length);
    return this.inputs.push(input) - 1;
  }

  private view(view: View): number {
    const key = JSON.stringify(view);
    const known = this.viewAt.get(key);
    if (known !== undefined) return known;
    this.viewAt.set(key, this.views.length);
    return this.views.push(view) - 1;
  }

  private requireScenario(name: string, at: TextRange): void {
    const known = [...new Set([...this.names.scenarios, "forecast"])];
    if (known.includes(name)) return;
    const near = nearestName(name, known);
    refuse(at, `There is no scenario "${name}".${near ? ` Is "${near}" meant?` : ""} There are ${known.join(", ")}.`);
  }
}

function constant(at: TextRange, text: string): Typed {
  const digits = text.replace("%", "");
  const decimals = (digits.split(".")[1]?.length ?? 0) + (text.endsWith("%") ? 2 : 0);
  const value = Number(digits.replace(".", ""));
  if (!Number.isSafeInteger(value) || decimals > 9)
    refuse(at, `The number ${text} is too long: at most 15 digits, 9 of them decimals.`);
  return {
    node: { kind: "constant", value, decimals },
    unit: text.endsWith("%") ? PLAIN : BARE,
    ...NUMBER,
    behaviour: "constant",
    label: text,
  };
}

function truth(node: CompiledNode, parts: readonly [Typed, Typed]): Typed {
  return { node, unit: { kind: "truth" }, ...NUMBER, behaviour: derivedBehaviour(parts), label: parts[0].label };
}

function refuseViews(at: TextRange): never {
  refuse(
    at,
    `The formula looks at more than ${MAX_FORMULA_VIEWS} different times and members. Choose a higher level, or fewer months.`,
  );
}
