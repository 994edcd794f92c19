/** What edits leave at each bead, by an interpreter of the tests' own: prints that once came out wrong, and no check said so. */
import { mergeFiles } from "@/core/edits/merge-files";
import { readChunks, seeFile } from "@/core/edits/see-file";
import type { Printer } from "@/core/shelf/printer";
import { interpret } from "../helpers/beads";
import { conventions, pieceText } from "../helpers/conventions";
import { printers } from "../helpers/demo";
import { edited, proved } from "../helpers/edits";
import { bytesOf, textOf } from "../helpers/programs";
import { slicedIn } from "../helpers/sliced-habits";

const twoTools: Printer = { ...printers.find(({ tools }) => tools > 1)!, dialect: "jerk" };

describe("commands between the first travel and the first bead", () => {
  const { text } = slicedIn({ comments: "none", busyStart: true, relative: true });
  const before = interpret(text).beads;

  test("the print moves with its first bead", () => {
    const { beads } = interpret(edited(text, [{ kind: "move", byMm: { x: 20, y: 10, z: 0 } }]).after);
    expect(beads.map(({ from, to }) => [from[0] - 20, from[1] - 10, to[0] - 20, to[1] - 10].map(Math.round))).toEqual(
      before.map(({ from, to }) => [from[0], from[1], to[0], to[1]].map(Math.round)),
    );
  });

  test("raised, all of it is", () => {
    const { beads } = interpret(edited(text, [{ kind: "move", byMm: { x: 0, y: 0, z: 5 } }]).after);
    expect(beads[0].from[2]).toBeCloseTo(5.2, 6);
    beads.forEach(({ to }, i) => expect(to[2]).toBeCloseTo(before[i].to[2] + 5, 4));
  });

  test("raised by more than its end lifts, the nozzle does not come down into it", () => {
    const lifted = text.replace(/G91\nG0 Z5 F600\nG90\nG91\nG0 Z5\nG90/, "G0 Z12 F600\nG0 X0 Y200");
    expect(lifted).not.toBe(text);
    const { lowestBehindMm, end } = interpret(edited(lifted, [{ kind: "move", byMm: { x: 0, y: 0, z: 15 } }]).after);
    expect(lowestBehindMm).toBeGreaterThan(2.4 + 15 - 1e-6);
    expect(end).toMatchObject({ x: 0, y: 200, z: 27 });
  });

  test("other start lines leave the way to the first bead", () => {
    const { beads } = interpret(edited(text, [{ kind: "start-end", start: true, end: false }]).after);
    const laid = beads.slice(-before.length);
    expect(laid[0].from.map((mm) => mm.toFixed(3))).toEqual(before[0].from.map((mm) => mm.toFixed(3)));
  });
});

test("a pause parks where it was asked to, however the print is moved behind it, and goes on where it is", () => {
  const { text } = slicedIn({ comments: "from 0" });
  const { after } = edited(text, [
    { kind: "pause", at: { layer: 4, countsFrom: 1 }, park: { x: 5, y: 5 }, beep: false },
    { kind: "move", byMm: { x: -20, y: -20, z: 0 } },
  ]);
  expect(after).toMatch(/^G0 X5 Y5 F6000/m);
  const before = interpret(text).beads;
  interpret(after).beads.forEach(({ from }, i) => expect(from[0]).toBeCloseTo(before[i].from[0] - 20, 3));
});

