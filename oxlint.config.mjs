import { defineConfig } from "oxlint";

const TESTS = ["**/*.test.{ts,tsx}", "**/*.sweep.ts"];

/** Arrows run one way: web → contract ← server, both → core; demo → core and contract; launch, e2e and bench put things together. */
const FORBIDDEN = {
  core: ["contract", "server", "web", "demo", "launch", "e2e", "bench", "testing"],
  contract: ["server", "web", "demo", "launch", "e2e", "bench", "testing"],
  server: ["web", "demo", "launch", "e2e", "bench", "testing"],
  web: ["server", "demo", "launch", "e2e", "bench", "testing"],
  demo: ["server", "web", "launch", "e2e", "bench", "testing"],
};

/**
 * Folders inside one of the house's, lowest first: each may know of those before it; those of one rank may know of each
 * other. What core makes of files stands beside what it makes of figures for pages: neither knows of the other.
 */
const RANKS = {
  core: [
    // Base: what everything is counted and written in.
    ["collections", "calendar"],
    ["figures", "statistics", "layout", "history"],
    "formats",
    // The model of a company.
    ["accounts", "dimensions"],
    ["formula", "structure"],
    "kpis",
    // Figures.
    "cube",
    ["currency", "forecast"],
    ["compare", "series", "ahead"],
    // What people see of them.
    "words",
    "frame",
    "panels",
    ["workbench", "alerts", "provenance"],
  ],
  server: [
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
  ],
};

const pattern = (/** @type {readonly string[]} */ folders, /** @type {string} */ message) => ({
  regex: `^(#|(\\.\\./)+)(${folders.join("|")})/`,
  message,
});

const outside = (/** @type {keyof typeof FORBIDDEN} */ folder) => [
  pattern(FORBIDDEN[folder], `${folder} must not know of ${FORBIDDEN[folder].join(", ")}.`),
  ...(folder === "core"
    ? [{ regex: "^(node:|react|express|knex|pg|d3)", message: "core is pure: no Node, database or interface." }]
    : []),
];

const arrows = Object.keys(FORBIDDEN).map((folder) => ({
  files: [`${folder}/**/*.{ts,tsx}`],
  excludeFiles: TESTS,
  rules: {
    "no-restricted-imports": ["error", { patterns: outside(/** @type {keyof typeof FORBIDDEN} */ (folder)) }],
  },
}));

/** What of core makes rows of files: on figures, and beside what pages are made of. */
const INTAKE = ["reading", "tidy", "mapping", "checks"];
const PRESENT = ["words", "frame", "panels", "workbench", "alerts", "provenance"];

const ranks = Object.entries({ ...RANKS, intake: INTAKE }).flatMap(([list, folders]) => {
  const house = list === "intake" ? "core" : list;
  return folders.flatMap((rank, place) => {
    const beyond = house !== "core" ? [] : list === "intake" ? PRESENT : INTAKE;
    const above = [...folders.slice(place + 1).flat(), ...beyond];
    if (above.length === 0) return [];
    return [rank].flat().map((folder) => ({
      files: [`${house}/${folder}/**/*.{ts,tsx}`],
      excludeFiles: TESTS,
      rules: {
        "no-restricted-imports": [
          "error",
          {
            patterns: [
              ...outside(/** @type {keyof typeof FORBIDDEN} */ (house)),
              {
                regex: `^(#${house}/|(\\.\\./)+)(${above.join("|")})/`,
                message: `${house}/${folder} stands below or beside ${above.join(", ")} and must not know of them.`,
              },
            ],
          },
        ],
      },
    }));
  });
});

export default defineConfig({
  plugins: ["eslint", "typescript", "oxc", "react", "jsx-a11y", "import", "unicorn"],
  categories: { correctness: "error" },
  options: { typeAware: true, typeCheck: true, reportUnusedDisableDirectives: "error" },
  ignorePatterns: ["node_modules/", "web/dist/", ".hackle/", "core/formula/grammar/parser*.ts", "test-results/"],
  env: { node: true, browser: true },
  rules: {
    // Files that know of each other, be it of types only, are one idea in two places, or two ideas in one.
    "import/no-cycle": ["error", { ignoreTypes: false }],
    "no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
    "typescript/consistent-type-imports": "error",
    eqeqeq: "error",
    // `new Array(n)` makes room that is filled at once; `then` is a branch of a formula and of a promise alike.
    "unicorn/no-new-array": "off",
    "unicorn/no-thenable": "off",
    "no-console": "error",
  },
  overrides: [
    {
      files: ["core/**/*.ts"],
      excludeFiles: ["**/*.test.ts"],
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
    {
      files: ["web/**/*.tsx"],
      rules: {
        // Keys are heard where they bubble to; what is clicked must be a control.
        "jsx-a11y/no-static-element-interactions": ["error", { handlers: ["onClick", "onMouseDown", "onMouseUp"] }],
        "jsx-a11y/no-noninteractive-element-interactions": ["error", { handlers: ["onClick", "onMouseDown"] }],
        // What scrolls by itself is reached with the keyboard.
        "jsx-a11y/no-noninteractive-tabindex": ["error", { roles: ["region", "img", "grid"], tags: [] }],
        // A grid is walked by keys and shows what is in sight only: a table's own roles do not say so.
        "jsx-a11y/prefer-tag-over-role": "off",
        "jsx-a11y/no-redundant-roles": "off",
        "jsx-a11y/no-interactive-element-to-noninteractive-role": "off",
        "jsx-a11y/no-noninteractive-element-to-interactive-role": "off",
        // Cells that hold nothing are no controls.
        "jsx-a11y/control-has-associated-label": "off",
        // Where something opens because it was asked for, the focus goes there.
        "jsx-a11y/no-autofocus": "off",
      },
    },
    {
      files: [...TESTS, "testing/**"],
      rules: {
        "typescript/unbound-method": "off",
        "typescript/no-misused-spread": "off",
        "typescript/await-thenable": "off",
      },
    },
    { files: ["launch/**", "e2e/**", "bench/**"], rules: { "no-console": "off" } },
    ...arrows,
    ...ranks,
  ],
});
