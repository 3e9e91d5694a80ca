import { z } from "zod";
import { OPERATIONS } from "#contract/operations/index.ts";
import type { Operation } from "#contract/operations/operation.ts";
import { problemSchema } from "#contract/problem.ts";

type Json = Record<string, unknown>;

let made: Json | undefined;

/** The OpenAPI 3.1 document of the API, generated from the contract when it is first asked for: it is one for all companies. */
export function openApiDocument(): Json {
  return (made ??= describeApi());
}

function describeApi(): Json {
  const paths: Record<string, Json> = {};
  for (const [id, operation] of Object.entries(OPERATIONS) as [string, Operation][]) {
    const path = operation.path.replace(/:(\w+)/g, "{$1}");
    paths[path] = { ...paths[path], [operation.method]: describe(id, operation) };
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Hackle",
      version: "1",
      description: "Figures of the management review, each with its reason for absence, coverage and provenance.",
    },
    paths,
    components: {
      schemas: { Problem: schemaOf(problemSchema) },
      securitySchemes: { session: { type: "apiKey", in: "cookie", name: "hackle_session" } },
    },
  };
}

function describe(
  operationId: string,
  { path, summary, access, params, query, body, answer, upload }: Operation,
): Json {
  const inPath = [...path.matchAll(/:(\w+)/g)].map((match) => ({
    name: match[1],
    in: "path",
    required: true,
    schema: params?.[match[1]!] ? schemaOf(params[match[1]!]!, "input") : { type: "string" },
  }));
  const inQuery = query ? queryParameters(query) : [];
  const problem = {
    description: "A problem document",
    content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
  };
  return {
    operationId,
    summary,
    "x-access": access,
    security: access === "anyone" ? [] : [{ session: [] }],
    parameters: [...inPath, ...inQuery],
    ...(body
      ? { requestBody: { required: true, content: { "application/json": { schema: schemaOf(body, "input") } } } }
      : {}),
    ...(upload
      ? { requestBody: { required: true, content: { [upload]: { schema: { type: "string", format: "binary" } } } } }
      : {}),
    responses: {
      ...(answer === null
        ? { 204: { description: "Done" } }
        : typeof answer === "string"
          ? { 200: { description: "OK", content: { [answer]: { schema: { type: "string", format: "binary" } } } } }
          : { 200: { description: "OK", content: { "application/json": { schema: schemaOf(answer) } } } }),
      default: problem,
    },
  };
}

function queryParameters(query: z.ZodObject): Json[] {
  const schema = schemaOf(query, "input") as { properties?: Record<string, Json>; required?: string[] };
  return Object.entries(schema.properties ?? {}).map(([name, property]) => ({
    name,
    in: "query",
    required: schema.required?.includes(name) ?? false,
    schema: property,
  }));
}

function schemaOf(schema: z.ZodType, io: "input" | "output" = "output"): Json {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: "any" }) as Json;
  return rest;
}
