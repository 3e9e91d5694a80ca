import { getOrCreate } from "#core/collections/keyed.ts";
import type { Structure } from "#server/db/structure.ts";

/** So many characters of answers are kept for one state of the data; the longest unasked go first. */
const MOST_CHARACTERS = 24_000_000;

/**
 * Answers as they were sent, by who may see what and what was asked, the panel's definition included. They belong to one
 * state of the data and go with it: every change of facts, structure or KPIs makes another.
 */
export class KeptAnswers {
  private readonly answers = new Map<string, string>();
  private characters = 0;

  constructor(private readonly most = MOST_CHARACTERS) {}

  get(question: string): string | undefined {
    const answer = this.answers.get(question);
    if (answer === undefined) return undefined;
    // Maps remember in which order they were filled: what is asked again goes to the end.
    this.answers.delete(question);
    this.answers.set(question, answer);
    return answer;
  }

  set(question: string, answer: string): void {
    const before = this.answers.get(question);
    this.characters += answer.length - (before?.length ?? 0);
    this.answers.delete(question);
    this.answers.set(question, answer);
    for (const [oldest, text] of this.answers) {
      if (this.characters <= this.most) return;
      this.answers.delete(oldest);
      this.characters -= text.length;
    }
  }
}

const byGround = new WeakMap<object, KeptAnswers>();

/** The answers that were given in a state of what they follow from. */
export function keptAnswers({ ground }: Structure): KeptAnswers {
  return getOrCreate(byGround, ground, () => new KeptAnswers());
}
