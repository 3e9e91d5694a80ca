import { HEALTH } from "./health.ts";
import { LOBBY } from "./lobby.ts";
import { SESSION } from "./session.ts";
import { COMPANY } from "./company.ts";
import { PEOPLE } from "./people.ts";
import { PACKS } from "./packs.ts";
import { FIGURES } from "./figures.ts";
import { VERSIONS } from "./versions.ts";
import { EVENTS } from "./events.ts";
import { LOADS } from "./loads.ts";
import { DRAFTS } from "./drafts.ts";
import { STRUCTURE } from "./structure.ts";
import { HOME } from "./home.ts";
import { KPIS } from "./kpis.ts";
import { TOKENS } from "./tokens.ts";
import { EXPORTS } from "./exports.ts";
import { FEEDS } from "./feeds.ts";

/** Every operation of the API, in areas. */
export const OPERATIONS = {
  ...HEALTH,
  ...LOBBY,
  ...SESSION,
  ...COMPANY,
  ...PEOPLE,
  ...PACKS,
  ...FIGURES,
  ...VERSIONS,
  ...EVENTS,
  ...LOADS,
  ...DRAFTS,
  ...STRUCTURE,
  ...HOME,
  ...KPIS,
  ...TOKENS,
  ...EXPORTS,
  ...FEEDS,
};

/** The name of an operation of the API. */
export type OperationName = keyof typeof OPERATIONS;
