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

/** What of our own most pages have in common. */
const SHELL = /\/(contract|core|web\/(app|ui|frame))\//;

/** Packages that every page stands on. */
const BASE =
  /node_modules\/(react|react-dom|scheduler|react-router|@tanstack\/(react-query|query-core)|zustand|zod|use-sync-external-store)\//;

export default defineConfig({
  root: "web",
  plugins: [withoutSummaries, react(), tailwind()],
  build: {
    outDir: "dist",
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // What every page stands on comes in one piece, which stays the same when our own code changes.
        codeSplitting: {
          groups: [
            { name: "base", test: BASE },
            { name: "shell", test: SHELL, minShareCount: 8 },
          ],
        },
      },
    },
  },
});
