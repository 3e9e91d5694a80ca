/** Why a question about figures is refused. */
export type RefusalCode =
  | "unknown-period"
  | "unknown-span"
  | "unknown-basis"
  | "unknown-scope"
  | "unknown-unit"
  | "unknown-kpi"
  | "invalid-request";

/** A question about figures that cannot be answered as it is asked; the message names the thing, its value and the way out. */
export class QuestionRefused extends Error {
  constructor(
    readonly code: RefusalCode,
    message: string,
  ) {
    super(message);
    this.name = "QuestionRefused";
  }
}
