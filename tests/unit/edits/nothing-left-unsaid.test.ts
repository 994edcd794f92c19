/** What edits and checks say of files, where they once said nothing, or what was not so. */
import { checkFile } from "@/core/checks/file";
import { Edit, editsSchema } from "@/core/edits";
import { mergeFiles } from "@/core/edits/merge-files";
import { readChunks, seeFile } from "@/core/edits/see-file";
import { readProgram } from "@/core/gcode/read";
import { findBridges } from "@/core/laid/over-air";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import type { Printer } from "@/core/shelf/printer";
import { interpret } from "../helpers/beads";
import { conventions, pieceText } from "../helpers/conventions";
import { ladle } from "../helpers/demo";
import { edited, proved, tryEdits } from "../helpers/edits";
import { twoTools } from "../helpers/edit-samples";
import { bytesOf, textOf } from "../helpers/programs";
import { slicedIn } from "../helpers/sliced-habits";

const parsed = (edit: object): Edit[] => editsSchema.parse([edit]);
const MM_PER_MM = 0.0338;

/** Solid lines along X in layers of 0.2 mm, 0.45 mm apart: the spans of each layer. */
function lines(
  layers: number,
  spansOf: (layer: number) => [number, number][],
  across: (layer: number) => boolean,
  offsetOf: (layer: number) => number = () => 0,
  hasWalls = false,
): string {
  const text = ["M104 S215", "M109 S215", "G28", "G90", "M83"];
  for (let layer = 1; layer <= layers; layer++) {
    text.push(`; layer ${layer}`);
    for (const [from, to] of spansOf(layer)) {
      // A wall at each end, across the lines.
      for (const x of hasWalls && layer < layers ? [from, to] : []) {
        text.push(
          `G0 X${x} Y100 Z${(layer * 0.2).toFixed(2)} F6000`,
          `G1 X${x} Y110 E${(10 * MM_PER_MM).toFixed(4)} F1500`,
        );
      }
      const count = across(layer) ? Math.round((to - from) / 0.45) : 22;
      for (let n = 0; n <= count; n++) {
        const at = across(layer) ? from + 0.225 + 0.45 * n : 100 + 0.45 * n + offsetOf(layer);
        if (across(layer) && at > to) break;
        const [a, b] = across(layer)
          ? [`X${at.toFixed(3)} Y100`, `X${at.toFixed(3)} Y110`]
          : [`X${from} Y${at.toFixed(3)}`, `X${to} Y${at.toFixed(3)}`];
        const mm = across(layer) ? 10 : to - from;
        text.push(`G0 ${a} Z${(layer * 0.2).toFixed(2)} F6000`, `G1 ${b} E${(mm * MM_PER_MM).toFixed(4)} F1500`);
      }
    }
  }
  return [...text, "M104 S0", ""].join("\n");
}

describe("a deck over two posts", () => {
  const deck = (gapMm: number, postMm: number) => (layer: number) =>
    layer > 8
      ? ([[80, 80 + 2 * postMm + gapMm]] as [number, number][])
      : ([
          [80, 80 + postMm],
          [80 + postMm + gapMm, 80 + 2 * postMm + gapMm],
        ] as [number, number][]);

  test.each([
    ["filled along the strands", false],
    ["filled across them", true],
  ])("posts %s: all strands are found", (_, isAcross) => {
    // The strands lie over the seams of the lines below them.
    const half = (layer: number) => (layer > 8 ? 0.225 : 0);
    const text = lines(9, deck(30, 8), (layer) => isAcross && layer <= 8, half, true);
    const found = findBridges(readProgram(text));
    expect(found.map(({ layer, stretches }) => [layer, stretches.length])).toEqual([[8, 23]]);
    // The gap as it was written, but for the roundness of the beads at its edges.
    // The outermost strand over seams has a line on one side only.
    const spans = found[0].stretches.map(({ spanMm }) => spanMm);
    expect(spans.filter((mm) => mm > 29 && mm < 30.5).length).toBeGreaterThanOrEqual(22);
  });

  test.each([8, 12, 16])(
    "lines of which a gap of %d mm is the smaller part are said to be left as they are",
    (gapMm) => {
      const text = lines(10, deck(gapMm, 10), () => false);
      const tried = tryEdits(text, parsed({ kind: "bridges", cooler: 0, layers: [{ feedPercent: 50 }] }));
      expect(tried).toMatchObject({
        ok: false,
        message: expect.stringMatching(/23 lines hang over air .* in layer 9 on/),
      });
    },
  );
});

