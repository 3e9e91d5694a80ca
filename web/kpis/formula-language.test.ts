import { CompletionContext } from "@codemirror/autocomplete";
import { EditorState } from "@codemirror/state";
import { describe, expect, it } from "vitest";
import type { Language } from "#contract/kpis.ts";
import { completionsFor, formulaSupport } from "./formula-language.ts";

const LANGUAGE: Language = {
  accounts: [{ key: "ticket_revenue", name: "Ticket revenue", about: "income, flow" }],
  kpis: [{ key: "tickets", name: "Tickets", about: "Fares." }],
  scenarios: [
    { key: "budget", name: "Budget", written: "budget" },
    { key: "forecast-6-6", name: "Forecast 6+6", written: '"forecast-6-6"' },
  ],
  dimensions: [
    { name: "route", label: "Route", levels: ["Sea area", "Route"], members: ["Skerry Sound", "Northreach"] },
  ],
  functions: [
    {
      name: "growth",
      group: "Growth and pace",
      usage: "growth(value, on: prior_period | prior_year)",
      gives: "The change.",
      absence: "No base.",
      example: "growth(tickets)",
      parameters: [
        { name: "value", about: "what grows", isOption: false, choices: [] },
        { name: "on", about: "what it is compared with", isOption: true, choices: ["prior_period", "prior_year"] },
      ],
    },
    {
      name: "only",
      group: "Scope",
      usage: 'only(value, route: "…")',
      gives: "Some members.",
      absence: "Elsewhere.",
      example: "",
      parameters: [],
    },
    {
      name: "rank",
      group: "Members",
      usage: "rank(value, over: dimension)",
      gives: "The rank.",
      absence: "",
      example: "",
      parameters: [{ name: "over", about: "whose members", isOption: true, choices: [] }],
    },
  ],
};

/** What is offered where | stands, and where the offered text would begin. */
function offered(marked: string): { labels: string[]; from: number } {
  const pos = marked.indexOf("|");
  const state = EditorState.create({ doc: marked.replace("|", ""), extensions: formulaSupport(LANGUAGE) });
  const result = completionsFor(LANGUAGE)(new CompletionContext(state, pos, false));
  return { labels: result?.options.map((o) => o.label) ?? [], from: result?.from ?? -1 };
}

describe("completion", () => {
  it("offers KPIs, accounts and functions by name while a word is typed", () => {
    expect(offered("ticket_re|")).toMatchObject({ from: 0 });
    expect(offered("1 + ti|").labels).toEqual(expect.arrayContaining(["tickets", "ticket_revenue", "growth"]));
    expect(offered("1 + |").labels).toEqual([]);
  });
  it("offers scenarios behind @, as they are written", () => {
    expect(offered("tickets@|")).toEqual({ labels: ["budget", '"forecast-6-6"'], from: 8 });
  });
  it("offers a function's options inside its brackets, and their choices", () => {
    expect(offered("growth(tickets, o|)").labels[0]).toBe("on");
    expect(offered("growth(tickets, on: p|)").labels).toEqual(["prior_period", "prior_year"]);
    expect(offered("rank(tickets, over: r|)").labels).toEqual(["route"]);
    expect(offered("growth(tickets) + o|").labels).not.toContain("on");
  });
  it("offers members inside quotes, levels where a level is named, and members by name where only some are taken", () => {
    expect(offered('only(tickets, route: "Sk|')).toEqual({ labels: ["Skerry Sound", "Northreach"], from: 22 });
    expect(offered('only(tickets, route: ["Northreach", "|').labels).toEqual(["Skerry Sound", "Northreach"]);
    expect(offered('rank(tickets, over: route, level: "|').labels).toEqual(["Sea area", "Route"]);
    expect(offered("only(tickets, S|)").labels).toContain("Skerry Sound");
  });
});
