import { defineConfig } from "eslint/config";
import js from "@eslint/js";
import accessibility from "eslint-plugin-jsx-a11y-x";
import reactHooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

const TESTS = ["**/*.test.{ts,tsx}", "**/*.sweep.ts"];

/** Arrows run one way: web → contract ← server, both → core; demo → core and contract; launch, e2e and bench put things together. */
const FORBIDDEN = {
  core: ["contract", "server", "web", "demo", "launch", "e2e", "bench", "testing"],
  contract: ["server", "web", "demo", "launch", "e2e", "bench", "testing"],
  server: ["web", "demo", "launch", "e2e", "bench", "testing"],
  web: ["server", "demo", "launch", "e2e", "bench", "testing"],
  demo: ["server", "web", "launch", "e2e", "bench", "testing"],
};

const forbid = (/** @type {string} */ folder, /** @type {readonly string[]} */ others) => ({
  regex: `^(#|(\\.\\./)+)(${others.join("|")})/`,
  message: `${folder} must not know of ${others.join(", ")}.`,
});

/** The server's folders, lowest first: each may know of those before it. */
const SERVER = [
  "problems",
  "csv",
  "db",
  "work",
  "access",
  "facts",
  "history",
  "packs",
  "engine",
  "kpis",
  "structure",
  "intake",
  "feeds",
  "export",
  "home",
  "http",
];

/** @type {import("eslint").Linter.Config[]} */
const serverArrows = SERVER.slice(0, -1).map((folder, place) => ({
  files: [`server/${folder}/**/*.ts`],
  ignores: TESTS,
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          forbid("server", FORBIDDEN.server),
          {
            regex: `^(#server|(\\.\\./)+)/?(${SERVER.slice(place + 1).join("|")})/`,
            message: `server/${folder} stands below ${SERVER.slice(place + 1).join(", ")} and must not know of them.`,
          },
        ],
      },
    ],
  },
}));

/** @type {import("eslint").Linter.Config[]} */
const arrows = Object.entries(FORBIDDEN).map(([folder, others]) => ({
  files: [`${folder}/**/*.{ts,tsx}`],
  ignores: TESTS,
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          forbid(folder, others),
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
        project: ["tsconfig.json"],
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
  // Where components and hooks are: the rules compile what they read.
  {
    files: ["web/**/*.{ts,tsx}"],
    ignores: [...TESTS, "web/**/layout*.ts", "web/**/shape.ts", "web/packs/editing/**"],
    ...reactHooks.configs.flat.recommended,
  },
  {
    files: ["web/**/*.tsx"],
    ...accessibility.configs.recommended,
    rules: {
      ...accessibility.configs.recommended.rules,
      // Keys are heard where they bubble to; what is clicked must be a control.
      "jsx-a11y-x/no-static-element-interactions": ["error", { handlers: ["onClick", "onMouseDown", "onMouseUp"] }],
      "jsx-a11y-x/no-noninteractive-element-interactions": ["error", { handlers: ["onClick", "onMouseDown"] }],
      // What scrolls by itself is reached with the keyboard.
      "jsx-a11y-x/no-noninteractive-tabindex": ["error", { roles: ["region"], tags: [] }],
      // Where something opens because it was asked for, the focus goes there.
      "jsx-a11y-x/no-autofocus": "off",
    },
  },
  { files: ["launch/**", "e2e/**", "bench/**"], rules: { "no-console": "off" } },
  // What only types show in a test is found by the compiler, or by the test failing.
  { files: ["**/*.mjs", "**/*.js", ...TESTS], ...ts.configs.disableTypeChecked },
  ...arrows,
  ...serverArrows,
);
