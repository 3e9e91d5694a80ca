import { QueryClientProvider } from "@tanstack/react-query";
import { useEffect, type ComponentType } from "react";
import { createBrowserRouter, Navigate, type LoaderFunctionArgs, type Params } from "react-router";
import { RouterProvider } from "react-router/dom";
import { ALWAYS_ASKED, VIEWS, type View, type ViewCode } from "#contract/views.ts";
import { askAhead } from "../client/ask-ahead.ts";
import { NotFound } from "./not-found.tsx";
import { createQueryClient } from "../client/query-client.ts";
import { useTheme } from "./settings.ts";
import { Shell } from "./shell.tsx";
import { SignInPage } from "./sign-in-page.tsx";
import { Start } from "./start.tsx";

/** What is asked of the server, and its answers. */
export const client = createQueryClient();

/** The code of each view, which comes when the view is first opened. */
const CODE: Readonly<Record<ViewCode, () => Promise<ComponentType>>> = {
  "home/home-page.tsx": async () => (await import("../home/home-page.tsx")).HomePage,
  "packs/packs-page.tsx": async () => (await import("../packs/packs-page.tsx")).PacksPage,
  "packs/first-pack.tsx": async () => (await import("../packs/first-pack.tsx")).FirstPack,
  "packs/pack-page.tsx": async () => (await import("../packs/pack-page.tsx")).PackPage,
  "workbench/workbench-page.tsx": async () => (await import("../workbench/workbench-page.tsx")).WorkbenchPage,
  "loads/loads-page.tsx": async () => (await import("../loads/loads-page.tsx")).LoadsPage,
  "drafts/draft-page.tsx": async () => (await import("../drafts/draft-page.tsx")).DraftPage,
  "loads/load-page.tsx": async () => (await import("../loads/load-page.tsx")).LoadPage,
  "kpis/library-page.tsx": async () => (await import("../kpis/library-page.tsx")).LibraryPage,
  "kpis/language-page.tsx": async () => (await import("../kpis/language-page.tsx")).LanguagePage,
  "kpis/kpi-page.tsx": async () => (await import("../kpis/kpi-page.tsx")).KpiPage,
  "versions/versions-page.tsx": async () => (await import("../versions/versions-page.tsx")).VersionsPage,
  "feeds/feeds-page.tsx": async () => (await import("../feeds/feeds-page.tsx")).FeedsPage,
  "export/export-page.tsx": async () => (await import("../export/export-page.tsx")).ExportPage,
  "companies/company-page.tsx": async () => (await import("../companies/company-page.tsx")).CompanyPage,
  "structure/accounts-page.tsx": async () => (await import("../structure/accounts-page.tsx")).AccountsPage,
  "structure/members-page.tsx": async () => (await import("../structure/members-page.tsx")).MembersPage,
  "structure/calendar-page.tsx": async () => (await import("../structure/calendar-page.tsx")).CalendarPage,
};

/** What a view asks for beyond its first questions, once those are answered. */
const ASK_ON: { readonly [Code in ViewCode]?: typeof askPageAt } = { "packs/pack-page.tsx": askPageAt };

async function askPageAt({ pack = "", page = "" }: Params, search: URLSearchParams): Promise<void> {
  await (await import("../packs/pack-page.tsx")).askPage(client, { pack, page }, search);
}

/**
 * The first view is drawn once, with its figures, where they come soon after the code; what is opened later is drawn at
 * once, and fills as the answers come.
 */
const patience = new Promise<void>((end) => setTimeout(end, 500));

async function soon(asked: Promise<unknown>): Promise<null> {
  await Promise.race([asked, patience]);
  return null;
}

function askFor(view: View, params: Params, search: URLSearchParams): Promise<unknown> {
  return Promise.all([askAhead(client, view.asks?.(params, search) ?? []), ASK_ON[view.code]?.(params, search)]);
}

const opening = <div role="status" aria-label="Hackle is opening" className="waiting m-6 h-6 max-w-96" />;

/** Every view comes when it is first opened; the frame around it is there meanwhile. */
const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInPage /> },
  {
    path: "/start",
    lazy: { Component: async () => (await import("../companies/start-page.tsx")).StartPage },
    hydrateFallbackElement: opening,
  },
  {
    path: "/",
    element: <Shell />,
    loader: () => soon(askAhead(client, ALWAYS_ASKED)),
    shouldRevalidate: () => false,
    hydrateFallbackElement: opening,
    children: [
      { index: true, element: <Start /> },
      ...VIEWS.map((view) => ({
        path: view.at,
        lazy: { Component: CODE[view.code] },
        loader: ({ params, request }: LoaderFunctionArgs) =>
          soon(askFor(view, params, new URL(request.url).searchParams)),
        shouldRevalidate: () => false,
      })),
      { path: "structure", element: <Navigate to="/structure/accounts" replace /> },
      { path: "*", element: <NotFound /> },
    ],
  },
]);

/** The application. */
export function App() {
  const theme = useTheme();
  useEffect(() => {
    document.documentElement.dataset["theme"] = theme;
  }, [theme]);
  return (
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  );
}
