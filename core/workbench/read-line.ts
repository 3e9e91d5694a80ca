import type { PanelKind } from "../panels/schemas.ts";
import type { RepeatBy } from "../panels/parts/repetition.ts";
import type { Attempt } from "./attempt.ts";

/** A thing that a line can name. */
export interface Word<T> {
  readonly words: string;
  readonly means: T;
}

/** All that a line can name. */
export interface Vocabulary {
  readonly kpis: readonly Word<string>[];
  readonly levels: readonly Word<RepeatBy>[];
  readonly members: readonly Word<{ readonly dimension: string; readonly member: string }>[];
  readonly kinds: readonly Word<PanelKind>[];
  readonly bases: readonly Word<string>[];
  readonly spans: readonly Word<string>[];
}

/** What a line asks for. */
export interface AskedLine extends Attempt {
  readonly basis: string | null;
  readonly span: string | null;
  readonly members: readonly { readonly dimension: string; readonly member: string }[];
}

/** A line as far as it was understood. */
export interface ReadLine {
  /** `null` until it names a KPI. */
  readonly asked: AskedLine | null;
  /** The rest that says nothing yet; empty where all of it is understood. */
  readonly rest: string;
  /** Whole lines that go on from what is understood, the likely ones first. */
  readonly completions: readonly string[];
}

const CLAUSES = ["and", "by", "as", "against", "for", "over"] as const;
type Clause = (typeof CLAUSES)[number];

const MOST_COMPLETIONS = 8;

/**
 * Reads a spoken-like line: KPIs, then in any order `by` a level, `as` a kind, `against` a basis, `for` a member, `over`
 * a span. Names are matched whole and without regard to case, the longest first.
 */
export function readLine(line: string, vocabulary: Vocabulary): ReadLine {
  const asked: { -readonly [P in keyof AskedLine]: AskedLine[P] } = {
    kpis: [],
    split: null,
    kind: null,
    basis: null,
    span: null,
    members: [],
  };
  let at = skipSpace(line, 0);
  let clause: Clause | null = "and";
  // Where the last thing that was understood ends.
  let end = 0;
  const used = new Set<Clause>();
  while (at < line.length || clause !== null) {
    if (clause === null) {
      const next = matchWord(
        line,
        at,
        CLAUSES.map((own) => ({ words: own, means: own })),
      );
      if (!next || (next.means !== "and" && used.has(next.means))) break;
      clause = next.means;
      at = skipSpace(line, next.end);
      continue;
    }
    const found = matchIn(line, at, clause, vocabulary);
    if (!found) break;
    found.apply(asked);
    used.add(clause);
    end = found.end;
    at = skipSpace(line, end);
    clause = null;
  }
  const rest = line.slice(end).trim();
  return {
    asked: asked.kpis.length > 0 ? asked : null,
    rest,
    completions: completionsOf(line, { at, clause, end, used, vocabulary, hasKpi: asked.kpis.length > 0 }),
  };
}

interface Reading {
  readonly at: number;
  readonly clause: Clause | null;
  readonly end: number;
  readonly used: ReadonlySet<Clause>;
  readonly vocabulary: Vocabulary;
  readonly hasKpi: boolean;
}

/** Lines that go on from where reading stopped, by what could stand there. */
function completionsOf(line: string, { at, clause, end, used, vocabulary, hasKpi }: Reading): string[] {
  const begun = line.slice(at).toLowerCase();
  if (clause !== null) {
    const before = line.slice(0, at);
    return wordsOf(clause, vocabulary)
      .filter(
        (words) => words.toLowerCase().startsWith(begun) || (begun.length > 1 && words.toLowerCase().includes(begun)),
      )
      .slice(0, MOST_COMPLETIONS)
      .map((words) => `${before}${words}`);
  }
  if (!hasKpi) return [];
  const open = CLAUSES.filter((own) => own !== "and" && !used.has(own) && own.startsWith(begun));
  return open.map((own) => `${line.slice(0, end).trimEnd()} ${own} `);
}

function wordsOf(clause: Clause, vocabulary: Vocabulary): string[] {
  const of: Readonly<Record<Clause, readonly Word<unknown>[]>> = {
    and: vocabulary.kpis,
    by: vocabulary.levels,
    as: vocabulary.kinds,
    against: vocabulary.bases,
    for: vocabulary.members,
    over: vocabulary.spans,
  };
  return of[clause].map(({ words }) => words);
}

interface Found {
  readonly end: number;
  readonly apply: (asked: { -readonly [P in keyof AskedLine]: AskedLine[P] }) => void;
}

function matchIn(line: string, at: number, clause: Clause, vocabulary: Vocabulary): Found | undefined {
  const found = <T>(words: readonly Word<T>[], apply: (asked: Parameters<Found["apply"]>[0], means: T) => void) => {
    const match = matchWord(line, at, words);
    return match && { end: match.end, apply: (asked: Parameters<Found["apply"]>[0]) => apply(asked, match.means) };
  };
  switch (clause) {
    case "and":
      return found(vocabulary.kpis, (asked, kpi) => (asked.kpis = [...new Set([...asked.kpis, kpi])]));
    case "by":
      return found(vocabulary.levels, (asked, split) => (asked.split = split));
    case "as":
      return found(vocabulary.kinds, (asked, kind) => (asked.kind = kind));
    case "against":
      return found(vocabulary.bases, (asked, basis) => (asked.basis = basis));
    case "for":
      return found(vocabulary.members, (asked, member) => (asked.members = [...asked.members, member]));
    case "over":
      return found(vocabulary.spans, (asked, span) => (asked.span = span));
  }
}

/** The longest of the words that stand at a place and end there; a comma counts as a space. */
function matchWord<T>(line: string, at: number, words: readonly Word<T>[]): { end: number; means: T } | undefined {
  const rest = line.slice(at).toLowerCase();
  let best: { end: number; means: T; length: number } | undefined;
  for (const { words: text, means } of words) {
    const wanted = text.toLowerCase();
    const isWhole = rest.startsWith(wanted) && /^($|[\s,])/.test(rest.slice(wanted.length));
    if (isWhole && wanted.length > (best?.length ?? 0)) best = { end: at + text.length, means, length: wanted.length };
  }
  return best;
}

function skipSpace(line: string, at: number): number {
  let next = at;
  while (next < line.length && /[\s,]/.test(line[next]!)) next += 1;
  return next;
}
