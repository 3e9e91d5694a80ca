/** What may know of what between files, where a folder's name alone does not tell: no circles anywhere. */
export default {
  forbidden: [
    {
      name: "no-circles",
      comment:
        "Files that know of each other are one idea in two places, or two ideas in one: part them, or join them.",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "web/dist|parser" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "require", "node", "default"] },
  },
};
