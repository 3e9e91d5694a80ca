import { defineConfig } from "vitest/config";

const seeded = { setupFiles: ["core/testing/seed.ts"], testTimeout: 300_000, hookTimeout: 300_000 };

/** Pure tests run together in one place; those of pages in a document of their own, those on a database each in their own. */
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        extends: true,
        test: {
          ...seeded,
          setupFiles: [...seeded.setupFiles, "core/testing/written.ts"],
          name: "unit",
          include: ["{core,contract,web,demo}/**/*.test.ts", "server/**/*.unit.test.ts"],
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          ...seeded,
          setupFiles: [...seeded.setupFiles, "core/testing/written.ts", "testing/clean-page.ts"],
          name: "pages",
          isolate: false,
          include: ["web/**/*.test.tsx"],
          environment: "happy-dom",
        },
      },
      {
        extends: true,
        test: {
          ...seeded,
          name: "server",
          include: ["server/**/*.test.ts"],
          exclude: ["server/**/*.unit.test.ts"],
          isolate: false,
          globalSetup: "testing/sample-database.ts",
        },
      },
      {
        extends: true,
        test: {
          ...seeded,
          name: "sweep",
          include: ["server/**/*.sweep.ts"],
          globalSetup: "testing/sample-database.ts",
        },
      },
      {
        extends: true,
        test: {
          ...seeded,
          name: "launch",
          include: ["launch/**/*.test.ts"],
          // Products that start and stop again make nothing ready that nobody asks for.
          env: { HACKLE_READY_MONTHS: "0" },
        },
      },
    ],
  },
});
