import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { relative } from "node:path";
import { constants } from "node:zlib";
import { defineConfig, type Plugin } from "vite";
import { compression } from "vite-plugin-compression2";

/** What operations are for is said in the API's description, which the server writes; a browser has no use for it. */
const withoutSummaries: Plugin = {
  name: "without-summaries",
  enforce: "pre",
  transform: (code, id) =>
    id.includes("/contract/operations/") ? code.replace(/\bsummary:\s*"(?:[^"\\]|\\.)*"/g, 'summary: ""') : undefined,
};

/** What is there before any page is: everything that the entry stands on. */
const SHELL = /\/web\/main\.tsx$/;

/** What a page of a pack is read with, but for kinds of panels that bring much code and stand on few pages. */
const READING = /\/web\/(packs\/pack-page|panels\/(?!map|cross-tab|accuracy)[a-z-]+\/panel)\.tsx$/;

/** Packages that every page stands on. */
const BASE =
  /rolldown\/runtime|node_modules\/(react|react-dom|scheduler|react-router|@tanstack\/(react-query|query-core)|zustand|zod|use-sync-external-store)\//;

/**
 * Writes down what each file that is fetched by itself needs: `entry` for the client's own beginning, and for each view
 * the pieces of code it stands on; the server tells browsers so with the document.
 */
const neededPieces: Plugin = {
  name: "needed-pieces",
  generateBundle(_options, bundle) {
    const chunks = Object.values(bundle).filter((piece) => piece.type === "chunk");
    const byFile = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
    const withImports = (file: string, into = new Set<string>()) => {
      if (!into.has(file)) {
        into.add(file);
        for (const imported of byFile.get(file)?.imports ?? []) withImports(imported, into);
      }
      return into;
    };
    const pieces: Record<string, string[]> = {};
    for (const { fileName, moduleIds, isEntry } of chunks) {
      if (isEntry) pieces["entry"] = [...withImports(fileName)];
      for (const id of moduleIds)
        if (this.getModuleInfo(id)?.dynamicImporters.length) pieces[relative("web", id)] = [...withImports(fileName)];
    }
    const fonts = Object.keys(bundle).filter((file) => file.endsWith(".woff2"));
    this.emitFile({ type: "asset", fileName: "pieces.json", source: JSON.stringify({ pieces, fonts }) });
  },
};

/** Each file is packed once, as tightly as it can be, rather than for each browser. */
const packed = compression({
  include: /\.(js|css|svg)$/,
  algorithms: [["brotliCompress", { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } }]],
});

export default defineConfig({
  root: "web",
  plugins: [withoutSummaries, react(), tailwind(), neededPieces, packed],
  build: {
    outDir: "dist",
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      checks: { pluginTimings: false },
      output: {
        // Few pieces, so that a first view is few requests; packages stay the same when our own code changes.
        codeSplitting: {
          groups: [
            { name: "base", test: BASE, priority: 3 },
            { name: "shell", test: SHELL, priority: 2 },
            { name: "reading", test: READING, priority: 1 },
            // What several other views have in common, rather than a piece for each pair of them.
            { name: "shared", test: /\/(web|core|contract)\//, minShareCount: 2 },
          ],
        },
      },
    },
  },
});