describe("two files as one print", () => {
  const merged = (...texts: [string, string]) => {
    const [a, b] = texts.map((text, tool) => {
      const bytes = bytesOf(text);
      const file = seeFile(readChunks([bytes], twoTools), () => [bytes], twoTools);
      return { name: `${tool}.gcode`, tool, file, bytes: (from: number, to: number) => [bytes.subarray(from, to)] };
    });
    const pieces = mergeFiles([a, b], twoTools, { idleBelowC: 30, park: { x: 110, y: 20 } });
    if (!pieces.ok) throw new Error(pieces.message);
    return [...pieces.value].map(textOf).join("");
  };
  const piece = (layers: number, absoluteE: boolean, ...says: string[]) => {
    const [heats, ...rest] = pieceText({ ...conventions[0], absoluteE }, { layers }).split("G90\n");
    const top = layers * 0.2;
    const text = [heats, ...says, `G90\n${rest.join("G90\n")}`].join("\n");
    // Drawn back and lifted from its own top, as ends usually do.
    const fed = Number([...text.matchAll(/ E(-?[\d.]+)/g)].at(-1)![1]);
    const back = `G1 E${(absoluteE ? fed - 2 : -2).toFixed(5)} F2100`;
    return text.replace(/M107\nM104 S0/, `${back}\nG1 Z${(top + 2).toFixed(2)} F900\nM107\nM104 S0`);
  };

  test.each([
    ["as many layers", 9, 9],
    ["the second is taller", 5, 40],
    ["the first is taller", 40, 5],
  ])("%s: the end neither pushes filament out nor comes down", (_, one, other) => {
    for (const [a, b] of [
      [true, false],
      [false, true],
      [true, true],
    ]) {
      const { beads, filamentMm, lowestBehindMm } = interpret(merged(piece(one, a), piece(other, b)));
      const top = Math.max(one, other) * 0.2;
      expect(lowestBehindMm).toBeGreaterThanOrEqual(top - 1e-6);
      // What is fed in the end is what was laid, but for what stays drawn back.
      [0, 1].forEach((tool) => {
        const laid = beads.filter((bead) => bead.tool === tool).reduce((sum, bead) => sum + bead.filamentMm, 0);
        expect(Math.abs(filamentMm[tool] - laid)).toBeLessThan(8);
      });
    }
  });

  test("each keeps its own acceleration and pressure advance", () => {
    const { beads } = interpret(
      merged(piece(6, true, "M204 S500", "M900 K0.04"), piece(6, false, "M204 S2000", "M900 K0.1")),
    );
    for (const { tool, accelerationMmS2, advanceS } of beads) {
      expect([tool, accelerationMmS2, advanceS]).toEqual(tool === 0 ? [0, 500, 0.04] : [1, 2000, 0.1]);
    }
  });
});

test("heights are asked of each piece of a print made one by one", () => {
  const { text } = slicedIn({ comments: "from 0", oneByOne: true, relative: true, layers: 20 });
  const fanned = text.replace(";level 1\n", ";level 1\nM106 S200\n");
  const fanAt = interpret(edited(fanned, [{ kind: "fan", act: "off", toMm: 1, keepComments: true }]).after).beads.map(
    ({ to, fan }) => [Number(to[2].toFixed(2)), fan] as const,
  );
  expect(fanAt.filter(([z]) => z <= 1).every(([, fan]) => fan === 0)).toBe(true);
  expect(fanAt.filter(([z]) => z > 1).every(([, fan]) => fan === 200)).toBe(true);
  const flow = interpret(edited(text, [{ kind: "scale-flow", percent: 90, fromMm: 1, toMm: 2 }]).after).beads;
  interpret(text).beads.forEach(({ to, filamentMm }, i) => {
    const share = to[2] > 1.001 && to[2] < 2.001 ? 0.9 : 1;
    expect(flow[i].filamentMm).toBeCloseTo(filamentMm * share, 4);
  });
});

