import { feedChangeSchema, feedListSchema } from "../feeds.ts";
import { operations } from "./operation.ts";

/** Sources that are pulled, by hand or by schedule. */
export const FEEDS = operations({
  feeds: {
    method: "get",
    path: "/api/feeds",
    access: "editor",
    summary: "Feeds, with their logs",
    answer: feedListSchema,
  },
  changeFeed: {
    method: "put",
    path: "/api/feeds/:feed",
    access: "editor",
    summary: "Set a feed's schedule, and how the simulated service behaves",
    body: feedChangeSchema,
    answer: feedListSchema,
  },
  pullFeed: {
    method: "post",
    path: "/api/feeds/:feed/pull",
    access: "editor",
    summary: "Pull the next extract now",
    answer: feedListSchema,
  },
});
