import { eventKeptSchema, eventSaySchema } from "../events.ts";
import { idSchema, operations } from "./operation.ts";

/** What people say of points out of the ordinary. */
export const EVENTS = operations({
  sayEvent: {
    method: "post",
    path: "/api/events",
    access: "editor",
    summary: "Confirm or dismiss an event, with a reason; expected ranges and forecasts take note",
    body: eventSaySchema,
    answer: eventKeptSchema,
  },
  unsayEvent: {
    method: "delete",
    path: "/api/events/:event",
    access: "editor",
    params: { event: idSchema },
    summary: "Withdraw a verdict on an event",
    answer: null,
  },
});