test("the fan over strands goes back before what lies beside the next ones, and a second tool's waits are as much cooler", () => {
  // A deck over two posts, and the layer above it: a frame round it comes first.
  const posts: [number, number][] = [
    [80, 88],
    [118, 126],
  ];
  const text = lines(
    10,
    (layer) => (layer > 8 ? [[80, 126]] : posts),
    (layer) => layer <= 8,
    () => 0,
    true,
  )
    .replace("; layer 10\n", "; layer 10\nG0 X82 Y92 Z2 F6000\nG1 X84 Y92 E0.07 F1500\n")
    .replace("M83\n", "M83\nM106 S100\n");
  const ways = [
    { feedPercent: 60, fan: 100 },
    { feedPercent: 80, fan: 80 },
  ];
  const edits = parsed({ kind: "bridges", cooler: 10, layers: ways });
  const { after } = edited(text, edits);
  const beside = after.slice(0, after.indexOf("G1 X84 Y92"));
  expect(beside.match(/^M10[67].*$/gm)!.at(-1)).toMatch(/^M106 S100\b/);
  expect(proved(text, edits).wrong).toEqual([]);
  const tools = text.replace("M83\n", "M83\nT0\n").replace("; layer 9\n", "; layer 9\nM104 S190 T0\nM109 S215 T0\n");
  expect(proved(tools, edits, twoTools).wrong).toEqual([]);
});

test("faster travel leaves the first way down as it is", () => {
  const text = lines(
    4,
    () => [[80, 100]],
    () => false,
  ).replace("; layer 1\n", "; layer 1\nG1 Z0.2 F900\n");
  const edits = parsed({ kind: "scale-speed", percent: 200, lines: ["travel"] });
  expect(edited(text, edits).after).toContain("G1 Z0.2 F900\n");
  expect(proved(text, edits).wrong).toEqual([]);
});

test("fills that crossed and do not any more are said; where they still cross nothing is", () => {
  const box = lines(
    12,
    () => [[80, 100]],
    (layer) => layer % 2 === 0,
  );
  const walls = box.replace(/^; layer \d+$/gm, (comment) =>
    [
      comment,
      "; outer wall",
      "G0 X70 Y90 F6000",
      ...["X120 Y90", "X120 Y120", "X70 Y120", "X70 Y90"].map((to) => `G1 ${to} E1.5 F1500`),
      "; sparse fill",
    ].join("\n"),
  );
  const wide: Printer = { ...ladle, nozzleMm: 0.8, highestFlowMm3S: 60 };
  const saysOf = (insideEvery: number) =>
    edited(walls, parsed({ kind: "outer-walls", insideEvery }), wide).findings.map(({ check }) => check);
  expect(saysOf(2)).toContain("fill-in-one-direction");
  expect(saysOf(3)).not.toContain("fill-in-one-direction");
});

describe("checks of opened files", () => {
  const text = pieceText(conventions[0]);
  const saidOf = (program: string, printer: Printer = ladle) => {
    const file = readChunks([bytesOf(program)], printer);
    return checkFile(reportOf(file, limitsFor(printer)).report, printer);
  };

  test("motors that are turned off but for Z are turned off on purpose", () => {
    const messages = (program: string) =>
      saidOf(program)
        .map(({ message }) => message)
        .join(" ");
    expect(messages(text.replace("M84", "M84 X Y E"))).not.toMatch(/motors/i);
    expect(messages(text.replace("M84\n", ""))).toMatch(/The motors stay on/);
  });

  test("a file in the language of other printers is told, and no edit writes another's words into it", () => {
    const onOff = pieceText(conventions.find(({ onOffFan }) => onOffFan)!).replace("M107", "M127");
    const said = saidOf(onOff).find(({ check }) => check === "other-language");
    expect(said?.message).toMatch(/M126.*does not know it/);
    expect(saidOf(onOff, { ...ladle, dialect: "valve" }).map(({ check }) => check)).not.toContain("other-language");
    const off = parsed({ kind: "fan", act: "off" });
    expect(edited(onOff, off).after).toBe(onOff);
    expect(edited(onOff, off, { ...ladle, dialect: "valve" }).after).toMatch(/^M127/m);
  });
});

