import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,contract,server,web,demo,launch}/**/*.test.ts"],
    globalSetup: "launch/testing/sample-database.ts",
    setupFiles: ["core/testing/seed.ts"],
    testTimeout: 300_000,
    hookTimeout: 300_000,
    maxWorkers: 2,
  },
});
