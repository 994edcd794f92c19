/** Findings of files for several tools: cold, unused, without an offset, cooled by another tool's fan. */
import { checkFile } from "@/core/checks/file";
import { lineOfPlace, layerOfPlace } from "@/core/findings/place";
import { readProgram } from "@/core/gcode/read";
import { readingOf } from "@/core/machine/reading";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf, Printer } from "@/core/shelf/printer";
import { printers } from "../helpers/demo";

const twoTools: Printer = { ...printers.find(({ tools }) => tools > 1)!, fanPerTool: true };

const square = (tool: number, z: number) =>
  [`T${tool}`, `G0 X${60 + tool * 40} Y60 Z${z} F6000`].concat(
    ["80 60", "80 80", "60 80", "60 60"].map((at) => {
      const [x, y] = at.split(" ").map(Number);
      return `G1 X${x + tool * 40} Y${y} E0.7 F1800`;
    }),
  );

function found(start: string[], printer: Printer = twoTools) {
  const body = [1, 2, 3].flatMap((n) => [...square(0, n * 0.2), ...square(1, n * 0.2)]);
  const text = [...start, "G28", "G90", "M83", ...body, "M104 S0 T0", "M104 S0 T1", "M107", "M84", ""].join("\n");
  const { report } = reportOf(readProgram(text, { reading: readingOf(printer) }), limitsFor(printer), headOf(printer));
  return checkFile(report, printer);
}

const heated = ["M104 T0 S210", "M104 T1 S210", "M109 T0 S210", "M109 T1 S210"];

test("a file that heats both tools has none of these findings", () => {
  expect(
    found(heated)
      .map(({ check }) => check)
      .filter((check) => check.startsWith("tool-")),
  ).toEqual([]);
});

test("the second tool that is never heated lays cold: a stop, with its line", () => {
  const finding = found(["M109 T0 S210"]).find(({ check }) => check === "cold-extrusion" || check === "tool-cold")!;
  expect(finding.severity).toBe("stop");
  expect(lineOfPlace(finding.where)).toBeGreaterThan(5);
  // Where the first lays cold too, both are said.
  const both = found([]).filter(({ check }) => check === "cold-extrusion" || check === "tool-cold");
  expect(both).toHaveLength(2);
  expect(both.map(({ message }) => /Tool 1/.test(message))).toContain(true);
});

test("a tool that is heated and never lays, an offset that is never said, and a fan that turns beside another tool", () => {
  const unused = found([...heated, "M104 T2 S200"], { ...twoTools, tools: 3 });
  expect(unused.find(({ check }) => check === "tool-unused")?.message).toContain("Tool 2");
  const asked = { ...twoTools, offsetsInProgram: true };
  expect(found(heated, asked).map(({ check }) => check)).toContain("tool-offset");
  expect(found([...heated, "M218 T1 X18 Y0"], asked).map(({ check }) => check)).not.toContain("tool-offset");
  const fan = found([...heated, "M106 P0 S255", "M106 P1 S0"]).find(({ check }) => check === "tool-fan");
  expect(fan?.message).toContain("Tool 1 lays material while its own fan stands still and fan 0 turns");
});

test("a report says what each tool lays in each layer, in files of several tools only", () => {
  const text = (tools: number[]) =>
    ["M109 S210", "G28", "G90", "M83", ...[1, 2].flatMap((n) => tools.flatMap((tool) => square(tool, n * 0.2)))].join(
      "\n",
    );
  const layersOf = (tools: number[]) => reportOf(readProgram(text(tools)), limitsFor(twoTools)).report.layers;
  expect(layersOf([0, 1])[0].tools).toEqual([
    [0, expect.closeTo(2.8, 6)],
    [1, expect.closeTo(2.8, 6)],
  ]);
  expect(layersOf([0])[0].tools).toBeUndefined();
});

test("a place leads to its line, else to its layer", () => {
  expect([lineOfPlace("line 1204"), lineOfPlace("layer 3 at 0.6 mm, line 77"), lineOfPlace("band 3")]).toEqual([
    1204,
    77,
    null,
  ]);
  expect([layerOfPlace("layer 3 at 0.6 mm"), layerOfPlace("line 7")]).toEqual([3, null]);
});
