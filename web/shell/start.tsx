import { SESSION } from "#contract/operations/session.ts";
import { Navigate } from "react-router";
import { useAnswer } from "../client/answer.ts";

/** What is opened at sign-in: the pack that the person chose, or their home. */
export function Start() {
  const person = useAnswer(SESSION.session).data;
  if (!person) return null;
  return <Navigate to={person.opens === null ? "/home" : `/packs/${person.opens}`} replace />;
}
