import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** What operations are for is said in the API's description, which the server writes; a browser has no use for it. */
const withoutSummaries: Plugin = {
  name: "without-summaries",
  enforce: "pre",
  transform: (code, id) =>
    id.endsWith("/contract/operations.ts") ? code.replace(/\bsummary:\s*"(?:[^"\\]|\\.)*"/g, 'summary: ""') : undefined,
};

export default defineConfig({
  root: "web",
  plugins: [withoutSummaries, react(), tailwind()],
  build: { outDir: "dist", emptyOutDir: true, chunkSizeWarningLimit: 900 },
});
