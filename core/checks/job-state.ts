/** How far a check or a posting has come. */
export const JOB_STATES = ["waiting", "running", "done", "failed", "cancelled", "interrupted"] as const;
export type JobState = (typeof JOB_STATES)[number];

/** A job that has not come to its end: it waits for its turn, or is being done. */
export const OPEN_JOB_STATES: readonly JobState[] = ["waiting", "running"];

/** Whether a job has come to its end, whatever that was. */
export function hasEnded({ state }: { readonly state: JobState }): boolean {
  return !OPEN_JOB_STATES.includes(state);
}