test("over air both tools are cooler by as much, and none lays at the heat it waits at", () => {
  // A deck over two posts; both tools are changed within each layer, and wait at 170 °C.
  const lines = ["M104 T1 S170", "M109 T0 S215", "G28", "G90", "M83", "T0"];
  const deck = (x: number, z: number, isDeck: boolean) => {
    for (const y of isDeck ? [100, 100.4, 100.8, 101.2, 101.6, 102] : [100, 100.4]) {
      const spans = isDeck
        ? [[x, x + 24]]
        : [
            [x, x + 4],
            [x + 20, x + 24],
          ];
      for (const [from, to] of spans)
        lines.push(`G0 X${from} Y${y} Z${z} F6000`, `G1 X${to} Y${y} E${((to - from) * 0.0338).toFixed(4)} F1500`);
    }
  };
  for (let i = 1; i <= 14; i++) {
    const z = Number((i * 0.2).toFixed(2));
    lines.push(`; storey ${i}`, "M104 T1 S170", "T0", "M109 T0 S215");
    deck(40, z, i > 10);
    lines.push("M104 T0 S175", "T1", "M109 T1 S220");
    deck(120, z, i > 10);
  }
  lines.push("M104 T0 S0", "M104 T1 S0", "");
  const wish = {
    kind: "bridges" as const,
    cooler: 10,
    layersBefore: 2,
    layers: [{ feedPercent: 80, flowPercent: 100 }],
  };
  const { after } = edited(lines.join("\n"), [{ ...wish, only: "strands" }], twoTools);
  const { beads, end } = interpret(after);
  const heats = [0, 1].map((tool) => [
    ...new Set(beads.filter((one) => one.tool === tool).map(({ nozzleC }) => nozzleC)),
  ]);
  expect(heats).toEqual([
    [215, 205],
    [220, 210],
  ]);
  expect(beads.filter(({ nozzleC, tool }) => nozzleC === [205, 210][tool]).map(({ to }) => to[2])).toContain(2.2);
  expect(end.nozzleC).toEqual([0, 0]);
});

test("the fan that is off is the one that blows: of the tool that is in, where every tool has its own", () => {
  const printer = { ...twoTools, fanPerTool: true };
  const lines = ["M104 T0 S215", "M104 T1 S215", "G28", "G90", "M83", "T0", "M106 S255", "T1", "M106 S100"];
  for (let i = 1; i <= 10; i++) {
    lines.push(`; storey ${i}`, `G0 X40 Y40 Z${(i * 0.2).toFixed(1)} F6000`);
    for (const tool of [0, 1]) {
      lines.push(`T${tool}`, `G0 X${40 + 60 * tool} Y40`, `G1 X${60 + 60 * tool} Y40 E0.7 F1500`);
      if (i === 6) lines.push(tool === 0 ? "M106 S200" : "M106 S120");
    }
  }
  const text = lines.join("\n") + "\n";
  const fanOf = (edit: Parameters<typeof edited>[1][number]) =>
    interpret(edited(text, [edit], printer).after, { fanPerTool: true }).beads.map(
      ({ to, tool, fan }) => [Math.round(to[2] * 5), tool, fan] as const,
    );
  const off = { kind: "fan", act: "off", fromLayer: 5, toLayer: 7, countsFrom: 1, keepComments: true } as const;
  for (const [layer, tool, fan] of fanOf(off)) {
    const own = tool === 0 ? (layer > 6 ? 200 : 255) : layer > 6 ? 120 : 100;
    expect([layer, tool, fan]).toEqual([layer, tool, layer >= 5 && layer <= 7 ? 0 : own]);
  }
  for (const [layer, tool, fan] of fanOf({ ...off, fan: 1 })) {
    const own = tool === 0 ? (layer > 6 ? 200 : 255) : layer > 6 ? 120 : 100;
    expect([layer, tool, fan]).toEqual([layer, tool, tool === 1 && layer >= 5 && layer <= 7 ? 0 : own]);
  }
});

test("a new feed leaves the filament that stands behind it without a blank, and what is in brackets", () => {
  const tube = slicedIn({ comments: "from 0", relative: true, layers: 8 }).text;
  const compact = tube.replace(/^G1 E(-?[\d.]+) F(\d+)$/gm, "G1F$2E$1");
  const before = interpret(compact);
  const slower = { from: { heightMm: 0.6 }, settings: { retractionSpeed: 20 } };
  const { after } = edited(compact, [{ kind: "height-plan", changes: [slower] }]);
  expect(after).toMatch(/^G1F1200(\.0+)?E-1\.2/m);
  expect(interpret(after).filamentMm[0]).toBeCloseTo(before.filamentMm[0], 4);
  const bracketed = tube.replace(/^G1 (X[\d.]+) (Y[\d.]+)/gm, "G1 $1 (to the corner, Y9) $2");
  const moved = interpret(edited(bracketed, [{ kind: "move", byMm: { x: 5, y: 7, z: 0 } }]).after).beads;
  interpret(bracketed).beads.forEach(({ to }, i) => {
    expect(moved[i].to[0]).toBeCloseTo(to[0] + 5, 3);
    expect(moved[i].to[1]).toBeCloseTo(to[1] + 7, 3);
  });
});

