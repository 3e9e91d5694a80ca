import type { MadeForecast } from "./forecast.ts";

/** The same with `null` for each number that is none, as it crosses a wire. */
export type Told<T> = T extends number
  ? number | null
  : T extends readonly (infer One)[]
    ? readonly Told<One>[]
    : T extends object
      ? { readonly [Key in keyof T]: Told<T[Key]> }
      : T;

/** A forecast as it crosses a wire. */
export type ToldForecast = Told<MadeForecast>;

/** Writes `null` where a number is none. */
export function told<T>(value: T): Told<T> {
  if (typeof value === "number") return (Number.isFinite(value) ? value : null) as Told<T>;
  if (Array.isArray(value)) return value.map((one: unknown) => told(one)) as unknown as Told<T>;
  if (typeof value === "object" && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, told(one as unknown)])) as Told<T>;
  return value as Told<T>;
}
