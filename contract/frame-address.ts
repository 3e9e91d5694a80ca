import type { FrameQuery } from "#core/frame/schema.ts";

/** A frame as the address of a page has it. */
export type FrameAddress = Readonly<FrameQuery>;

/** What an address says of the frame. */
export const FRAME_KEYS = ["asOf", "span", "basis", "scope", "unit", "outlook", "shown"] as const;

/** The frame that an address's search has. */
export function readFrame(search: URLSearchParams): FrameAddress {
  return presentIn(search, FRAME_KEYS);
}

/** The frame of a page: it starts from what the pack and the page say, and goes on from there by the address. */
export function frameOfPage(
  place: { readonly pack: string; readonly page: string },
  frame: FrameAddress,
): FrameAddress {
  return { ...place, ...frame };
}

/** What a search says under some keys; what it does not say is left out. */
export function presentIn<K extends string>(search: URLSearchParams, keys: readonly K[]): Partial<Record<K, string>> {
  return Object.fromEntries(keys.flatMap((key) => (search.has(key) ? [[key, search.get(key)!]] : []))) as Partial<
    Record<K, string>
  >;
}
