import { QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { DraftPage } from "../data/draft-page.tsx";
import { ExportPage } from "../data/export-page.tsx";
import { FeedsPage } from "../data/feeds-page.tsx";
import { LoadPage } from "../data/load-page.tsx";
import { LoadsPage } from "../data/loads-page.tsx";
import { KpiPage } from "../kpis/kpi-page.tsx";
import { LanguagePage } from "../kpis/language-page.tsx";
import { LibraryPage } from "../kpis/library-page.tsx";
import { PackPage } from "../packs/pack-page.tsx";
import { FirstPack } from "../packs/first-pack.tsx";
import { AccountsPage } from "../structure/accounts-page.tsx";
import { CalendarPage } from "../structure/calendar-page.tsx";
import { MembersPage } from "../structure/members-page.tsx";
import { NotFound } from "./not-found.tsx";
import { HomePage } from "../home/home-page.tsx";
import { createQueryClient } from "./query-client.ts";
import { useTheme } from "./settings.ts";
import { Shell } from "./shell.tsx";
import { SignInPage } from "./sign-in-page.tsx";

const router = createBrowserRouter([
  { path: "/sign-in", element: <SignInPage /> },
  {
    path: "/",
    element: <Shell />,
    children: [
      { index: true, element: <Navigate to="/home" replace /> },
      { path: "home", element: <HomePage /> },
      { path: "packs/:pack", element: <FirstPack /> },
      { path: "packs/:pack/:page", element: <PackPage /> },
      { path: "loads", element: <LoadsPage /> },
      { path: "loads/files/:draft", element: <DraftPage /> },
      { path: "loads/:load", element: <LoadPage /> },
      { path: "kpis", element: <LibraryPage /> },
      { path: "kpis/language", element: <LanguagePage /> },
      { path: "kpis/:kpi", element: <KpiPage /> },
      { path: "feeds", element: <FeedsPage /> },
      { path: "export", element: <ExportPage /> },
      { path: "structure", element: <Navigate to="/structure/accounts" replace /> },
      { path: "structure/accounts", element: <AccountsPage /> },
      { path: "structure/dimensions/:dimension", element: <MembersPage /> },
      { path: "structure/calendar", element: <CalendarPage /> },
      { path: "*", element: <NotFound /> },
    ],
  },
]);

/** The application. */
export function App() {
  const [client] = useState(createQueryClient);
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
