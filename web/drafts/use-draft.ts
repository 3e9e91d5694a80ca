import { DRAFTS } from "#contract/operations/drafts.ts";
import { hasEnded } from "#core/checks/job-state.ts";
import { useAnswer, JOB_MS } from "../client/answer.ts";
/** A draft; while a check or posting goes on it is asked again until that ends. */
export const useDraft = (draft: number) =>
  useAnswer(
    DRAFTS.draft,
    { params: { draft } },
    { refetchInterval: ({ state }) => (state.data?.job && !hasEnded(state.data.job) ? JOB_MS : false) },
  );
