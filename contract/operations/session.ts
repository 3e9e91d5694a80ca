import { passwordChangeSchema } from "../companies.ts";
import {
  opensSchema,
  ownWritingSchema,
  samplePeopleSchema,
  sampleSignInSchema,
  sessionSchema,
  signInSchema,
} from "../session.ts";
import { operations } from "./operation.ts";

/** Signing in and out, and what a person chooses for themselves. */
export const SESSION = operations({
  samplePeople: {
    method: "get",
    path: "/api/sample-people",
    access: "anyone",
    summary: "The sample company's people, for one-click sign-in",
    answer: samplePeopleSchema,
  },
  signIn: {
    method: "post",
    path: "/api/session",
    access: "anyone",
    summary: "Sign in with e-mail address and password",
    body: signInSchema,
    answer: sessionSchema,
  },
  signInSample: {
    method: "post",
    path: "/api/session/sample",
    access: "anyone",
    summary: "Sign in as a person of the sample company",
    body: sampleSignInSchema,
    answer: sessionSchema,
  },
  session: {
    method: "get",
    path: "/api/session",
    access: "signed-in",
    summary: "The signed-in person",
    answer: sessionSchema,
  },
  setOpens: {
    method: "put",
    path: "/api/session/opens",
    access: "signed-in",
    summary: "Choose which pack opens at sign-in",
    body: opensSchema,
    answer: sessionSchema,
  },
  setWriting: {
    method: "put",
    path: "/api/session/writing",
    access: "signed-in",
    summary: "Choose your own number and date format",
    body: ownWritingSchema,
    answer: sessionSchema,
  },
  setPassword: {
    method: "put",
    path: "/api/session/password",
    access: "signed-in",
    summary: "Change your password",
    body: passwordChangeSchema,
    answer: sessionSchema,
  },
  signOut: { method: "delete", path: "/api/session", access: "anyone", summary: "Sign out", answer: null },
});