describe("another tool in place of one", () => {
  const { text } = slicedIn({ comments: "from 0", layers: 6 });
  const swap = [
    { tool: 0, as: 1 },
    { tool: 1, as: 0 },
  ];

  test("of a file that never says its tool: all is laid by the other, at its heat", () => {
    const { after } = edited(text, [{ kind: "tools", tools: [{ tool: 0, as: 1 }], allOff: true }], twoTools);
    const before = interpret(text).beads;
    const { beads, end } = interpret(after);
    expect(beads.map(({ tool, nozzleC }) => [tool, nozzleC])).toEqual(before.map(({ nozzleC }) => [1, nozzleC]));
    expect(end.nozzleC.filter((heatC) => heatC > 0)).toEqual([]);
  });

  test.each([
    ["never said first", ""],
    ["said behind the heats", "T0\n"],
  ])("exchanged, tool 0 %s", (_, says) => {
    const file = text
      .replace("M104 S210\n", "M104 S210\nM104 S220 T1\n")
      .replace("G21\n", `G21\n${says}`)
      .replace(";level 3\n", ";level 3\nT1\n");
    const before = interpret(file).beads;
    const after = interpret(edited(file, [{ kind: "tools", tools: swap, allOff: true }], twoTools).after).beads;
    expect(after.map(({ tool, nozzleC }) => [tool, nozzleC])).toEqual(
      before.map(({ tool, nozzleC }) => [1 - tool, nozzleC]),
    );
    expect(new Set(after.map(({ tool }) => tool)).size).toBe(2);
  });
});

test("with other start lines, acceleration, pressure advance and flow are as the print counts on them", () => {
  const { text } = slicedIn({ comments: "from 0", layers: 5 });
  const file = text.replace("G21\n", "G21\nM204 S1250\nM900 K0.04\nM221 S95\n");
  const { after } = edited(file, [{ kind: "start-end", start: true, end: false }], { ...twoTools, tools: 1 });
  const laid = interpret(after).beads.slice(-interpret(text).beads.length);
  for (const { accelerationMmS2, advanceS, flowPercent } of laid) {
    expect([accelerationMmS2, advanceS, flowPercent]).toEqual([1250, 0.04, 95]);
  }
});

test("waits put in order are not called another temperature", () => {
  const { text } = slicedIn({ comments: "from 0", layers: 5 });
  const file = `M109 S215\nM190 S60\nG28\n${text.slice(text.indexOf("G21"))}`;
  expect(proved(file, [{ kind: "waits", inside: false, order: true }]).wrong).toEqual([]);
});

test("travel is what goes across the bed: filament, lifts and ends of beads keep their feeds", () => {
  const { text } = slicedIn({ comments: "from 0", layers: 6, hop: "line", relative: true });
  // The last stretch of each ring is laid without filament, as some do.
  const file = text.replace(/^(G1 X100\.000 Y100\.000) E[\d.]+ F1800$/gm, "$1");
  const feedsOf = (program: string) => {
    let feed = 0;
    return program.split("\n").flatMap((line) => {
      feed = Number(/^G[01].*F(\d+)/.exec(line)?.[1] ?? feed);
      return /^G[01]/.test(line) ? [{ feed, isTravel: /^G0 X/.test(line) }] : [];
    });
  };
  const { after } = edited(file, [{ kind: "scale-speed", percent: 50, lines: ["travel"] }]);
  const before = feedsOf(file);
  const halved = feedsOf(after.replace(/^G1 F\d+\n/gm, ""));
  expect(halved.filter(({ feed }) => feed === 4500).length).toBeGreaterThan(10);
  // Lines that only give a feed back were left out: what follows them has its own.
  before.forEach(({ feed, isTravel }, i) => {
    if (isTravel) expect(halved[i].feed).toBe(feed / 2);
  });
  const { beads } = interpret(after);
  interpret(file).beads.forEach((bead, i) => expect(beads[i].feedMmMin).toBe(bead.feedMmMin));
  expect(after.match(/^G1 E-?1\.2\d* F2100$/gm)).toEqual(file.match(/^G1 E-?1\.2\d* F2100$/gm));
  expect(after.match(/^G0 Z.*$/gm)).toEqual(file.match(/^G0 Z.*$/gm));
});

