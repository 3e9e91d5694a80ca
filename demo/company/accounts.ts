import type { Account, AccountKind, AccountUnit, TimeBehaviour } from "#core/accounts/account.ts";

const MONEY: AccountUnit = { kind: "money" };

interface Branch {
  readonly key: string;
  readonly name: string;
  readonly children?: readonly Branch[];
}

const leaf = (key: string, name: string): Branch => ({ key, name });
const branch = (key: string, name: string, ...children: readonly Branch[]): Branch => ({ key, name, children });

function flatten(kind: AccountKind, behaviour: TimeBehaviour, root: Branch, parent: string | null = null): Account[] {
  return [
    { key: root.key, name: root.name, parent, kind, behaviour, unit: MONEY, decimals: 2 },
    ...(root.children ?? []).flatMap((child) => flatten(kind, behaviour, child, root.key)),
  ];
}

const statistic = (
  key: string,
  name: string,
  of: string,
  behaviour: TimeBehaviour = "flow",
  decimals = 0,
): Account => ({ key, name, parent: null, kind: "statistic", behaviour, unit: { kind: "count", of }, decimals });

/** The statistics that come from daily operations rather than from the ledger. */
export const OPERATIONS_ACCOUNTS: readonly Account[] = [
  statistic("sailings_planned", "Sailings planned", "sailings"),
  statistic("sailings", "Sailings", "sailings"),
  statistic("sailings_cancelled", "Cancelled sailings", "sailings"),
  statistic("sailings_on_time", "On-time sailings", "sailings"),
  statistic("seats_offered", "Seats offered", "seats"),
  statistic("lane_metres_offered", "Lane metres offered", "lane metres"),
  statistic("passengers_carried", "Passengers carried", "passengers"),
  statistic("vehicles_carried", "Vehicles carried", "vehicles"),
  statistic("fuel_litres", "Fuel used", "litres"),
  statistic("complaints", "Complaints", "complaints"),
];

/** Quillhaven's chart of accounts; every amount is positive in its account's own direction. */
export const ACCOUNTS: readonly Account[] = [
  ...flatten(
    "income",
    "flow",
    branch(
      "revenue",
      "Revenue",
      branch(
        "ticket_revenue",
        "Ticket revenue",
        leaf("passenger_fares", "Passenger fares"),
        leaf("vehicle_fares", "Vehicle fares"),
        leaf("booking_fees", "Booking fees"),
      ),
      branch(
        "freight_revenue",
        "Freight revenue",
        leaf("freight_carriage", "Freight carriage"),
        leaf("freight_surcharges", "Freight surcharges"),
      ),
      branch(
        "onboard_revenue",
        "On-board revenue",
        leaf("restaurant_sales", "Restaurant sales"),
        leaf("shop_sales", "Shop sales"),
        leaf("cabin_upgrades", "Cabin upgrades"),
      ),
      branch(
        "other_revenue",
        "Other revenue",
        leaf("charter_revenue", "Charter revenue"),
        leaf("port_services", "Port services"),
      ),
    ),
  ),
  ...flatten(
    "expense",
    "flow",
    branch(
      "operating_costs",
      "Operating costs",
      branch("fuel_cost", "Fuel", leaf("marine_fuel", "Marine fuel"), leaf("lubricants", "Lubricants")),
      branch(
        "crew_cost",
        "Crew",
        leaf("crew_wages", "Crew wages"),
        leaf("crew_social", "Crew social charges"),
        leaf("crew_travel", "Crew travel"),
      ),
      branch(
        "port_cost",
        "Ports",
        leaf("port_dues", "Port dues"),
        leaf("port_handling", "Port handling"),
        leaf("port_overtime", "Port overtime"),
      ),
      branch(
        "maintenance_cost",
        "Maintenance",
        leaf("planned_maintenance", "Planned maintenance"),
        leaf("repairs", "Repairs"),
        leaf("dry_docking", "Dry docking"),
      ),
      branch(
        "onboard_cost",
        "On-board costs",
        leaf("food_and_drink", "Food and drink"),
        leaf("shop_goods", "Shop goods"),
      ),
      branch(
        "commercial_cost",
        "Commercial costs",
        leaf("advertising", "Advertising"),
        leaf("sales_commission", "Sales commission"),
        leaf("call_centre", "Call centre"),
      ),
      branch(
        "administration_cost",
        "Administration",
        leaf("office_salaries", "Office salaries"),
        leaf("system_licences", "System licences"),
        leaf("insurance", "Insurance"),
      ),
    ),
  ),
  ...flatten(
    "expense",
    "flow",
    branch(
      "depreciation",
      "Depreciation",
      leaf("vessel_depreciation", "Vessel depreciation"),
      leaf("equipment_depreciation", "Equipment depreciation"),
    ),
  ),
  ...flatten("expense", "flow", leaf("interest", "Interest")),
  ...flatten("expense", "flow", leaf("income_tax", "Income tax")),
  ...flatten(
    "asset",
    "balance",
    branch(
      "assets",
      "Assets",
      leaf("cash", "Cash"),
      leaf("receivables", "Receivables"),
      leaf("fleet_and_equipment", "Fleet and equipment"),
    ),
  ),
  ...flatten(
    "liability",
    "balance",
    branch("liabilities", "Liabilities", leaf("payables", "Payables"), leaf("debt", "Debt")),
  ),
  ...flatten("equity", "balance", leaf("equity", "Equity")),
  statistic("headcount", "Headcount", "people", "balance"),
  statistic("full_time_equivalents", "Full-time equivalents", "full-time equivalents", "balance", 1),
  statistic("passengers", "Passengers", "passengers"),
  statistic("freight_units", "Freight units", "freight units"),
  ...OPERATIONS_ACCOUNTS,
];
