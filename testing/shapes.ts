import type { Outcome, Rows } from "./shape-files.ts";

/** A table in one of the shapes that files come in. */
export interface Shape extends Outcome {
  readonly name: string;
  readonly fileName: string;
  readonly rows: Rows;
  /** Whether its numbers are written with a decimal comma. */
  readonly isComma?: boolean;
  /** What a person says its accounts are, where nothing in the file does: one decision. */
  readonly kind?: "income" | "expense";
  /** What the company reports in, where it is not euros. */
  readonly currency?: string;
}

const MONTHS = ["2026-01", "2026-02", "2026-03", "2026-04", "2026-05", "2026-06"];
const comma = (value: number) =>
  value
    .toFixed(2)
    .replace(".", ",")
    .replace(/\B(?=(\d{3})+,)/g, ".");
const sum = (values: readonly number[]) => Math.round(values.reduce((a, b) => a + b, 0) * 100) / 100;
const cross = <A, B>(as: readonly A[], bs: readonly B[]) =>
  as.flatMap((a, i) => bs.map((b, k) => [a, b, i, k] as const));

const departments = cross(MONTHS, ["Kilns", "Glazing", "Sales"]).map(([month, name, i, k]) => ({
  month,
  name,
  budget: 1000 + 100 * k,
  actual: 990.5 + 10 * i + 100 * k,
}));
const sales = Array.from({ length: 60 }, (_, i) => {
  const [count, price, off] = [1 + ((i * 7) % 23), [12.5, 19.9, 34, 7.25][i % 4]!, [0, 0, 5, 10][(i * 3) % 4]!];
  const net = Math.round(count * price * (100 - off)) / 100;
  return { day: new Date(Date.UTC(2026, 0, 1 + i * 3)), count, price, off, net, cost: Math.round(net * 60) / 100, i };
});
const ledger = MONTHS.map((month, i) => ({ month, sales: 900 + i * 7, wages: 400 + i, cash: 1000 + 100 * i }));
const visits = Array.from({ length: 60 }, (_, i) => {
  const [seen, orders] = [1000 + ((i * 37) % 200), 20 + ((i * 7) % 11)];
  return { day: new Date(Date.UTC(2026, 0, 1 + i)).toISOString().slice(0, 10), seen, orders, revenue: orders * 31.5 };
});
const february = visits.filter(({ day }) => day.startsWith("2026-02"));

