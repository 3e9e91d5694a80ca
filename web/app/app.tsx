import { QueryClientProvider } from "@tanstack/react-query";
import { useEffect } from "react";
import { createBrowserRouter, Navigate } from "react-router";
import { RouterProvider } from "react-router/dom";
import { frameOfPage, readFrame } from "../frame/frame-params.ts";
import { askAhead } from "./ask-ahead.ts";
import { NotFound } from "./not-found.tsx";
import { createQueryClient } from "./query-client.ts";
import { useTheme } from "./settings.ts";
import { Shell } from "./shell.tsx";
import { SignInPage } from "./sign-in-page.tsx";
import { Start } from "./start.tsx";

const client = createQueryClient();

/** Every page comes when it is first opened; the frame around it is there meanwhile. */
const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInPage /> },
  {
    path: "/start",
    lazy: { Component: async () => (await import("../companies/start-page.tsx")).StartPage },
    hydrateFallbackElement: <div role="status" aria-label="Hackle is opening" className="waiting m-6 h-6 max-w-96" />,
  },
  {
    path: "/",
    element: <Shell />,
    loader: () => askAhead(client, []),
    shouldRevalidate: () => false,
    hydrateFallbackElement: <div role="status" aria-label="Hackle is opening" className="waiting m-6 h-6 max-w-96" />,
    children: [
      { index: true, element: <Start /> },
      { path: "home", lazy: { Component: async () => (await import("../home/home-page.tsx")).HomePage } },
      { path: "packs", lazy: { Component: async () => (await import("../packs/packs-page.tsx")).PacksPage } },
      { path: "packs/:pack", lazy: { Component: async () => (await import("../packs/first-pack.tsx")).FirstPack } },
      {
        path: "packs/:pack/:page",
        lazy: { Component: async () => (await import("../packs/pack-page.tsx")).PackPage },
        loader: ({ params: { pack = "", page = "" }, request }) => {
          const query = frameOfPage({ pack, page }, readFrame(new URL(request.url).searchParams));
          return askAhead(client, [
            ["pack", { params: { pack } }],
            ["frameChoices", { query }],
          ]);
        },
        shouldRevalidate: () => false,
      },
      {
        path: "workbench",
        lazy: { Component: async () => (await import("../workbench/workbench-page.tsx")).WorkbenchPage },
      },
      { path: "loads", lazy: { Component: async () => (await import("../data/loads-page.tsx")).LoadsPage } },
      {
        path: "loads/files/:draft",
        lazy: { Component: async () => (await import("../data/draft-page.tsx")).DraftPage },
      },
      { path: "loads/:load", lazy: { Component: async () => (await import("../data/load-page.tsx")).LoadPage } },
      { path: "kpis", lazy: { Component: async () => (await import("../kpis/library-page.tsx")).LibraryPage } },
      {
        path: "kpis/language",
        lazy: { Component: async () => (await import("../kpis/language-page.tsx")).LanguagePage },
      },
      { path: "kpis/:kpi", lazy: { Component: async () => (await import("../kpis/kpi-page.tsx")).KpiPage } },
      {
        path: "versions",
        lazy: { Component: async () => (await import("../versions/versions-page.tsx")).VersionsPage },
      },
      { path: "feeds", lazy: { Component: async () => (await import("../data/feeds-page.tsx")).FeedsPage } },
      { path: "export", lazy: { Component: async () => (await import("../data/export-page.tsx")).ExportPage } },
      { path: "company", lazy: { Component: async () => (await import("../companies/company-page.tsx")).CompanyPage } },
      { path: "structure", element: <Navigate to="/structure/accounts" replace /> },
      {
        path: "structure/accounts",
        lazy: { Component: async () => (await import("../structure/accounts-page.tsx")).AccountsPage },
      },
      {
        path: "structure/dimensions/:dimension",
        lazy: { Component: async () => (await import("../structure/members-page.tsx")).MembersPage },
      },
      {
        path: "structure/calendar",
        lazy: { Component: async () => (await import("../structure/calendar-page.tsx")).CalendarPage },
      },
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
