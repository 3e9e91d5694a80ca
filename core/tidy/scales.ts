/** What amounts written in a unit of many are multiplied by. */
export const SCALES = [100, 1000, 1_000_000, 1_000_000_000] as const;
export type Scale = (typeof SCALES)[number];
