/** What a route is like: its traffic in an average month, its prices and who sails it. */
export interface RouteProfile {
  readonly key: string;
  readonly area: string;
  readonly port: string;
  /** Passengers on an average day. */
  readonly passengersPerDay: number;
  readonly sailingsPerDay: number;
  /** Average passenger and vehicle fare in FY24, in euros. */
  readonly passengerFare: number;
  readonly vehicleFare: number;
  /** Vehicles per passenger. */
  readonly vehicleRate: number;
  /** Freight units on an average day and their price in FY24, in euros. */
  readonly freightPerDay: number;
  readonly freightPrice: number;
  readonly litresPerSailing: number;
  readonly vessels: readonly string[];
}

/** The nine routes. */
export const ROUTES: readonly RouteProfile[] = [
  {
    key: "quillhaven-tarn-point",
    area: "skerry-sound",
    port: "quillhaven-port",
    passengersPerDay: 1620,
    sailingsPerDay: 6,
    passengerFare: 19.5,
    vehicleFare: 42,
    vehicleRate: 0.26,
    freightPerDay: 44,
    freightPrice: 176,
    litresPerSailing: 2350,
    vessels: ["sandpiper", "whimbrel"],
  },
  {
    key: "quillhaven-merrow-isle",
    area: "skerry-sound",
    port: "quillhaven-port",
    passengersPerDay: 980,
    sailingsPerDay: 4,
    passengerFare: 16,
    vehicleFare: 35,
    vehicleRate: 0.2,
    freightPerDay: 12,
    freightPrice: 148,
    litresPerSailing: 1500,
    vessels: ["turnstone"],
  },
  {
    key: "tarn-point-osk",
    area: "skerry-sound",
    port: "quillhaven-port",
    passengersPerDay: 540,
    sailingsPerDay: 3,
    passengerFare: 14,
    vehicleFare: 31,
    vehicleRate: 0.3,
    freightPerDay: 9,
    freightPrice: 139,
    litresPerSailing: 1180,
    vessels: ["kittiwake"],
  },
  {
    key: "port-ambel-lissa-bank",
    area: "lantern-bay",
    port: "ambel-port",
    passengersPerDay: 1340,
    sailingsPerDay: 4,
    passengerFare: 27,
    vehicleFare: 58,
    vehicleRate: 0.28,
    freightPerDay: 38,
    freightPrice: 205,
    litresPerSailing: 3600,
    vessels: ["razorbill", "old-curlew"],
  },
  {
    key: "port-ambel-crane-key",
    area: "lantern-bay",
    port: "ambel-port",
    passengersPerDay: 760,
    sailingsPerDay: 3,
    passengerFare: 22,
    vehicleFare: 47,
    vehicleRate: 0.22,
    freightPerDay: 14,
    freightPrice: 171,
    litresPerSailing: 2200,
    vessels: ["fulmar"],
  },
  {
    key: "lissa-bank-hollin",
    area: "lantern-bay",
    port: "ambel-port",
    passengersPerDay: 420,
    sailingsPerDay: 2,
    passengerFare: 24,
    vehicleFare: 52,
    vehicleRate: 0.31,
    freightPerDay: 11,
    freightPrice: 182,
    litresPerSailing: 2450,
    vessels: ["eider"],
  },
  {
    key: "vardel-isenholm",
    area: "northreach",
    port: "vardel-port",
    passengersPerDay: 880,
    sailingsPerDay: 2,
    passengerFare: 38,
    vehicleFare: 79,
    vehicleRate: 0.33,
    freightPerDay: 46,
    freightPrice: 286,
    litresPerSailing: 6900,
    vessels: ["gannet", "petrel"],
  },
  {
    key: "vardel-grey-ness",
    area: "northreach",
    port: "vardel-port",
    passengersPerDay: 470,
    sailingsPerDay: 2,
    passengerFare: 33,
    vehicleFare: 70,
    vehicleRate: 0.29,
    freightPerDay: 22,
    freightPrice: 254,
    litresPerSailing: 4700,
    vessels: ["skua"],
  },
  {
    key: "isenholm-fallow-strand",
    area: "northreach",
    port: "vardel-port",
    passengersPerDay: 290,
    sailingsPerDay: 2,
    passengerFare: 21,
    vehicleFare: 44,
    vehicleRate: 0.34,
    freightPerDay: 8,
    freightPrice: 168,
    litresPerSailing: 1750,
    vessels: ["petrel"],
  },
];

/** The vessel sold in FY26, and the first month (as "2025-10") without it. */
export const SOLD_VESSEL = { key: "old-curlew", goneFrom: "2025-10" } as const;
