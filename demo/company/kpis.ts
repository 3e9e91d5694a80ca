import type { KpiDefinition } from "#core/kpis/kpi.ts";

const base = { decimals: 0, direction: "higher", tolerance: { kind: "percent", percent: 1 }, owner: "Maren Holt", fallbackBasis: null } as const;

/** Quillhaven's KPI library. */
export const KPIS: readonly KpiDefinition[] = [
  { ...base, key: "total_revenue", name: "Revenue", formula: "revenue", unit: { kind: "money" }, description: "All income from carrying passengers, vehicles and freight, on board and from services." },
  { ...base, key: "operating_result", name: "Operating result", formula: "revenue - operating_costs - depreciation", unit: { kind: "money" }, tolerance: { kind: "percent", percent: 2 }, description: "Revenue less operating costs and depreciation, before interest and tax." },
  { ...base, key: "operating_margin", name: "Operating margin", formula: "operating_result / total_revenue", unit: { kind: "percent" }, decimals: 1, tolerance: { kind: "points", points: 0.3 }, description: "Operating result as a share of revenue." },
  { ...base, key: "net_result", name: "Net result", formula: "operating_result - interest - income_tax", unit: { kind: "money" }, tolerance: { kind: "percent", percent: 2 }, description: "What remains after interest and income tax." },
  { ...base, key: "tickets", name: "Ticket revenue", formula: "ticket_revenue", unit: { kind: "money" }, description: "Passenger and vehicle fares and booking fees." },
  { ...base, key: "freight", name: "Freight revenue", formula: "freight_revenue", unit: { kind: "money" }, description: "Carriage of freight units with surcharges." },
  { ...base, key: "freight_price", name: "Freight price", formula: "freight_revenue / freight_units", unit: { kind: "money-per", per: "freight unit" }, decimals: 2, description: "Freight revenue divided by units carried." },
  { ...base, key: "onboard_spend", name: "On-board spend", formula: "onboard_revenue / passengers", unit: { kind: "money-per", per: "passenger" }, decimals: 2, fallbackBasis: "target", description: "Restaurant, shop and cabin upgrades divided by passengers." },
  { ...base, key: "passenger_count", name: "Passengers", formula: "passengers", unit: { kind: "count", of: "passengers" }, description: "Passengers with a ticket, from the ledger's statistics." },
  { ...base, key: "costs", name: "Operating costs", formula: "operating_costs", unit: { kind: "money" }, direction: "lower", description: "All costs of operating, without depreciation." },
  { ...base, key: "fuel", name: "Fuel", formula: "fuel_cost", unit: { kind: "money" }, direction: "lower", owner: "Jon Askeland", description: "Marine fuel and lubricants." },
  { ...base, key: "fuel_share", name: "Fuel in revenue", formula: "fuel_cost / revenue", unit: { kind: "percent" }, decimals: 1, direction: "lower", tolerance: { kind: "points", points: 0.3 }, owner: "Jon Askeland", description: "Fuel as a share of revenue." },
  { ...base, key: "crew", name: "Crew", formula: "crew_cost", unit: { kind: "money" }, direction: "lower", description: "Wages, social charges and travel of the crews." },
  { ...base, key: "overtime", name: "Port overtime", formula: "port_overtime", unit: { kind: "money" }, direction: "lower", tolerance: { kind: "amount", amount: 15_000 }, owner: "Jon Askeland", description: "Overtime in the ports. Inside € 15 thousand of the basis it counts as on plan, over any span." },
  { ...base, key: "maintenance", name: "Maintenance", formula: "maintenance_cost", unit: { kind: "money" }, direction: "lower", tolerance: { kind: "percent", percent: 2 }, owner: "Jon Askeland", description: "Planned maintenance, repairs and dry docking." },
  { ...base, key: "advertising_spend", name: "Advertising", formula: "advertising", unit: { kind: "money" }, direction: "lower", tolerance: { kind: "percent", percent: 2 }, description: "Campaigns and media." },
  { ...base, key: "on_time_rate", name: "On-time rate", formula: "sailings_on_time / sailings_planned", unit: { kind: "percent" }, decimals: 1, tolerance: { kind: "points", points: 0.5 }, owner: "Jon Askeland", fallbackBasis: "target", description: "Sailings that left within 15 minutes of schedule, of those planned. A cancelled sailing is not on time." },
  { ...base, key: "load_factor", name: "Load factor", formula: "passengers_carried / seats_offered", unit: { kind: "percent" }, decimals: 1, tolerance: { kind: "points", points: 0.5 }, owner: "Jon Askeland", fallbackBasis: "target", description: "Passengers carried as a share of seats offered." },
  { ...base, key: "complaint_rate", name: "Complaints", formula: "complaints / passengers_carried * 10000", unit: { kind: "ratio", of: "per 10,000" }, decimals: 1, direction: "lower", tolerance: { kind: "percent", percent: 5 }, owner: "Jon Askeland", description: "Complaints for every 10,000 passengers carried." },
  { ...base, key: "cancelled", name: "Cancelled sailings", formula: "sailings_cancelled", unit: { kind: "count", of: "sailings" }, direction: "lower", tolerance: { kind: "percent", percent: 5 }, owner: "Jon Askeland", description: "Planned sailings that did not leave." },
  { ...base, key: "cash_position", name: "Cash", formula: "closing(cash)", unit: { kind: "money" }, tolerance: { kind: "percent", percent: 2 }, description: "Cash at the end of the span." },
  { ...base, key: "people", name: "Headcount", formula: "closing(headcount)", unit: { kind: "count", of: "people" }, direction: "neutral", description: "People employed at the end of the span." },
];
