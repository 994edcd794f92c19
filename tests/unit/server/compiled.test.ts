/** What modules were compiled to at the build: used where it fits, and never in place of a module that is another by now. */
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildSync } from "esbuild";

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "cuchara-compiled-"));
  buildSync({
    stdin: {
      contents: `import { useCompiled } from "./src/server/compiled";
        import { createRequire } from "node:module";
        useCompiled(process.argv[2] === "keep");
        createRequire(__filename)("./program.cjs");`,
      resolveDir: process.cwd(),
      loader: "ts",
    },
    bundle: true,
    platform: "node",
    outfile: join(folder, "start.cjs"),
  });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const write = (name: string, text: string) => writeFileSync(join(folder, name), text);
const keptAt = () => join(folder, "compiled.bin");
const run = (...args: string[]) => {
  const { stdout, stderr, status } = spawnSync(process.execPath, [join(folder, "start.cjs"), ...args], {
    encoding: "utf8",
  });
  expect({ stderr, status }).toEqual({ stderr: "", status: 0 });
  return stdout.trim();
};

test("a program says the same compiled anew, kept, changed since, and with kept code that is broken", () => {
  write("other.cjs", "exports.twice = (value) => 2 * value; exports.here = [__filename, __dirname, module.id].length;");
  write(
    "program.cjs",
    `const { twice, here } = require("./other.cjs");
     import("./later.mjs").then(({ later }) => console.log(twice(21), here, later, this === module.exports, require.resolve("./other.cjs") in require.cache));`,
  );
  write("later.mjs", "export const later = 'later';");
  const says = "42 3 later true true";
  expect(run()).toBe(says);
  expect(run("keep")).toBe(says);
  const index = readFileSync(keptAt()).subarray(4).toString("latin1");
  expect(index).toContain("other.cjs");
  // What it loads while it runs would be lost: that module is compiled as ever.
  expect(index.slice(0, index.indexOf("]]"))).not.toContain("program.cjs");
  expect(run()).toBe(says);

  // Same length, other text.
  write("other.cjs", "exports.twice = (value) => 3 * value; exports.here = [__filename, __dirname, module.id].length;");
  expect(run()).toBe("63 3 later true true");

  const bytes = readFileSync(keptAt());
  for (const broken of [bytes.subarray(0, 30), bytes.fill(7, bytes.length >> 1), Buffer.from("x")]) {
    writeFileSync(keptAt(), broken);
    expect(run()).toBe("63 3 later true true");
  }
});
