import { act, renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { useEdited } from "./use-edited.ts";

interface Item {
  readonly name: string;
  readonly kind: string;
}
const edit = (start: Item, version: number) =>
  renderHook(({ kept, version: now }: { kept: Item; version: number }) => useEdited(kept, now), {
    initialProps: { kept: start, version },
  });

describe("something that is edited", () => {
  it("follows what is kept until it is changed", () => {
    const { result, rerender } = edit({ name: "Fuel", kind: "cost" }, 1);
    rerender({ kept: { name: "Marine fuel", kind: "cost" }, version: 2 });
    expect(result.current).toMatchObject({ value: { name: "Marine fuel" }, version: 2, isChanged: false });
  });
  it("keeps what is typed, and the version it was typed on, when somebody else changes it", () => {
    const { result, rerender } = edit({ name: "Fuel", kind: "cost" }, 1);
    act(() => result.current.change({ name: "Bunkers" }));
    const { stamp } = result.current;
    rerender({ kept: { name: "Marine fuel", kind: "income" }, version: 2 });
    expect(result.current).toMatchObject({ value: { name: "Bunkers", kind: "cost" }, version: 1, isChanged: true });
    // Fields are not made anew under the hands of who types.
    expect(result.current.stamp).toBe(stamp);
  });
  it("is unchanged again when it is typed back", () => {
    const { result } = edit({ name: "Fuel", kind: "cost" }, 1);
    act(() => result.current.change({ name: "F" }));
    act(() => result.current.change({ name: "Fuel" }));
    expect(result.current.isChanged).toBe(false);
  });
  it("goes back to the latest when it is discarded, and fields begin anew", () => {
    const { result, rerender } = edit({ name: "Fuel", kind: "cost" }, 1);
    const before = result.current.stamp;
    act(() => result.current.change({ name: "Bunkers" }));
    rerender({ kept: { name: "Marine fuel", kind: "cost" }, version: 2 });
    act(() => result.current.discard());
    expect(result.current).toMatchObject({ value: { name: "Marine fuel" }, version: 2, isChanged: false });
    expect(result.current.stamp).not.toBe(before);
  });
});
