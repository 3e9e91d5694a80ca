import { describe, expect, it } from "vitest";
import { buildAccountTree } from "#core/accounts/account-tree.ts";
import { monthOf, monthsBetween, type Month } from "#core/calendar/month.ts";
import type { Fact } from "#core/cube/fact.ts";
import { compileLibrary } from "#core/kpis/compile-kpi.ts";
import { ACCOUNTS } from "./company/accounts.ts";
import { DIMENSIONS } from "./company/dimensions.ts";
import { KPIS } from "./company/kpis.ts";
import { referencesOf } from "#core/panels/schemas.ts";
import { PACK } from "./company/pack.ts";
import { SCENARIOS } from "./company/scenarios.ts";
import { correctedLedger, ledgerWorkbook, missingOperations, nextMonthLedger } from "./generate/feed.ts";
import { sampleLoads } from "./generate/loads.ts";
import { distribute, wobble } from "./generate/noise.ts";
import { easterDay } from "./generate/season.ts";

const tree = buildAccountTree(ACCOUNTS);
const facts: Fact[] = sampleLoads().flatMap((load) => [...load.facts()]);
const sums = new Map<string, number>();
for (const f of facts) {
  const key = `${f.scenario}/${f.account}/${f.month}`;
  sums.set(key, (sums.get(key) ?? 0) + f.amount);
}
const sum = (scenario: string, account: string, months: readonly Month[]) =>
  months.reduce(
    (total, m) =>
      total + tree.leaves.get(account)!.reduce((t, leaf) => t + (sums.get(`${scenario}/${leaf}/${m}`) ?? 0), 0),
    0,
  );
const ytd = monthsBetween(monthOf(2026, 4), monthOf(2026, 10));
const year = monthsBetween(monthOf(2026, 4), monthOf(2027, 3));
const over = (account: string, months: readonly Month[]) =>
  sum("actual", account, months) / sum("budget", account, months) - 1;
const result = (scenario: string, months: readonly Month[]) =>
  sum(scenario, "revenue", months) - sum(scenario, "operating_costs", months) - sum(scenario, "depreciation", months);

describe("the sample company", () => {
  it("is the same every time, and only its lines multiply with the scale", () => {
    const again = [...sampleLoads()[0]!.facts()];
    expect(again).toEqual(facts.slice(0, again.length));
    const scaled = [...sampleLoads({ scale: 3 })[0]!.facts()];
    expect(scaled.length).toBeGreaterThan(again.length * 2.5);
    const total = (list: readonly Fact[]) => list.reduce((t, f) => t + f.amount, 0);
    expect(total(scaled)).toBe(total(again));
  });
  it("has whole amounts and known members only", () => {
    const known = new Map(DIMENSIONS.map((d) => [d.key, new Set(d.members.map((m) => m.key))]));
    for (const f of facts) {
      if (!Number.isSafeInteger(f.amount) || !tree.accounts.has(f.account)) throw new Error(JSON.stringify(f));
      for (const [dimension, member] of Object.entries(f.members))
        if (!known.get(dimension)?.has(member)) throw new Error(`${dimension} ${member}`);
    }
  });
  it("has balance sheets that balance, every month and scenario", () => {
    for (const scenario of ["actual", "budget", "forecast-6-6"]) {
      for (const m of scenario === "actual" ? ytd : year) {
        expect(sum(scenario, "assets", [m]) - sum(scenario, "liabilities", [m]) - sum(scenario, "equity", [m])).toBe(0);
      }
    }
  });
  it("has daily passengers that add up to the ledger's, route by route", () => {
    const by = (account: string) =>
      facts
        .filter(
          (f) =>
            f.account === account &&
            f.scenario === "actual" &&
            f.month === monthOf(2026, 9) &&
            f.members["route"] === "vardel-isenholm",
        )
        .reduce((t, f) => t + f.amount, 0);
    expect(by("passengers")).toBe(by("passengers_carried"));
  });
  it("tells its stories", () => {
    expect(over("fuel_cost", monthsBetween(monthOf(2026, 4), monthOf(2026, 6)))).toBeLessThan(0.02);
    expect(over("fuel_cost", [monthOf(2026, 8)])).toBeGreaterThan(0.12);
    expect(over("revenue", ytd)).toBeGreaterThan(0.01);
    expect(result("forecast-6-6", year)).toBeLessThan(result("budget", year) * 0.98);
    const overtime = ytd.map((m) => sum("actual", "port_overtime", [m]) - sum("budget", "port_overtime", [m]));
    expect(Math.max(...overtime)).toBeLessThan(15_000_00);
    expect(overtime.reduce((a, b) => a + b, 0)).toBeGreaterThan(15_000_00);
    expect(overtime).toEqual([...overtime].sort((a, b) => a - b));
    const fy26 = monthsBetween(monthOf(2025, 4), monthOf(2026, 3));
    expect(Math.abs(over("advertising", fy26))).toBeLessThan(0.005);
    expect(Math.max(...fy26.map((m) => Math.abs(over("advertising", [m]))))).toBeGreaterThan(0.3);
    expect(facts.filter((f) => f.reference === "INV-20618").map((f) => f.amount)).toEqual([184_000_00, 184_000_00]);
    expect(sum("actual", "charter_revenue", ytd)).toBe(0);
    const freight = (scenario: string, account: string) =>
      facts
        .filter(
          (f) =>
            f.scenario === scenario &&
            f.account === account &&
            f.month >= monthOf(2026, 6) &&
            f.month <= monthOf(2026, 10) &&
            ["vardel-isenholm", "vardel-grey-ness", "isenholm-fallow-strand"].includes(f.members["route"]!),
        )
        .reduce((t, f) => t + f.amount, 0);
    const volume = freight("actual", "freight_units") / freight("budget", "freight_units");
    const revenue = freight("actual", "freight_carriage") / freight("budget", "freight_carriage");
    expect(revenue).toBeGreaterThan(1.18);
    expect(revenue).toBeLessThan(1.27);
    expect(volume).toBeGreaterThan(revenue);
  });
  it("has KPIs that compile and pages that name them", () => {
    const { kpis, problems } = compileLibrary(KPIS, {
      accounts: tree,
      dimensions: DIMENSIONS,
      scenarios: SCENARIOS.map((s) => s.key),
    });
    expect(problems).toEqual([]);
    for (const page of PACK.pages) {
      for (const panel of page.panels) {
        for (const key of referencesOf(panel).kpis) expect(kpis.has(key), key).toBe(true);
      }
    }
  });
});

