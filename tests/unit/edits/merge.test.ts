/** Two files of one layer grid as one print: what each lays is what it laid, and everything between is as each file counts on it. */
import { layersAgree, MergedFile, mergeFiles } from "@/core/edits/merge-files";
import { readChunks, seeFile } from "@/core/edits/see-file";
import { checkFile } from "@/core/checks/file";
import { laysMaterial } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { toolsOfMoves } from "@/core/heightplan/proof";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf, Printer } from "@/core/shelf/printer";
import { Convention, conventions, pieceText } from "../helpers/conventions";
import { ladle, printers } from "../helpers/demo";
import { bytesOf, textOf } from "../helpers/programs";

const twoTools = printers.find(({ tools }) => tools > 1)!;

/** A piece somewhere else on the bed: every X is shifted, by a reader of its own. */
const shifted = (text: string, byMm: number) =>
  text.replace(/ X(-?[\d.]+)/g, (_, x: string) => ` X${(Number(x) + byMm).toFixed(3)}`);

function merged(name: string, text: string, tool: number): MergedFile {
  const bytes = bytesOf(text);
  const chunks = () => [bytes];
  const file = seeFile(readChunks(chunks(), twoTools), chunks, twoTools);
  return { name, tool, file, bytes: (from, to) => [bytes.subarray(from, to)] };
}

function whole(a: MergedFile, b: MergedFile, printer: Printer = twoTools): string {
  const pieces = mergeFiles([a, b], printer, { idleBelowC: 30, park: { x: 110, y: 20 } });
  if (!pieces.ok) throw new Error(pieces.message);
  return [...pieces.value].map(textOf).join("");
}

/** What is laid, tool by tool: places and filament. */
function laidBy(text: string): { tool: number; at: string; mm: number }[] {
  const tables = readProgram(text);
  const tools = toolsOfMoves(tables);
  const { moves } = tables;
  const laid: { tool: number; at: string; mm: number }[] = [];
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    const at = [moves.x[i - 1], moves.y[i - 1], moves.x[i], moves.y[i], moves.z[i]]
      .map((mm) => mm.toFixed(3))
      .join(" ");
    laid.push({ tool: tools[i], at, mm: moves.filamentMm[i] });
  }
  return laid;
}

const usable = conventions.filter(({ tools, inches, spiral }) => !tools && !inches && !spiral);
const pairs = usable.map((form, i): [string, Convention, Convention] => [
  `${form.name} with ${usable[(i + 1) % usable.length].name}`,
  form,
  usable[(i + 1) % usable.length],
]);

test.each(pairs.filter(([, a, b]) => !a.variable && !b.variable))("%s: each lays what it laid", (_, formA, formB) => {
  const [a, b] = [pieceText(formA), shifted(pieceText(formB), -40)];
  const text = whole(merged("a.gcode", a, 0), merged("b.gcode", b, 1));
  const all = laidBy(text);
  for (const [own, tool] of [
    [a, 0],
    [b, 1],
  ] as const) {
    const ofTool = all.filter((one) => one.tool === tool);
    const alone = laidBy(own);
    expect(ofTool.map(({ at }) => at)).toEqual(alone.map(({ at }) => at));
    const sum = (list: typeof all) => list.reduce((mm, one) => mm + one.mm, 0);
    expect(sum(ofTool)).toBeCloseTo(sum(alone), 2);
  }
  // One change a layer, and nothing left on, cold, or in the way.
  expect(text.match(/^T\d/gm)).toHaveLength(8);
  const { report } = reportOf(readProgram(text), limitsFor(twoTools), headOf(twoTools));
  expect(report.filament.map(({ tool }) => tool)).toEqual([0, 1]);
  const stops = checkFile(report, twoTools).filter(({ severity }) => severity === "stop");
  expect(stops).toEqual([]);
  expect(report.facts.leftOn.nozzles).toEqual([]);
});

test("a file that names its own tool at its start heats the tool that lays it", () => {
  const own = pieceText(conventions[0]).replace("M109", "T0\nM109");
  const text = whole(merged("a", own, 1), merged("b", shifted(pieceText(conventions[0]), -40), 0));
  const { report } = reportOf(readProgram(text), limitsFor(twoTools), headOf(twoTools));
  expect(checkFile(report, twoTools).filter(({ severity }) => severity === "stop")).toEqual([]);
  // Worked out by hand: what is named before the first layer is laid is tool 1, and it is waited for.
  const start = text.slice(0, text.search(/^G1 X[^\n]* E/m)).split("\n");
  expect(start.lastIndexOf("M109 S210 T1")).toBeGreaterThan(start.lastIndexOf("T0"));
});

test("the idle tool waits cooler, and is told its heat before it comes in", () => {
  const text = whole(
    merged("a", pieceText(conventions[0]), 0),
    merged("b", shifted(pieceText(conventions[0]), -40), 1),
  );
  const lines = text.split("\n");
  const early = lines.findIndex((line) => line === "M104 S210 T0 ; cuchara: told early");
  const back = lines.findIndex((line, i) => i > early && line === "M109 S210 T0");
  expect(early).toBeGreaterThan(0);
  expect(back).toBeGreaterThan(early);
  expect(text).toContain("M104 S180 T0");
});

test("files whose layers do not agree, or that need the same tool or one that is not there, are refused with the field", () => {
  const a = merged("a", pieceText(conventions[0]), 0);
  const b = merged("b", pieceText(conventions[0], { layerMm: 0.25 }), 1);
  expect(layersAgree(a.file, b.file)).toMatchObject({
    ok: false,
    message: expect.stringContaining("layer 1 is at 0.2 mm in one and at 0.25 mm in the other"),
  });
  const wish = { idleBelowC: 0, park: { x: 0, y: 0 } };
  expect(mergeFiles([a, { ...a, tool: 0 }], twoTools, wish)).toMatchObject({ ok: false, field: "tools" });
  expect(mergeFiles([a, { ...a, tool: 1 }], ladle, wish)).toMatchObject({ ok: false, field: "tools" });
  const two = merged("two tools", pieceText(conventions.find(({ tools }) => tools)!), 1);
  expect(mergeFiles([a, two], twoTools, wish)).toMatchObject({ ok: false, field: "with" });
});

test("a file that names its places anew, or counts in inches, lays where it laid, whatever the other counts in", () => {
  const plain = usable[0];
  // Named 10 mm off before anything is laid: what is called X 80 stands at 90.
  const named = (text: string) => {
    const at = text.search(/^(G1 )[^\n]*E/m);
    return `${text.slice(0, at)}G1 X10 Y0 F3000\nG92 X0\n${text.slice(at)}`;
  };
  const inches = conventions.find((form) => form.inches && !form.tools && !form.spiral)!;
  const own: [string, string][] = [
    [pieceText(plain), named(shifted(pieceText(plain), -40))],
    [named(pieceText(plain)), shifted(pieceText(plain), -40)],
    [shifted(pieceText(plain), -40), pieceText(inches)],
    [pieceText(inches), shifted(pieceText(plain), -40)],
  ];
  for (const [a, b] of own) {
    const all = laidBy(whole(merged("a.gcode", a, 0), merged("b.gcode", b, 1)));
    for (const [text, tool] of [
      [a, 0],
      [b, 1],
    ] as const) {
      expect(all.filter((one) => one.tool === tool).map(({ at }) => at)).toEqual(laidBy(text).map(({ at }) => at));
    }
  }
});
