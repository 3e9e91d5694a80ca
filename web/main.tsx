import "@fontsource-variable/source-sans-3";
import "@fontsource-variable/source-serif-4";
import "./ui/styles.css";
import "./client/schemas.ts";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App, client } from "./shell/app.tsx";
import { fetchCodeWhenIdle } from "./shell/fetch-when-idle.ts";

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);

if (import.meta.env.PROD) fetchCodeWhenIdle(() => client.isFetching() > 0);
