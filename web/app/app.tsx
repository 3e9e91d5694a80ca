import { QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { createBrowserRouter, RouterProvider } from "react-router";
import { LoadsPage } from "../data/loads-page.tsx";
import { PackPage } from "../packs/pack-page.tsx";
import { FirstPack } from "../packs/first-pack.tsx";
import { NotFound } from "./not-found.tsx";
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
      { index: true, element: <FirstPack /> },
      { path: "packs/:pack", element: <FirstPack /> },
      { path: "packs/:pack/:page", element: <PackPage /> },
      { path: "loads", element: <LoadsPage /> },
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
