/** The architecture's arrows: app -> services -> store, core, catalog, devices; devices -> core; store -> core; catalog -> core; core -> nothing; no place -> another place. */
const only = (from, allowed) => ({
  name: `${from}-imports-only-${allowed.join("-") || "itself"}`,
  severity: "error",
  from: { path: `^${from}/`, pathNot: "\\.test\\.tsx?$" },
  to: { path: "^(core|catalog|store|services|app|workers|devices|scripts|judge|e2e)/", pathNot: `^(${[from, ...allowed].join("|")})/` },
});
/** Rooms inside core/trace: each looks down only. */
const room = (from, allowed) => ({
  name: `trace-${from}-looks-down`,
  severity: "error",
  from: { path: `^core/trace/${from}/`, pathNot: "\\.test\\.ts$" },
  to: { path: "^core/trace/", pathNot: `^core/trace/(${[from, ...allowed].join("|")})/` },
});
module.exports = {
  forbidden: [
    room("model", []),
    room("light", ["model"]),
    room("belief", ["model", "light"]),
    room("asking", ["model", "light", "belief"]),
    room("time", ["model", "light"]),
    only("core", []),
    only("catalog", ["core"]),
    only("store", ["core"]),
    only("devices", ["core"]),
    only("workers", ["services", "store", "core", "catalog"]),
    only("judge", ["core", "catalog", "store", "services", "app", "scripts", "e2e"]),
    only("services", ["store", "core", "catalog", "devices"]),
    {
      name: "app-imports-services-core-and-catalog",
      severity: "error",
      comment: "Only the server, which opens the store and keeps the door, knows there is one.",
      from: { path: "^app/", pathNot: "\\.test\\.tsx?$|^app/server/" },
      to: { path: "^(store|workers|devices|scripts|judge|e2e)/" },
    },
    {
      name: "no-place-to-another",
      severity: "error",
      comment: "What two places need is a service or a part of app/ui.",
      from: { path: "^app/([^/]+)/", pathNot: "\\.test\\.tsx?$|^app/(ui|server)/" },
      to: { path: "^app/[^/]+/", pathNot: "^app/(ui|server|$1)/" },
    },
    {
      name: "parts-know-no-place",
      severity: "error",
      from: { path: "^app/(ui|server)/", pathNot: "\\.test\\.tsx?$" },
      to: { path: "^app/[^/]+/", pathNot: "^app/(ui|server)/" },
    },
    {
      name: "services-have-no-screen",
      severity: "error",
      comment: "No React and no HTTP below the screens.",
      from: { path: "^(services|store)/" },
      to: { path: "node_modules/(react|react-dom|react-router|antd|express)/" },
    },
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
    { name: "no-circles", severity: "error", from: { pathNot: "^catalog/subjects/" }, to: { circular: true } },
    {
      name: "subjects-know-each-other-by-id-alone",
      severity: "error",
      comment:
        "What a fault names (a check, a repair) is a key of what the subjects hold together: a circle of types, and of nothing else.",
      from: { path: "^catalog/subjects/" },
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
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