test("merged files have the layers of both, whichever tool begins, and leave no fan running", () => {
  for (const printer of [twoTools, { ...twoTools, fanPerTool: true }]) {
    const pair = [8, 8].map((layers, tool) => {
      const bytes = bytesOf(pieceText(conventions[tool], { layers }));
      const file = seeFile(readChunks([bytes], printer), () => [bytes], printer);
      return { name: `${tool}.gcode`, tool, file, bytes: (from: number, to: number) => [bytes.subarray(from, to)] };
    });
    const pieces = mergeFiles([pair[0], pair[1]], printer, { idleBelowC: 30, park: { x: 110, y: 20 } });
    if (!pieces.ok) throw new Error(pieces.message);
    const whole = [...pieces.value].map(textOf).join("");
    const { layers, markers } = readChunks([bytesOf(whole)], printer);
    expect([layers.length, markers?.places[0].value]).toEqual([8, 1]);
    // Each layer holds what both files lay in it.
    const laid = interpret(whole).beads.reduce((sum, { filamentMm }) => sum + filamentMm, 0);
    const own = pair.map(({ file }) => file.report.layers.reduce((sum, { filamentMm }) => sum + filamentMm, 0));
    expect(laid).toBeCloseTo(own[0] + own[1], 1);
    expect(interpret(whole, { fanPerTool: printer.fanPerTool }).end.fans.filter((duty) => duty > 0)).toEqual([]);
  }
});

test("a tool's fan is not turned on where the file has it off", () => {
  const text = pieceText(
    conventions.find(({ name }) => name === "two tools")!,
    { layers: 8 },
  );
  const wish = {
    kind: "tools",
    tools: [
      { tool: 0, fan: 60 },
      { tool: 1, fan: 40 },
    ],
    allOff: true,
  };
  const fansOf = (program: string) => interpret(program).beads.map(({ to, fan }) => [to[2], fan] as const);
  const own = fansOf(text);
  fansOf(edited(text, parsed(wish), twoTools).after).forEach(([, fan], i) => {
    if (own[i][1] === 0) expect(fan).toBe(0);
    else expect(fan).toBeGreaterThan(0);
  });
});

test("a plan from a height begins with the layer that lies on it, in inches too", () => {
  // The top of the fourth layer is 0.0315 in, which is 0.8001 mm.
  const inches = pieceText(
    conventions.find(({ name }) => name === "inches")!,
    { layers: 8 },
  ).replace(/ Z0\.0315\d*/g, " Z0.0315");
  const plan = { kind: "height-plan", changes: [{ from: { heightMm: 0.8 }, settings: { nozzleTemperature: 225 } }] };
  const heats = interpret(edited(inches, parsed(plan)).after).beads.map(({ to, nozzleC }) => [to[2], nozzleC]);
  expect(heats.filter(([, heat]) => heat === 225).reduce((low, [z]) => Math.min(low, z), Infinity)).toBeGreaterThan(
    0.9,
  );
});

test("the proof of a move says nothing about what stays where it was: a line that fills the nozzle", () => {
  const { text } = slicedIn({ comments: "from 0", primeMm: 0.2, layers: 6 });
  const { wrong, passed } = proved(text, [{ kind: "move", byMm: { x: 20, y: 5, z: 0 } }]);
  expect(wrong).toEqual([]);
  expect(passed[0]).toMatch(/^All [\d,]+ lines of material are as they should be/);
});

test("end lines of a file that ends in the middle of a line begin with one of their own, and are held to it", () => {
  const text = pieceText(conventions[0]).replace(/\nM107\n[^]*$/, "");
  const edit = { kind: "start-end" as const, start: false, end: true };
  const { after } = edited(text, [edit]);
  expect(after.startsWith(`${text}\n`)).toBe(true);
  expect(proved(text, [edit]).wrong).toEqual([]);
});
