/** The architecture's arrows: app -> store, core, catalog; store -> core; catalog -> core; core -> nothing. */
const only = (from, allowed) => ({
  name: `${from}-imports-only-${allowed.join("-") || "itself"}`,
  severity: "error",
  from: { path: `^${from}/`, pathNot: "\\.test\\.tsx?$" },
  to: { path: "^(core|catalog|store|app|workers|devices|scripts|e2e)/", pathNot: `^(${[from, ...allowed].join("|")})/` },
});
module.exports = {
  forbidden: [
    only("core", []),
    only("catalog", ["core"]),
    only("store", ["core"]),
    only("app", ["store", "core", "catalog"]),
    {
      name: "core-is-pure",
      severity: "error",
      comment: "The core knows no interface, no Node and no database.",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["core", "npm"], pathNot: "node_modules/json-schema-to-ts" },
    },
    {
      name: "public-face-only",
      severity: "error",
      comment: "A core module is used through its index.",
      from: { path: "^core/([^/]+)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/[^/]+/(?!index\\.ts)", pathNot: "^core/$1/" },
    },
    { name: "no-circles", severity: "error", from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } } },
    {
      name: "resolvable",
      severity: "error",
      from: { pathNot: "^app/.*route\\.tsx$" },
      to: { couldNotResolve: true, pathNot: "\\+types|virtual:" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(build|\\.react-router)/|\\+types" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
      mainFields: ["module", "main", "types"],
    },
  },
};
