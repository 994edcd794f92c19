/** The floor plan: one direction of dependence, app → ui → workers → core and app → server → core. */
const layer = (name, allowed) => ({
  name: `${name}-stays-in-its-place`,
  severity: "error",
  from: { path: `^src/${name}/` },
  to: { path: "^src/", pathNot: `^src/(${[name, ...allowed].join("|")})/` },
});

module.exports = {
  forbidden: [
    layer("core", []),
    layer("workers", ["core"]),
    layer("ui", ["workers", "core"]),
    layer("server", ["core"]),
    layer("app", ["ui", "server", "core"]),
    {
      name: "core-is-pure",
      comment: "The core is computation alone: no React, no Node, no browser packages.",
      severity: "error",
      from: { path: "^src/core/" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "core-uses-pure-libraries-only",
      severity: "error",
      from: { path: "^src/core/" },
      to: { path: "node_modules", pathNot: "node_modules/(zod|clipper-lib|mathjs)/" },
    },
    {
      name: "pages-have-no-server",
      severity: "error",
      from: { path: "^src/app/", pathNot: "^src/app/api/" },
      to: { path: "^src/server/" },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    { name: "nothing-unresolved", severity: "error", from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "types", "default"] },
  },
};
