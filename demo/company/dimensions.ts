import { monthOf } from "#core/calendar/month.ts";
import type { Dimension, Member } from "#core/dimensions/dimension.ts";

const tree = (spec: Readonly<Record<string, readonly string[]>>): Member[] =>
  Object.entries(spec).flatMap(([parent, children]) => [
    { key: keyOf(parent), name: parent, parent: null },
    ...children.map((name) => ({ key: keyOf(name), name, parent: keyOf(parent) })),
  ]);

const flat = (names: readonly string[]): Member[] => names.map((name) => ({ key: keyOf(name), name, parent: null }));

function keyOf(name: string): string {
  return name.toLowerCase().replace(/[^a-z]+/g, "-");
}

/** The nine home markets of the passengers, by ISO 3166 code so that they can be put on a map. */
export const HOME_MARKETS = [
  { key: "nl", name: "Netherlands", share: 0.24 },
  { key: "de", name: "Germany", share: 0.21 },
  { key: "be", name: "Belgium", share: 0.12 },
  { key: "fr", name: "France", share: 0.11 },
  { key: "dk", name: "Denmark", share: 0.1 },
  { key: "se", name: "Sweden", share: 0.08 },
  { key: "no", name: "Norway", share: 0.06 },
  { key: "pl", name: "Poland", share: 0.05 },
  { key: "ie", name: "Ireland", share: 0.03 },
] as const;

/** Quillhaven's dimensions, top level first. */
export const DIMENSIONS: readonly Dimension[] = [
  {
    key: "route",
    name: "Route",
    plural: "routes",
    levels: ["Sea area", "Route"],
    members: tree({
      "Skerry Sound": ["Quillhaven–Tarn Point", "Quillhaven–Merrow Isle", "Tarn Point–Osk"],
      "Lantern Bay": ["Port Ambel–Lissa Bank", "Port Ambel–Crane Key", "Lissa Bank–Hollin"],
      Northreach: ["Vardel–Isenholm", "Vardel–Grey Ness", "Isenholm–Fallow Strand"],
    }),
  },
  {
    key: "service",
    name: "Service line",
    plural: "service lines",
    levels: ["Service line"],
    // Charters were given up in the autumn of FY26.
    members: flat(["Passengers", "Vehicles", "Freight", "On board", "Charter"]).map((member) =>
      member.name === "Charter" ? { ...member, lastMonth: monthOf(2025, 9) } : member,
    ),
  },
  {
    key: "cost-centre",
    name: "Cost centre",
    plural: "cost centres",
    levels: ["Department", "Cost centre"],
    members: tree({
      Fleet: ["Fleet operations", "Deck crew", "Engine crew", "Hotel crew"],
      Ports: ["Quillhaven port", "Ambel port", "Vardel port"],
      Commercial: ["Sales", "Marketing", "Customer service"],
      Maintenance: ["Workshop", "Dry dock"],
      "Head office": ["Finance", "Systems"],
    }),
  },
  {
    key: "vessel",
    name: "Vessel",
    plural: "vessels",
    levels: ["Vessel"],
    members: flat([
      "Sandpiper",
      "Whimbrel",
      "Turnstone",
      "Kittiwake",
      "Razorbill",
      "Fulmar",
      "Eider",
      "Gannet",
      "Skua",
      "Petrel",
      "Old Curlew",
      // Sold at the end of September 2025.
    ]).map((member) => (member.name === "Old Curlew" ? { ...member, lastMonth: monthOf(2025, 9) } : member)),
  },
  {
    key: "home-market",
    name: "Home market",
    plural: "home markets",
    levels: ["Country"],
    members: HOME_MARKETS.map(({ key, name }) => ({ key, name, parent: null })),
  },
];
