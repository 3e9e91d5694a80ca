import { SESSION } from "#contract/operations/session.ts";
import { useAnswer } from "./answer.ts";

/** Whether the person may bring data and edit the structure. */
export function useMayEdit(): boolean {
  const role = useAnswer(SESSION.session).data?.role;
  return role === "analyst" || role === "administrator";
}