describe("the feed", () => {
  it("has next month's ledger as it would really come", () => {
    const { text, fileName } = nextMonthLedger();
    const lines = text.trimEnd().split("\r\n");
    expect(fileName).toBe("november-ledger.csv");
    expect(lines[3]).toBe("Period,Account,Route,Service line,Cost centre,Vessel,Home market,Amount,Units,Document");
    const control = /Control total: (.*)"$/.exec(lines[2]!)![1]!;
    expect(lines.at(-1)).toBe(`Total,,,,,,,"${control}",,`);
    expect(lines.filter((l) => l.includes("Harbour levy"))).toHaveLength(1);
    expect(lines.filter((l) => l.endsWith(",,,J2611-90002"))).toHaveLength(1);
    expect(lines.filter((l) => /,\d+\.5,J2611/.test(l)).length).toBeGreaterThan(1);
    expect(lines.some((l) => l.includes('"(')) && lines.some((l) => l.includes("DECK CREW"))).toBe(true);
    // The lines add up to the control total, to the cent.
    const cents = lines
      .slice(4, -1)
      .map((l) => /,(?:"([^"]*)"|([^,"]*)),[^,]*,[^,]*$/.exec(l)!)
      .map((m) => m[1] ?? m[2] ?? "")
      .reduce((sum, t) => sum + Math.round(Number(t.replace(/[(),]/g, "")) * 100) * (t.startsWith("(") ? -1 : 1), 0);
    expect(cents).toBe(Math.round(Number(control.replace(/[(),]/g, "")) * 100) * (control.startsWith("(") ? -1 : 1));
  });
  it("has October again with the invoice only once, and the missing days of November", () => {
    expect(correctedLedger().text.split("INV-20618")).toHaveLength(2);
    const days = new Set(
      missingOperations()
        .text.split("\r\n")
        .slice(1, -1)
        .map((l) => l.slice(0, 10)),
    );
    expect([...days]).toEqual(Array.from({ length: 13 }, (_, i) => `2026-11-${18 + i}`));
  });
  it("has the same month as a workbook with months as columns", () => {
    const { rows } = ledgerWorkbook();
    expect(rows[2]!.slice(3)).toEqual([
      "Apr 2026",
      "May 2026",
      "Jun 2026",
      "Jul 2026",
      "Aug 2026",
      "Sep 2026",
      "Oct 2026",
      "Nov 2026",
    ]);
    const fares = rows
      .filter((r) => r[0] === "Passenger fares")
      .reduce((t, r) => t + Math.round((r[9] as number) * 100), 0);
    expect(fares).toBe(sum("actual", "passenger_fares", [monthOf(2026, 10)]));
  });
});

describe("the generator's tools", () => {
  it("distribute without losing a cent", () => {
    for (let i = 0; i < 200; i += 1) {
      const total = Math.round(1e6 * (wobble(0.3, i) - 0.9));
      expect(distribute(total, [1, 2, 3.3, 0.4]).reduce((a, b) => a + b, 0)).toBe(total);
    }
  });
  it("know Easter", () => {
    const iso = (year: number) => new Date(easterDay(year) * 86_400_000).toISOString().slice(0, 10);
    expect([2023, 2024, 2025, 2026, 2027].map(iso)).toEqual([
      "2023-04-09",
      "2024-03-31",
      "2025-04-20",
      "2026-04-05",
      "2027-03-28",
    ]);
  });
});
