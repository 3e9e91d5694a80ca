import { defineConfig } from "eslint/config";
import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

/** Arrows run one way: web → contract ← server, both → core; demo → core and contract; launch, e2e and bench put things together. */
const FORBIDDEN = {
  core: ["contract", "server", "web", "demo", "launch", "e2e", "bench"],
  contract: ["server", "web", "demo", "launch", "e2e", "bench"],
  server: ["web", "demo", "launch", "e2e", "bench"],
  web: ["server", "demo", "launch", "e2e", "bench"],
  demo: ["server", "web", "launch", "e2e", "bench"],
};

/** @type {import("eslint").Linter.Config[]} */
const arrows = Object.entries(FORBIDDEN).map(([folder, others]) => ({
  files: [`${folder}/**/*.{ts,tsx}`],
  ignores: ["**/*.test.ts"],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            regex: `^(#|(\\.\\./)+)(${others.join("|")})/`,
            message: `${folder} must not know of ${others.join(", ")}.`,
          },
          ...(folder === "core"
            ? [
                {
                  regex: "^(node:|react|express|knex|pg|d3|zod)",
                  message: "core is pure: no Node, database or interface.",
                },
              ]
            : []),
        ],
      },
    ],
  },
}));

export default defineConfig(
  { ignores: ["node_modules/", "web/dist/", ".hackle/", "core/formula/grammar/parser*.ts", "test-results/"] },
  js.configs.recommended,
  ...ts.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: {
        projectService: { allowDefaultProject: ["eslint.config.js"] },
        tsconfigRootDir: import.meta.dirname,
      },
      globals: globals.node,
    },
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/restrict-template-expressions": "off",
      "@typescript-eslint/no-unused-expressions": ["error", { allowTernary: true }],
      "@typescript-eslint/consistent-type-imports": "error",
      eqeqeq: "error",
      "no-console": "error",
    },
  },
  {
    files: ["core/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-globals": [
        "error",
        "process",
        "window",
        "document",
        "fetch",
        "setTimeout",
        "setInterval",
        "performance",
        "crypto",
        "console",
        "Date",
      ],
      "no-restricted-properties": [
        "error",
        { object: "Math", property: "random", message: "core has no randomness without a seed." },
      ],
    },
  },
  { files: ["web/**/*.{ts,tsx}"], ...reactHooks.configs.flat.recommended },
  { files: ["launch/**", "e2e/**", "bench/**"], rules: { "no-console": "off" } },
  { files: ["**/*.mjs", "**/*.js"], ...ts.configs.disableTypeChecked },
  ...arrows,
);
