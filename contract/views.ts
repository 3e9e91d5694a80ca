import { COMPANY } from "./operations/company.ts";
import { DRAFTS } from "./operations/drafts.ts";
import { EXPORTS } from "./operations/exports.ts";
import { FEEDS } from "./operations/feeds.ts";
import { FIGURES } from "./operations/figures.ts";
import { HOME } from "./operations/home.ts";
import { KPIS } from "./operations/kpis.ts";
import { LOADS } from "./operations/loads.ts";
import { PACKS } from "./operations/packs.ts";
import { SESSION } from "./operations/session.ts";
import { STRUCTURE } from "./operations/structure.ts";
import { VERSIONS } from "./operations/versions.ts";
import { FRAME_KEYS, frameOfPage, readFrame } from "./frame-address.ts";
import { operationPath } from "./operations/operation.ts";
import type { OPERATIONS, OperationName } from "./operations/index.ts";
import type { ArgumentsOf } from "./operations/operation.ts";

/** A question to the API. */
export type Question = {
  readonly [Name in OperationName]: readonly [(typeof OPERATIONS)[Name], ArgumentsOf<(typeof OPERATIONS)[Name]>];
}[OperationName];

type Params = Readonly<Record<string, string | undefined>>;

interface ViewOf<Code extends string> {
  /** Its address, with parameters as ":pack". */
  readonly at: string;
  /** The file of the web client that draws it. */
  readonly code: Code;
  /** What it asks for before anything else, besides what every view asks for. */
  readonly asks?: (params: Params, search: URLSearchParams) => readonly Question[];
}

/** What every view of a signed-in person asks for. */
export const ALWAYS_ASKED: readonly Question[] = [
  [SESSION.session, {}],
  [PACKS.packs, {}],
];

/** Makes sure of the type without giving up the names of the files. */
const viewsOf = <Code extends string>(views: readonly ViewOf<Code>[]) => views;

/**
 * The client's views: the client draws them at these addresses, and the server tells a browser with the document which
 * code and which answers it will need, so that all of it comes at once.
 */
export const VIEWS = viewsOf([
  {
    at: "/home",
    code: "home/home-page.tsx",
    asks: () => [
      [HOME.home, {}],
      [HOME.alerts, {}],
    ],
  },
  { at: "/packs", code: "packs/packs-page.tsx" },
  { at: "/packs/:pack", code: "packs/first-pack.tsx" },
  {
    at: "/packs/:pack/:page",
    code: "packs/pack-page.tsx",
    asks: ({ pack = "", page = "" }, search) => [
      [PACKS.pack, { params: { pack } }],
      [FIGURES.frameChoices, { query: frameOfPage({ pack, page }, readFrame(search)) }],
    ],
  },
  { at: "/workbench", code: "workbench/workbench-page.tsx" },
  { at: "/loads", code: "loads/loads-page.tsx", asks: () => [[LOADS.loads, {}]] },
  {
    at: "/loads/files/:draft",
    code: "drafts/draft-page.tsx",
    asks: ({ draft = "" }) => [
      [DRAFTS.draft, { params: { draft: Number(draft) } }],
      [STRUCTURE.structure, {}],
    ],
  },
  {
    at: "/loads/:load",
    code: "loads/load-page.tsx",
    asks: ({ load = "" }) => [[LOADS.load, { params: { load: Number(load) } }]],
  },
  { at: "/kpis", code: "kpis/library-page.tsx", asks: () => [[KPIS.kpis, {}]] },
  { at: "/kpis/language", code: "kpis/language-page.tsx", asks: () => [[KPIS.language, {}]] },
  {
    at: "/kpis/:kpi",
    code: "kpis/kpi-page.tsx",
    asks: ({ kpi = "" }) => [
      [KPIS.kpis, {}],
      [KPIS.language, {}],
      [KPIS.kpiHistory, { params: { kpi } }],
    ],
  },
  { at: "/versions", code: "versions/versions-page.tsx", asks: () => [[VERSIONS.versions, {}]] },
  { at: "/feeds", code: "feeds/feeds-page.tsx", asks: () => [[FEEDS.feeds, {}]] },
  { at: "/export", code: "export/export-page.tsx", asks: () => [[EXPORTS.exportable, {}]] },
  { at: "/company", code: "companies/company-page.tsx", asks: () => [[COMPANY.company, {}]] },
  { at: "/structure/accounts", code: "structure/accounts-page.tsx", asks: () => [[STRUCTURE.structure, {}]] },
  {
    at: "/structure/dimensions/:dimension",
    code: "structure/members-page.tsx",
    asks: () => [[STRUCTURE.structure, {}]],
  },
  { at: "/structure/calendar", code: "structure/calendar-page.tsx", asks: () => [[STRUCTURE.structure, {}]] },
]);

export type View = (typeof VIEWS)[number];
export type ViewCode = View["code"];

/**
 * The addresses of the API that a view asks for when it is opened. A page's figures are among them unless the address
 * says more than the frame: what is picked or chosen of a panel reaches some panels and not others, which only the
 * page itself tells.
 */
export function askedFirst(view: View, params: Params, search: URLSearchParams): string[] {
  const asked = [...ALWAYS_ASKED, ...(view.asks?.(params, search) ?? [])].map(([operation, args]) =>
    operationPath(operation, args as object),
  );
  const { pack, page } = params;
  const saysOnlyFrame = [...search.keys()].every((key) => (FRAME_KEYS as readonly string[]).includes(key));
  if (pack === undefined || page === undefined || !saysOnlyFrame) return asked;
  return [...asked, pageAnswersPath({ pack, page }, readFrame(search))];
}

/** The address of a page's figures as it stands: all of its panels, none with a choice. */
export function pageAnswersPath(place: { readonly pack: string; readonly page: string }, frame: object): string {
  return operationPath(FIGURES.pageAnswers, { params: place, query: { ...frame } });
}
