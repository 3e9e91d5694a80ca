import { z } from "zod";
import { frameQuerySchema } from "./frame.ts";
import { healthSchema } from "./health.ts";
import { loadListSchema } from "./loads.ts";
import { packListSchema, packSchema } from "./pack.ts";
import { panelAnswerSchema } from "./panels.ts";
import { provenanceSchema, sideSchema, sourceLinesSchema } from "./provenance.ts";
import { personSchema, samplePeopleSchema, sampleSignInSchema, signInSchema } from "./session.ts";
import { structureSchema } from "./structure.ts";

export const panelQuerySchema = frameQuerySchema.extend({ kpi: z.string().max(100).optional() });
export const provenanceQuerySchema = frameQuerySchema.extend({ kpi: z.string().max(100), side: sideSchema });
export const sourceLinesQuerySchema = provenanceQuerySchema.extend({
  input: z.coerce.number().int().min(0).max(1000).default(0),
  offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(50),
});

/** One operation of the API, as the server offers it and the OpenAPI document describes it. */
export interface Operation {
  readonly method: "get" | "post" | "delete";
  readonly path: string;
  readonly summary: string;
  readonly isOpen?: boolean;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  readonly answer: z.ZodType | null;
}

/** Every operation of the API. */
export const OPERATIONS = {
  health: {
    method: "get",
    path: "/api/health",
    summary: "Whether the server and its database are ready",
    isOpen: true,
    answer: healthSchema,
  },
  samplePeople: {
    method: "get",
    path: "/api/sample-people",
    summary: "The sample company's people, for signing in with one click",
    isOpen: true,
    answer: samplePeopleSchema,
  },
  signIn: {
    method: "post",
    path: "/api/session",
    summary: "Sign in with e-mail address and password",
    isOpen: true,
    body: signInSchema,
    answer: personSchema,
  },
  signInSample: {
    method: "post",
    path: "/api/session/sample",
    summary: "Sign in as a person of the sample company",
    isOpen: true,
    body: sampleSignInSchema,
    answer: personSchema,
  },
  session: { method: "get", path: "/api/session", summary: "Who is signed in", answer: personSchema },
  signOut: { method: "delete", path: "/api/session", summary: "Sign out", isOpen: true, answer: null },
  structure: {
    method: "get",
    path: "/api/structure",
    summary: "What a frame can be made of",
    query: frameQuerySchema,
    answer: structureSchema,
  },
  packs: { method: "get", path: "/api/packs", summary: "All packs with their pages", answer: packListSchema },
  pack: { method: "get", path: "/api/packs/:pack", summary: "One pack with its pages and panels", answer: packSchema },
  panel: {
    method: "get",
    path: "/api/packs/:pack/pages/:page/panels/:panel",
    summary: "The figures of one panel in a frame",
    query: panelQuerySchema,
    answer: panelAnswerSchema,
  },
  provenance: {
    method: "get",
    path: "/api/provenance",
    summary: "How a figure was made",
    query: provenanceQuerySchema,
    answer: provenanceSchema,
  },
  sourceLines: {
    method: "get",
    path: "/api/provenance/lines",
    summary: "The source lines behind one input of a figure",
    query: sourceLinesQuerySchema,
    answer: sourceLinesSchema,
  },
  loads: { method: "get", path: "/api/loads", summary: "Everything that was posted", answer: loadListSchema },
} as const satisfies Record<string, Operation>;