describe("outer walls in passes", () => {
  const inPasses = { kind: "outer-walls", passes: 2 } as const;
  const form = conventions.find(({ name }) => name === "two tools")!;
  // Each layer takes its tool up behind the comment that opens it; heats and fan are told there, too.
  const text = pieceText(form, { layers: 8 });

  test("are laid by the tool that lays their layer, at its heat, with its fan", () => {
    const of = (program: string) =>
      interpret(program).beads.map(({ to, tool, nozzleC, fan }) => [Math.ceil(to[2] * 5 - 0.01), tool, nozzleC, fan]);
    const before = new Set(of(text).map((one) => one.join()));
    expect(of(edited(text, [inPasses], twoTools).after).filter((one) => !before.has(one.join()))).toEqual([]);
  });

  test("keep their own acceleration, stand under their own comment, and are found by the next edit", () => {
    const kinds = conventions.find(({ name }) => name === "kinds in comments")!;
    const file = pieceText(kinds)
      .replace(/^; outer wall$/gm, "; outer wall\nM204 S400")
      .replace(/^; inner wall$/gm, "; inner wall\nM204 S3000");
    const { after } = edited(file, [inPasses]);
    const isOuter = ({ from, to }: { from: number[]; to: number[] }) =>
      [from, to].every(([x, y]) => Math.max(Math.abs(x - 110), Math.abs(y - 110)) > 7.9);
    const walls = interpret(after).beads.filter(isOuter);
    expect(walls.length).toBeGreaterThan(8 * 4);
    expect([...new Set(walls.map(({ accelerationMmS2 }) => accelerationMmS2))]).toEqual([400]);
    const othersOf = (program: string) =>
      interpret(program)
        .beads.filter((bead) => !isOuter(bead))
        .map(({ accelerationMmS2 }) => accelerationMmS2);
    expect(othersOf(after)).toEqual(othersOf(file));
    const slower = edited(file, [inPasses, { kind: "scale-speed", percent: 50, lines: ["outer-wall"] }]).after;
    const feeds = interpret(slower).beads.filter(isOuter);
    expect([...new Set(feeds.map(({ feedMmMin }) => feedMmMin))]).toEqual([900]);
  });
});

test("raised, a print whose first lift stands in front of its first comment is raised from its first bead on", () => {
  const { text } = slicedIn({ comments: "German", commentBehindLift: true });
  const { beads } = interpret(edited(text, [{ kind: "move", byMm: { x: 0, y: 0, z: 2 } }]).after);
  interpret(text).beads.forEach(({ to }, i) => expect(beads[i].to[2]).toBeCloseTo(to[2] + 2, 4));
});

test("a pause tells the fan what it was told, and none that was told nothing", () => {
  const printer = { ...twoTools, fanPerTool: true };
  const text = pieceText(
    conventions.find(({ name }) => name === "two tools")!,
    { layers: 8 },
  );
  for (const layer of [3, 4, 5]) {
    const pause = { kind: "pause", at: { layer, countsFrom: 1 }, beep: false } as const;
    const fansOf = (program: string) => interpret(program, { fanPerTool: true }).beads.map(({ fan }) => fan);
    expect(fansOf(edited(text, [pause], printer).after)).toEqual(fansOf(text));
  }
});
