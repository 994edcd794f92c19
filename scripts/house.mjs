/**
 * `npm run house`: when a room grows. Lines of every page's components, functions of more than `MOST_LINES` lines, and classes of the style
 * sheets that nobody wears.
 */
import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import ts from "typescript";
import { root } from "./prepare.mjs";

const MOST_LINES = 120;
const SHOWN = 20;

const files = (folder, pattern) =>
  readdirSync(join(root, folder), { recursive: true })
    .map((name) => join(root, folder, name))
    .filter((path) => pattern.test(path));

/** Every function of a source with its name and length in lines. */
function functionsOf(path) {
  const source = ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true);
  const found = [];
  const visit = (node, owner) => {
    const named = node.name?.getText(source) ?? owner;
    if (ts.isFunctionLike(node) && node.body) {
      const line = (at) => source.getLineAndCharacterOfPosition(at).line;
      found.push({ name: named, path, lines: line(node.end) - line(node.getStart(source)) + 1 });
    }
    ts.forEachChild(node, (child) => visit(child, named));
  };
  visit(source, "");
  return found;
}

const sources = files("src", /\.tsx?$/);
const functions = sources.flatMap(functionsOf).sort((a, b) => b.lines - a.lines);
const screens = files("src/ui", /\.tsx$/).map((path) => ({
  path,
  lines: readFileSync(path, "utf8").split("\n").length,
}));
const text = sources.map((path) => readFileSync(path, "utf8")).join("\n");

/** Classes a style sheet names, and whether anything in the sources does. */
function unworn(path) {
  const classes = new Set(
    [...readFileSync(path, "utf8").matchAll(/\.([a-zA-Z][\w-]*)(?=[^{}]*\{)/g)].map(([, name]) => name),
  );
  // Those of the component library belong to it.
  return [...classes].filter((name) => !name.startsWith("ant-") && !new RegExp(`\\b${name}\\b`).test(text));
}

const show = (title, rows) => console.log(`\n${title}\n${rows.length > 0 ? rows.join("\n") : "  none"}`);
const place = (path) => relative(root, path);
show(
  "Largest screens, lines",
  screens
    .sort((a, b) => b.lines - a.lines)
    .slice(0, SHOWN)
    .map(({ path, lines }) => `  ${String(lines).padStart(4)}  ${place(path)}`),
);
show(
  `Functions of more than ${MOST_LINES} lines`,
  functions
    .filter(({ lines }) => lines > MOST_LINES)
    .map(({ name, path, lines }) => `  ${String(lines).padStart(4)}  ${name || "(nameless)"}  ${place(path)}`),
);
show(
  "Classes that nobody wears",
  files("src/ui", /\.css$/).flatMap((path) => unworn(path).map((name) => `  .${name}  ${place(path)}`)),
);
