import { FRAME_KEYS, frameOfPage, readFrame } from "./frame-address.ts";
import { operationPath } from "./operation-path.ts";
import type { OperationArguments, OperationId } from "./operation-types.ts";

/** A question to the API. */
export type Question = { readonly [Id in OperationId]: readonly [Id, OperationArguments<Id>] }[OperationId];

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
  ["session", {}],
  ["packs", {}],
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
      ["home", {}],
      ["alerts", {}],
    ],
  },
  { at: "/packs", code: "packs/packs-page.tsx" },
  { at: "/packs/:pack", code: "packs/first-pack.tsx" },
  {
    at: "/packs/:pack/:page",
    code: "packs/pack-page.tsx",
    asks: ({ pack = "", page = "" }, search) => [
      ["pack", { params: { pack } }],
      ["frameChoices", { query: frameOfPage({ pack, page }, readFrame(search)) }],
    ],
  },
  { at: "/workbench", code: "workbench/workbench-page.tsx" },
  { at: "/loads", code: "data/loads-page.tsx", asks: () => [["loads", {}]] },
  {
    at: "/loads/files/:draft",
    code: "data/draft-page.tsx",
    asks: ({ draft = "" }) => [
      ["draft", { params: { draft: Number(draft) } }],
      ["structure", {}],
    ],
  },
  {
    at: "/loads/:load",
    code: "data/load-page.tsx",
    asks: ({ load = "" }) => [["load", { params: { load: Number(load) } }]],
  },
  { at: "/kpis", code: "kpis/library-page.tsx", asks: () => [["kpis", {}]] },
  { at: "/kpis/language", code: "kpis/language-page.tsx", asks: () => [["language", {}]] },
  {
    at: "/kpis/:kpi",
    code: "kpis/kpi-page.tsx",
    asks: ({ kpi = "" }) => [
      ["kpis", {}],
      ["language", {}],
      ["kpiHistory", { params: { kpi } }],
    ],
  },
  { at: "/versions", code: "versions/versions-page.tsx", asks: () => [["versions", {}]] },
  { at: "/feeds", code: "data/feeds-page.tsx", asks: () => [["feeds", {}]] },
  { at: "/export", code: "data/export-page.tsx", asks: () => [["exportable", {}]] },
  { at: "/company", code: "companies/company-page.tsx", asks: () => [["company", {}]] },
  { at: "/structure/accounts", code: "structure/accounts-page.tsx", asks: () => [["structure", {}]] },
  { at: "/structure/dimensions/:dimension", code: "structure/members-page.tsx", asks: () => [["structure", {}]] },
  { at: "/structure/calendar", code: "structure/calendar-page.tsx", asks: () => [["structure", {}]] },
]);

export type View = (typeof VIEWS)[number];
export type ViewCode = View["code"];

/**
 * The addresses of the API that a view asks for when it is opened. A page's figures are among them unless the address
 * says more than the frame: what is picked or chosen of a panel reaches some panels and not others, which only the
 * page itself tells.
 */
export function askedFirst(view: View, params: Params, search: URLSearchParams): string[] {
  const asked = [...ALWAYS_ASKED, ...(view.asks?.(params, search) ?? [])].map(([id, args]) =>
    operationPath(id, args as object),
  );
  const { pack, page } = params;
  const saysOnlyFrame = [...search.keys()].every((key) => (FRAME_KEYS as readonly string[]).includes(key));
  if (pack === undefined || page === undefined || !saysOnlyFrame) return asked;
  return [...asked, pageAnswersPath({ pack, page }, readFrame(search))];
}

/** The address of a page's figures as it stands: all of its panels, none with a choice. */
export function pageAnswersPath(place: { readonly pack: string; readonly page: string }, frame: object): string {
  return operationPath("pageAnswers", { params: place, query: { ...frame } });
}
