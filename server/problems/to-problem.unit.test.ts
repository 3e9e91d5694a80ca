import { describe, expect, it } from "vitest";
import { z } from "zod";
import { PROBLEM_STATUS } from "#contract/problem.ts";
import { problemDocument, ProblemError } from "./problem-error.ts";
import { isConnectionLoss, readRequest, toProblem } from "./to-problem.ts";

const coded = (code: string) => Object.assign(new Error("x"), { code });

describe("the funnel of errors", () => {
  it("leaves problems as they are", () => {
    const problem = new ProblemError("not-found", "There is no such thing.");
    expect(toProblem(problem)).toBe(problem);
    expect(problemDocument(problem)).toEqual({
      type: "/problems/not-found",
      title: "Not found",
      status: 404,
      code: "not-found",
      detail: "There is no such thing.",
    });
  });
  it.each(["ECONNREFUSED", "ECONNRESET", "57P01", "57P03", "08006", "53300"])(
    "takes %s for a database that is away",
    (code) => {
      expect(toProblem(coded(code)).code).toBe("database-unavailable");
    },
  );
  it("takes a pool that is closed while it is waited for, as when a server stops, for the same", () => {
    expect(toProblem(new Error("aborted")).code).toBe("database-unavailable");
  });
  it("finds a lost connection inside several attempts, and not in other errors", () => {
    expect(isConnectionLoss(new AggregateError([coded("ECONNREFUSED")]))).toBe(true);
    expect(isConnectionLoss(coded("42P01"))).toBe(false);
    expect(isConnectionLoss("ECONNREFUSED")).toBe(false);
  });
  it("names the place of what the contract refuses", () => {
    const read = () => readRequest(z.object({ limit: z.number().max(5) }), { limit: 9 });
    expect(read).toThrow(/^In "limit": .*5/);
  });
  it("says what a choice can be where it is none of them", () => {
    const grain = z.object({ grain: z.enum(["day", "week", "month"]) });
    expect(() => readRequest(grain, { grain: "hour" })).toThrow('"grain" is "hour"; it can be day, week or month.');
    expect(() => readRequest(grain, {})).toThrow(/^In "grain": /);
  });
  it("never blames the client for what is stored", () => {
    const stored = z.object({ kind: z.string() }).safeParse({});
    expect(toProblem(stored.error)).toMatchObject({ code: "internal", cause: stored.error });
  });
  it("keeps the cause of what nobody foresaw to itself", () => {
    const cause = new Error("password=secret at /srv/app.ts:1");
    const problem = toProblem(cause);
    expect([problem.code, problem.cause]).toEqual(["internal", cause]);
    expect(JSON.stringify(problemDocument(problem))).not.toContain("secret");
    expect(toProblem(undefined).code).toBe("internal");
  });
  it("has a status for every code", () => {
    for (const status of Object.values(PROBLEM_STATUS)) expect(status).toBeGreaterThanOrEqual(400);
  });
});
