import { Navigate } from "react-router";
import { usePerson } from "./questions.ts";

/** What is opened at sign-in: the pack that the person chose, or their home. */
export function Start() {
  const person = usePerson().data;
  if (!person) return null;
  return <Navigate to={person.opens === null ? "/home" : `/packs/${person.opens}`} replace />;
}
