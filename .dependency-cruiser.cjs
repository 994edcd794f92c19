/** The floor plan: one direction of dependence, app → ui → workers → core and app → server → core. */
const layer = (name, allowed) => ({
  name: `${name}-stays-in-its-place`,
  severity: "error",
  from: { path: `^src/${name}/` },
  to: { path: "^src/", pathNot: `^src/(${[name, ...allowed].join("|")})/` },
});

/**
 * The rooms of the core, lowest first: each may use those above it in this list (lower in the house), none below it. Rooms on one line
 * do not know one another. `units.ts` and `result.ts` are everybody's.
 */
const rooms = [
  ["geometry", "material"],
  ["machine"],
  ["gcode"],
  ["shelf"],
  ["motion", "options", "laid", "trace"],
  ["printing"],
  ["settings"],
  ["firmware"],
  ["heightplan"],
  ["findings", "specimens", "reading"],
  ["report"],
  ["checks"],
  ["sheets"],
  ["edits", "trials"],
  ["simulator"],
  ["typed"],
  ["measure"],
  ["road", "values"],
  ["link"],
];
const roomRules = rooms.flatMap((floor, height) =>
  floor.map((room) => ({
    name: `core-${room}-uses-lower-rooms-only`,
    severity: "error",
    from: { path: `^src/core/${room}/` },
    to: {
      path: "^src/core/[^/]+/",
      pathNot: `^src/core/(${[room, ...rooms.slice(0, height).flat()].join("|")})/`,
    },
  })),
);

module.exports = {
  forbidden: [
    layer("core", []),
    ...roomRules,
    {
      name: "core-has-no-unlisted-rooms",
      comment: "A new room gets its place in the list above.",
      severity: "error",
      from: { path: "^src/core/[^/]+/", pathNot: `^src/core/(${rooms.flat().join("|")})/` },
      to: {},
    },
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
      name: "what-computes-brings-no-schemas",
      comment:
        "Schemas stand at the borders, each beside what it describes; a page that computes with the rest does without them.",
      severity: "error",
      from: { path: "^src/core/", pathNot: "(-schema\\.ts$|^src/core/edits/|^src/core/shelf/(name|figure)\\.ts$)" },
      to: {
        path: "(node_modules/zod/|-schema\\.ts$|^src/core/shelf/(name|figure)\\.ts$)",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "pages-fetch-schemas",
      comment: "The dialog of own lines is fetched itself.",
      severity: "error",
      from: { path: "^src/ui/", pathNot: "^src/ui/common/lines-dialog" },
      to: { path: "(node_modules/zod/|-schema\\.ts$)", dynamic: false, dependencyTypesNot: ["type-only"] },
    },
    {
      name: "pages-are-given-their-data-by-one-door",
      comment: "Server components hand the first data to a page; everything else a page asks for over HTTP.",
      severity: "error",
      from: { path: "^src/app/", pathNot: "^src/app/api/" },
      to: { path: "^src/server/", pathNot: "^src/server/work/pages\\.ts$" },
    },
    {
      name: "the-work-knows-no-http",
      comment: "What the server does, it does whoever asks: links, the database and the work know nothing of requests.",
      severity: "error",
      from: { path: "^src/server/(db|link|simulator|tasks|work)/" },
      to: { path: "^src/server/(http|front)/" },
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
