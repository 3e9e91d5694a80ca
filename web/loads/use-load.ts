import { LOADS } from "#contract/operations/loads.ts";
import { useAnswer, JOB_MS } from "../client/answer.ts";
/** A load; while what follows from it is worked out it is asked again until that is there. */
export const useLoad = (load: number) =>
  useAnswer(
    LOADS.load,
    { params: { load } },
    { refetchInterval: ({ state }) => (state.data?.isFollowedUp === false ? JOB_MS : false) },
  );
