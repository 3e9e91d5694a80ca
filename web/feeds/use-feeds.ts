import { FEEDS } from "#contract/operations/feeds.ts";
import { useAnswer, JOB_MS } from "../client/answer.ts";
const SCHEDULED_MS = 5000;

/** The feeds; while a pull goes on they are asked again until it ends. */
export const useFeeds = () =>
  useAnswer(
    FEEDS.feeds,
    {},
    {
      refetchInterval: ({ state: { data } }) => {
        if (data?.some((feed) => feed.pulls.some((pull) => pull.state === "running"))) return JOB_MS;
        return data?.some((feed) => feed.schedule !== "never") ? SCHEDULED_MS : false;
      },
    },
  );
