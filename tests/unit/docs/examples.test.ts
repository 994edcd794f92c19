/** The examples beside the functions that people start from are run: what stands behind an arrow of a comment is what comes of it. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { bytesOf, textOf } from "../helpers/programs";
import { editable } from "../helpers/edits";
import { ladle, saffron, smallTrial } from "../helpers/demo";
import { sheetOf } from "../helpers/sheets";
import { spliceSet } from "@/core/edits/splices/gather";
import { readProgram } from "@/core/gcode/read";
import { freshState } from "@/core/machine/state";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { buildTrial } from "@/core/trials/build";

const root = join(__dirname, "../../../src/core");
const known = { bytesOf, textOf, editable, spliceSet, readProgram, freshState, limitsFor, reportOf, buildTrial };
const ring = { kind: "circle", centre: ["110", "110"], radiusMm: "20" };
const scope = {
  ...known,
  printer: ladle,
  spool: saffron,
  trial: smallTrial(),
  sheet: sheetOf([ring]),
  text: "M83\nG1 X9 Y9 Z0.2 F900\nG1 X60 E2\n",
};

interface Example {
  file: string;
  lines: string[];
}

const examples = (readdirSync(root, { recursive: true }) as string[])
  .filter((name) => name.endsWith(".ts"))
  .flatMap((file): Example[] =>
    [...readFileSync(join(root, file), "utf8").matchAll(/@example\n([\s\S]*?)(?=\n \* @|\n \*\/)/g)].map(
      ([, text]) => ({
        file,
        lines: text.split("\n").map((line) => line.replace(/^ \* ?/, "")),
      }),
    ),
  );

test("there is one beside every function that people start from", () => {
  expect(examples.length).toBeGreaterThanOrEqual(24);
});

test.each(examples.map(({ file, lines }) => [`${file}: ${lines.find((line) => !line.startsWith("//"))}`, file, lines]))(
  "%s",
  (_, file, lines) => {
    // eslint-disable-next-line @typescript-eslint/no-require-imports
    const own = require(join(root, file as string)) as Record<string, unknown>;
    const names = { ...scope, ...own };
    let asked = 0;
    const check = (is: unknown, wanted: unknown) => {
      asked++;
      expect(is).toEqual(wanted);
    };
    const body = (lines as string[]).map((line) => line.replace(/^(?!const |\/\/)(.*); \/\/ (.+)$/, "check($1, $2);"));
    // The examples are this project's own text.
    new Function(...Object.keys(names), "check", body.join("\n"))(...Object.values(names), check);
    expect(asked).toBeGreaterThan(0);
  },
);
