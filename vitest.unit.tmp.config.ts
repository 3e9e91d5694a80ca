import { defineConfig } from "vitest/config";
export default defineConfig({ test: { include: ["{core,contract,web}/**/*.test.{ts,tsx}"], setupFiles: ["core/testing/seed.ts"], isolate: false } });