/** The shapes that are one table in one file. */
export const SHAPES: readonly Shape[] = [
  {
    name: "1: a wide sheet of budget and actual by department",
    fileName: "Department spending.csv",
    rows: [
      ["Month", "Department", "Budget", "Actual"],
      ...departments.map(({ month, name, budget, actual }) => [month, name, String(budget), actual.toFixed(2)]),
    ],
    totals: {
      "Department spending Actual": sum(departments.map((d) => d.actual)),
      "Department spending Budget": sum(departments.map((d) => d.budget)),
    },
    shown: { "Department spending": sum(departments.map((d) => d.actual)) },
  },
  {
    name: "2: a sales list with prices, discounts and decimal commas",
    fileName: "Verkäufe.csv",
    isComma: true,
    rows: [
      ["Datum", "Rechnung", "Kunde", "Menge", "Einzelpreis", "Rabatt %", "Netto", "Kosten"],
      ...sales.map(({ day, count, price, off, net, cost, i }) => [
        `${String(day.getUTCDate()).padStart(2, "0")}.${String(day.getUTCMonth() + 1).padStart(2, "0")}.2026`,
        `R${10_000 + i}`,
        ["Müller", "Weiß", "Löwe"][i % 3]!,
        String(count),
        comma(price),
        String(off),
        comma(net),
        comma(cost),
      ]),
    ],
    totals: {
      "Menge Actual": sum(sales.map((s) => s.count)),
      "Netto Actual": sum(sales.map((s) => s.net)),
      "Kosten Actual": sum(sales.map((s) => s.cost)),
    },
  },
  {
    name: "3: a trial balance with debits, credits and closing balances",
    fileName: "Trial balance.csv",
    rows: [
      ["Period", "Account", "Name", "Debit", "Credit", "Closing balance"],
      ...ledger.flatMap((l) => [
        [l.month, "1000", "Cash", "500.00", "400.00", l.cash.toFixed(2)],
        [l.month, "4000", "Sales", "0.00", l.sales.toFixed(2), (-l.sales).toFixed(2)],
        [l.month, "6000", "Wages", l.wages.toFixed(2), "0.00", l.wages.toFixed(2)],
        [l.month, "6100", "Rent", "100.00", "0.00", "100.00"],
      ]),
    ],
    shown: { Sales: 935, Wages: 405, Rent: 100, Cash: 1500, Costs: 505, Result: 430 },
  },
  {
    name: "3: a German trial balance without closing balances",
    fileName: "Summen und Salden.csv",
    rows: [
      ["Monat", "Konto", "Bezeichnung", "Soll", "Haben"],
      ...ledger.flatMap((l) => [
        [l.month, "8400", "Umsatzerlöse", "0.00", l.sales.toFixed(2)],
        [l.month, "4100", "Löhne", l.wages.toFixed(2), "0.00"],
      ]),
    ],
    totals: { "Umsatzerlöse Actual": sum(ledger.map((l) => l.sales)), "Löhne Actual": sum(ledger.map((l) => l.wages)) },
  },
  {
    name: "3: debits and credits of an account that keeps a balance",
    fileName: "Movements.csv",
    rows: [
      ["Period", "Account", "Name", "Debit", "Credit"],
      ...ledger.flatMap((l) => [
        [l.month, "1000", "Cash", "500.00", "400.00"],
        [l.month, "6000", "Wages", l.wages.toFixed(2), "0.00"],
      ]),
    ],
    stopped: /6 lines give movements of an account that keeps a balance, not its closing balance/,
  },
  {
    name: "4: a budget with months as columns, subtotals and a scale in its title",
    currency: "USD",
    fileName: "budget-2026.csv",
    rows: [
      ["Budget 2026 in USD thousand", "", "", "", ""],
      ["Account", "Jan 2026", "Feb 2026", "Mar 2026", "Total"],
      ["Sales", "10", "11", "12", "33"],
      ["Services", "5", "5", "6", "16"],
      ["Revenue", "15", "16", "18", "49"],
      ["Wages", "4", "4", "4", "12"],
      ["Rent", "1", "1", "1", "3"],
      ["Costs", "5", "5", "5", "15"],
      ["Result", "10", "11", "13", "34"],
    ],
    totals: { "Sales Budget": 33_000, "Services Budget": 16_000, "Wages Budget": 12_000, "Rent Budget": 3000 },
  },
  {
    name: "5: targets by quarter and region",
    kind: "income",
    fileName: "Regional targets.csv",
    rows: [
      ["Quarter", "Region", "Target"],
      ["Q1 2026", "North", "100"],
      ["Q1 2026", "South", "120"],
      ["Q2 2026", "North", "110"],
      ["Q2 2026", "South", "130"],
    ],
    totals: { "Regional targets Target": 460 },
  },
  {
    name: "6: a web shop by day, with rates beside counts",
    fileName: "Web shop.csv",
    rows: [
      ["Date", "Visits", "Orders", "Revenue", "Conversion %", "Revenue per visit"],
      ...visits.map(({ day, seen, orders, revenue }) => [
        day,
        String(seen),
        String(orders),
        revenue.toFixed(2),
        ((orders / seen) * 100).toFixed(2),
        (revenue / seen).toFixed(4),
      ]),
    ],
    shown: {
      Visits: sum(february.map((v) => v.seen)),
      Orders: sum(february.map((v) => v.orders)),
      Revenue: sum(february.map((v) => v.revenue)),
      Conversion: sum(february.map((v) => v.orders)) / sum(february.map((v) => v.seen)),
      "Revenue per visit": sum(february.map((v) => v.revenue)) / sum(february.map((v) => v.seen)),
    },
  },
  {
    name: "8: scenarios as rows, US dates and dollar signs",
    currency: "USD",
    fileName: "Store sales.csv",
    rows: [
      ["Date", "Scenario", "Store", "Sales"],
      ...cross(cross(MONTHS, ["Actual", "Budget"]), ["Harbor", "Mill"]).map(([[month, scenario, i, k], store, , j]) => [
        `${Number(month.slice(5))}/15/2026`,
        scenario,
        store,
        `$${(1319 + i * 100 + k * 10 + j).toLocaleString("en-US")}.00`,
      ]),
    ],
    totals: { "Sales Actual": 18_834, "Sales Budget": 18_954 },
    shown: { Sales: 18_834 },
  },
  {
    name: "9: names of months without a year, which stands in the title",
    fileName: "regions.csv",
    rows: [
      ["Sales 2026", "", "", ""],
      ["Region", "January", "February", "März"],
      ["North", "10", "20", "30"],
      ["South", "11", "21", "31"],
    ],
    totals: { "Sales Actual": 123 },
    shown: { Sales: 61 },
  },
  {
    name: "10: conversion, handling time and revenue per sale beside counts",
    fileName: "Call centre.csv",
    rows: [
      ["Month", "Team", "Calls", "Sales", "Conversion", "Average handling time", "Revenue", "Revenue per sale"],
      ...cross(MONTHS, ["A", "B"]).map(([month, team, i, k]) => {
        const [calls, sold] = [900 + i * 13 + k * 70, 90 + i * 3 + k];
        const revenue = sold * (49.9 + k);
        return [
          month,
          team,
          String(calls),
          String(sold),
          `${((sold / calls) * 100).toFixed(1)}%`,
          `0:0${3 + k}:1${i}`,
          revenue.toFixed(2),
          (revenue / sold).toFixed(2),
        ];
      }),
    ],
    totals: {
      "Calls Actual": 11_610,
      "Sales Actual": 1176,
      "Revenue Actual": sum(cross(MONTHS, [0, 1]).map(([, , i, k]) => (90 + i * 3 + k) * (49.9 + k))),
    },
    shown: { Calls: 2000, Sales: 211, Conversion: 211 / 2000 },
  },
  {
    name: "12: negatives as 1.234,56- in one column and (1,234.56) in another",
    currency: "USD",
    fileName: "Adjustments.csv",
    isComma: true,
    rows: [
      ["Month", "Cost centre", "Refunds", "Net sales"],
      ...cross(MONTHS, ["K1", "K2"]).map(([month, centre, i, k]) => [
        month,
        centre,
        `${comma(1234.56 + i)}-`,
        `($1,${String(234 + 10 * k)}.56)`,
      ]),
    ],
    totals: {
      "Refunds Actual": -sum(cross(MONTHS, [0, 1]).map(([, , i]) => 1234.56 + i)),
      "Net sales Actual": -sum(cross(MONTHS, [0, 1]).map(([, , , k]) => 1234.56 + 10 * k)),
    },
  },
  {
    name: "13: several currencies in a column",
    fileName: "Country sales.csv",
    rows: [
      ["Month", "Country", "Currency", "Sales"],
      ...cross(MONTHS, [
        ["DE", "EUR"],
        ["US", "USD"],
      ]).map(([month, [country, currency], i]) => [month, country!, currency!, String(1000 + i)]),
    ],
    stopped:
      /6 lines are in another currency than the company's, and there is no rate for the month: “USD in January 2026”/,
  },
  {
    name: "16: periods that are no months",
    fileName: "Periods.csv",
    rows: [
      ["Period", "Cost centre", "Amount"],
      ["P01", "A", "10"],
      ["P02", "A", "20"],
      ["P13", "A", "30"],
    ],
    stopped: /names periods without a year \(P01\)/,
  },
  {
    name: "16: weeks",
    fileName: "Weeks.csv",
    rows: [
      ["Week", "Cost centre", "Amount"],
      ["2026-W01", "A", "10"],
      ["2026-W02", "A", "20"],
    ],
    stopped: /names weeks \(2026-W01\), and months are needed/,
  },
  {
    name: "17: a survey, with nothing to add up",
    fileName: "Survey.csv",
    rows: [
      ["Gender", "Satisfied", "Would recommend", "Comment"],
      ...Array.from({ length: 20 }, (_, i) => [
        i % 2 ? "f" : "m",
        String(1 + (i % 5)),
        String(1 + ((i * 3) % 5)),
        "fine",
      ]),
    ],
    stopped: /Satisfied is a mark or an answer by its values/,
  },
];
