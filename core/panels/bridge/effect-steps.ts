import { isPresent } from "../../figures/figure.ts";
import { stepOf } from "./step.ts";
import type { BridgeStep } from "./schema.ts";
import type { Direction } from "../../kpis/schema.ts";

/** A member's amounts and quantities before and now. */
export interface PricedMember {
  readonly name: string;
  readonly value: { readonly before: number; readonly now: number };
  readonly quantity: { readonly before: number; readonly now: number };
}

/** What quantity, its make-up and prices bring; their sum is the whole difference. */
export interface Effects {
  readonly volume: number;
  readonly mix: number;
  readonly price: number;
  /** Of members without a price before: their whole amount now. */
  readonly fresh: { readonly value: number; readonly names: readonly string[] };
  /** Of members without a price now: what they had, taken away. */
  readonly gone: { readonly value: number; readonly names: readonly string[] };
}

/**
 * Volume, mix and price of a difference of amounts: volume = (q₁ − q₀)·p̄₀, mix = Σ (share₁ − share₀)·q₁·(p₀ − p̄₀),
 * price = Σ q₁·(p₁ − p₀), with p̄₀ = Σ q₀p₀ ÷ Σ q₀, over the members that have a quantity on both sides.
 */
export function effectsOf(members: readonly PricedMember[]): Effects {
  const both = members.filter(({ quantity }) => quantity.before !== 0 && quantity.now !== 0);
  const fresh = members.filter(({ quantity }) => quantity.before === 0);
  const gone = members.filter(({ quantity }) => quantity.before !== 0 && quantity.now === 0);
  const sum = (of: (member: PricedMember) => number) => both.reduce((all, member) => all + of(member), 0);
  const q0 = sum(({ quantity }) => quantity.before);
  const q1 = sum(({ quantity }) => quantity.now);
  const v0 = sum(({ value }) => value.before);
  const average = q0 === 0 ? 0 : v0 / q0;
  // Σ q₁p₀: what today's quantities would bring at the prices before.
  const repriced = sum(({ value, quantity }) => (quantity.now * value.before) / quantity.before);
  return {
    volume: (q1 - q0) * average,
    mix: repriced - q1 * average,
    price: sum(({ value }) => value.now) - repriced,
    fresh: {
      value: fresh.reduce((all, { value }) => all + value.now - value.before, 0),
      names: fresh.filter(({ value }) => value.now !== 0 || value.before !== 0).map(({ name }) => name),
    },
    gone: {
      value: gone.reduce((all, { value }) => all + value.now - value.before, 0),
      names: gone.map(({ name }) => name),
    },
  };
}

/** The effects as steps; those that are nothing by their nature are left out. */
export function effectSteps({ volume, mix, price, fresh, gone }: Effects, direction: Direction): BridgeStep[] {
  return [
    stepOf({ key: "volume", name: "Volume", value: volume }, direction),
    stepOf({ key: "mix", name: "Mix", value: mix }, direction),
    stepOf({ key: "price", name: "Price", value: price }, direction),
    ...(fresh.names.length > 0
      ? [stepOf({ key: "new", name: `New: ${fresh.names.join(", ")}`, kind: "new", value: fresh.value }, direction)]
      : []),
    ...(gone.names.length > 0
      ? [
          stepOf(
            { key: "gone", name: `Discontinued: ${gone.names.join(", ")}`, kind: "gone", value: gone.value },
            direction,
          ),
        ]
      : []),
  ];
}

/** A figure's value; 0 where it is absent, as of what did not exist. */
export function orZero(figure: Parameters<typeof isPresent>[0]): number {
  return isPresent(figure) ? figure.value : 0;
}
