/** Why a line makes no fact: what may be answered by leaving such lines out. */
export const REJECTABLE_RULES = [
  "unknown-account",
  "parent-account",
  "unknown-scenario",
  "unknown-member",
  "no-period",
  "unreadable-period",
  "no-amount",
  "unreadable-amount",
  "fraction",
  "too-large",
  "foreign-currency",
  "two-currencies",
  "movement-of-balance",
  "foreign-movement",
  "second-rate",
  "no-rate",
] as const;

/** Why a line makes no fact, a person's own word included. */
export const LINE_RULES = [...REJECTABLE_RULES, "rejected-name", "rejected-line"] as const;

export type LineRule = (typeof LINE_RULES)[number];
