import { readProgram } from "@/core/gcode/read";
import { bytesOf, squareTube, textOf } from "../helpers/programs";

const heights = (text: string) => readProgram(text).layers.map(({ zMm }) => zMm);

describe("layers come from where material is laid", () => {
  test("plain layers", () => {
    const { layers } = readProgram(squareTube({ layers: 5 }));
    expect(layers.map(({ zMm }) => zMm)).toEqual([0.2, 0.4, 0.6, 0.8, 1]);
    expect(layers.map(({ heightMm }) => heightMm)).toEqual([0.2, 0.2, 0.2, 0.2, 0.2]);
  });

  test("hops are not layers", () => {
    expect(heights(squareTube({ layers: 4, hopMm: 0.6 }))).toEqual([0.2, 0.4, 0.6, 0.8]);
  });

  test("a first layer of another height", () => {
    const { layers } = readProgram(squareTube({ layers: 3, firstMm: 0.3, layerMm: 0.15 }));
    expect(layers.map(({ zMm }) => zMm)).toEqual([0.3, 0.45, 0.6]);
    expect(layers.map(({ heightMm }) => heightMm)).toEqual([0.3, 0.15, 0.15]);
  });

  test("layers of varying height", () => {
    let text = "M83\n";
    for (const z of [0.2, 0.5, 0.6, 0.95]) text += `G0 X0 Y0 Z${z}\nG1 X10 E0.3\nG1 Y10 E0.3\n`;
    expect(heights(text)).toEqual([0.2, 0.5, 0.6, 0.95]);
  });

  test("a spiral wall has a layer a turn", () => {
    let text = "M83\nG0 X10 Y0 Z0.2\nG3 X10 Y0 I-10 J0 E2\n";
    let z = 0.2;
    for (let turn = 0; turn < 5; turn++) {
      for (let step = 1; step <= 12; step++) {
        const angle = (step / 12) * 2 * Math.PI;
        z += 0.2 / 12;
        text += `G1 X${(10 * Math.cos(angle)).toFixed(3)} Y${(10 * Math.sin(angle)).toFixed(3)} Z${z.toFixed(4)} E0.17\n`;
      }
    }
    expect(heights(text)).toEqual([0.2, 0.4, 0.6, 0.8, 1, 1.2]);
  });

  test("… of arcs, too, above a first layer of another height", () => {
    let text = "M83\nG0 X20 Y0 Z0.3\nG3 X20 Y0 I-10 J0 E2\n";
    for (let half = 1; half <= 12; half++) {
      text += `G3 X${half % 2 === 1 ? 0 : 20} Y0 Z${(0.3 + half * 0.1).toFixed(1)} I${half % 2 === 1 ? -10 : 10} J0 E1\n`;
    }
    expect(heights(text)).toEqual([0.3, 0.5, 0.7, 0.9, 1.1, 1.3, 1.5]);
  });

  test("copies printed one after the other start again from the bed", () => {
    const one = squareTube({ layers: 3 });
    const { layers } = readProgram(one.replace(/M104 S0[\s\S]*/, "") + one);
    expect(layers.map(({ zMm }) => zMm)).toEqual([0.2, 0.4, 0.6, 0.2, 0.4, 0.6]);
    expect(layers.map(({ heightMm }) => heightMm)).toEqual([0.2, 0.2, 0.2, 0.2, 0.2, 0.2]);
  });

  test("priming above the first layer is no layer", () => {
    const prime = ["G90", "M82", "G1 Z0.35 F600", "G1 X60 E8 F1200", "G92 E0"];
    expect(heights(squareTube({ layers: 3, start: prime }))).toEqual([0.2, 0.4, 0.6]);
  });

  test("nothing laid, no layers", () => {
    expect(heights("G90\nG0 X10 Z5\nG0 X20\nG1 E3\n")).toEqual([]);
  });

  test("every move between the first and the last belongs to a layer", () => {
    const { moves, layers } = readProgram(squareTube({ layers: 4, hopMm: 0.4 }));
    for (const { index, firstMove, lastMove } of layers) {
      for (let i = firstMove; i <= lastMove; i++) expect(moves.layer[i]).toBe(index);
    }
    expect(layers[1].firstMove).toBe(layers[0].lastMove + 1);
  });
});

describe("comments that open layers are found by pattern", () => {
  test.each([
    ["sheet, from 0", (i: number) => `; sheet ${i}`, 0],
    ["from 1, with the total", (i: number) => `;level ${i + 1}/40`, 1],
    ["with a height beside the number", (i: number, z: number) => `; ${z.toFixed(2)} mm, floor ${i + 1}`, 1],
    ["in brackets", (i: number) => `(storey number ${i})`, 0],
    ["two numbers, only one counts", (i: number) => `; part 7 slice ${i}`, 0],
  ])("%s", (_, opens, countsFrom) => {
    const { layers, markers } = readProgram(squareTube({ layers: 40, opens }));
    expect(layers).toHaveLength(40);
    expect(layers[0].marker).toBe(countsFrom);
    expect(layers[39].marker).toBe(39 + countsFrom);
    expect(markers!.shape).toContain("#");
  });

  test("comments that do not count with the layers are not taken", () => {
    const noise = ["; speed 30", "; estimated 12 of 14", "; tool 1"];
    const { markers } = readProgram(
      squareTube({ layers: 30, extra: (i) => [noise[i % 3], `; ${(i * 7) % 5} left`, `; zone ${Math.floor(i / 2)}`] }),
    );
    expect(markers).toBeNull();
  });

  test("a counting table in the header is not mistaken for layers", () => {
    const table = Array.from({ length: 12 }, (_, i) => `; row ${i + 1} of the plan`);
    const { markers } = readProgram(squareTube({ layers: 40, start: table, opens: (i) => `; deck ${i}` }));
    expect(markers!.shape).toBe("deck #");
  });

  test("what was laid before the first of them is priming", () => {
    const start = ["G90", "M83", "G1 Z0.2 F600", "G1 X60 E8 F1200", "G1 Z0.4", "G1 X0 E8", "M82", "G92 E0"];
    const { layers } = readProgram(squareTube({ layers: 20, start, opens: (i) => `; deck ${i}` }));
    expect(layers).toHaveLength(20);
    expect(layers[0].zMm).toBe(0.2);
    expect(layers[0].marker).toBe(0);
  });
});

describe("where a line for a layer must stand", () => {
  const placed = (text: string, index: number) => {
    const bytes = bytesOf(text);
    const { layers } = readProgram(bytes);
    return [textOf(bytes.slice(0, layers[index].insertByte)), textOf(bytes.slice(layers[index].insertByte))];
  };

  test("behind the comment that opens it", () => {
    const [before, after] = placed(squareTube({ layers: 6, opens: (i) => `; deck ${i}` }), 3);
    expect(before.endsWith("; deck 3\n")).toBe(true);
    expect(after.startsWith("G1 E")).toBe(true);
  });

  test("before its first travel where there is no comment, behind the drawing back", () => {
    const [before, after] = placed(squareTube({ layers: 6 }), 3);
    // `G0 X10 Y10` goes nowhere: the nozzle stands there already. The first line that moves is the lift.
    expect(before.trimEnd().split("\n").at(-2)).toMatch(/^G1 E/);
    expect(after.startsWith("G0 Z0.8")).toBe(true);
  });

  test("at a spiral, before the line that climbs into it", () => {
    let text = "M83\nG0 X0 Y0 Z0.2\nG1 X10 E0.3\nG1 Y10 E0.3\n";
    for (let i = 1; i <= 8; i++) text += `G1 X${i % 2 === 0 ? 10 : 0} Z${(0.2 + i * 0.05).toFixed(2)} E0.3\n`;
    const [before, after] = placed(text, 2);
    expect(after.startsWith("G1 X0 Z0.45")).toBe(true);
    expect(before.endsWith("Z0.40 E0.3\n")).toBe(true);
  });

  test("line numbers go with byte places", () => {
    const text = squareTube({ layers: 6, opens: (i) => `; deck ${i}` });
    for (const { insertByte, insertLine } of readProgram(text).layers) {
      expect(text.slice(0, insertByte).split("\n").length - 1).toBe(insertLine);
    }
  });
});

test("lines of an earlier plan are recognised, their look-alikes are not", () => {
  const text = squareTube({
    layers: 4,
    extra: (i) => (i === 2 ? ["M104 S200 ; cuchara: band 1/2 nozzle 200 from 0.4 mm", "; cuchara is a spoon"] : []),
  });
  const { cucharaLines } = readProgram(text);
  expect(cucharaLines).toHaveLength(1);
  expect(text.slice(cucharaLines[0].startByte, cucharaLines[0].endByte)).toBe(
    "M104 S200 ; cuchara: band 1/2 nozzle 200 from 0.4 mm\n",
  );
});

/** Squares at the heights, a ramp of a seam before each where `ramps` says so. */
function scarf(firstMm: number, layerMm: number, layers = 8): string {
  const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
  for (let i = 0; i < layers; i++) {
    const z = firstMm + layerMm * i;
    const from = z - layerMm + 0.02;
    lines.push(`G0 X10 Y10 Z${(i > 0 ? from : z).toFixed(3)} F6000`);
    for (let step = 1; i > 0 && step <= 10; step++) {
      lines.push(`G1 X${10 + step} Y10 Z${(from + ((layerMm - 0.02) * step) / 10).toFixed(3)} E0.03 F1800`);
    }
    for (const corner of ["X30 Y10", "X30 Y30", "X10 Y30", "X10 Y10"]) lines.push(`G1 ${corner} E0.676 F1800`);
    lines.push("G0 X12 Y12 F6000", "G1 X28 Y28 E1");
  }
  return lines.join("\n");
}

const square = (dx = 0) =>
  ["X30 Y10", "X30 Y30", "X10 Y30", "X10 Y10"].map(
    (corner) => `G1 ${corner.replace(/X(\d+)/, (_, x: string) => `X${Number(x) + dx}`)} E0.676 F1800`,
  );

describe("layers of sliced files that were once read wrong", () => {
  test.each([
    [0.2, 0.2],
    [0.25, 0.2],
    [0.2, 0.28],
    [0.3, 0.12],
  ])("ramps of seams, the first layer %d, the others %d mm", (first, layer) => {
    const expected = Array.from({ length: 8 }, (_, i) => Math.round((first + layer * i) * 1e4) / 1e4);
    expect(heights(scarf(first, layer))).toEqual(expected);
  });

  test("a raft whose layers are numbered below zero", () => {
    const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
    [-3, -2, -1, 0, 1, 2, 3, 4, 5, 6, 7].forEach((number, i) => {
      lines.push(`;LAYER:${number}`, `G0 X10 Y10 Z${(0.3 + 0.2 * i).toFixed(1)} F6000`, ...square());
    });
    const { layers, markers } = readProgram(lines.join("\n"));
    expect(layers.map(({ marker }) => marker)).toEqual([-3, -2, -1, 0, 1, 2, 3, 4, 5, 6, 7]);
    expect(layers[0]).toMatchObject({ zMm: 0.3, heightMm: 0.3 });
    expect(layers[3]).toMatchObject({ zMm: 0.9, heightMm: 0.2 });
    expect(markers!.shape).toBe("LAYER:#");
  });

  test.each([true, false])("a tower for cleaning kept lower than the piece, with comments: %s", (marked) => {
    const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
    for (let i = 0; i < 10; i++) {
      const z = (0.2 + 0.2 * i).toFixed(1);
      if (marked) lines.push(`;LAYER:${i}`);
      lines.push(`G0 X10 Y10 Z${z} F6000`, ...square());
      if (i % 3 === 2) {
        lines.push("G0 X100 Y10 F6000", `G0 Z${(0.2 + 0.2 * Math.floor(i / 3)).toFixed(1)}`, ...square(90), `G0 Z${z}`);
      }
    }
    const { layers } = readProgram(lines.join("\n"));
    expect(layers.map(({ zMm }) => zMm)).toEqual([0.2, 0.4, 0.6, 0.8, 1, 1.2, 1.4, 1.6, 1.8, 2]);
    expect(layers.map(({ heightMm }) => heightMm)).toEqual(new Array(10).fill(0.2));
  });

  test.each([
    ["G0 X5 Y5 Z0.15 F6000", [0.2, 0.4, 0.6]],
    ["G0 X5 Y5 Z0.18 F6000", [0.2, 0.4, 0.6]],
  ])("a line that fills the nozzle just below the first layer (%s)", (start, expected) => {
    expect(heights(squareTube({ layers: 3, start: ["G90", "M82", start, "G1 X60 E8 F1200", "G92 E0"] }))).toEqual(
      expected,
    );
  });

  test("markers are found behind a picture of thousands of comment lines", () => {
    // Deterministic rows, no two of one shape.
    const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz+/";
    const picture = Array.from(
      { length: 6000 },
      (_, row) =>
        `; ${Array.from({ length: 40 }, (_, i) => letters[(row * 7919 + i * (row % 53) + i * i) % letters.length]).join("")}${row % 10}`,
    );
    const { markers, layers } = readProgram(
      `${picture.join("\n")}\n${squareTube({ layers: 20, opens: (i) => `; deck ${i}` })}`,
    );
    expect([markers?.shape, layers.length]).toEqual(["deck #", 20]);
  });

  test("a change from the bed on stands behind what homes and heats, where no comment opens the first layer", () => {
    const text = squareTube({ layers: 4 });
    const { layers } = readProgram(text);
    const before = text.slice(0, layers[0].insertByte);
    expect(before).toContain("M109");
    expect(before).toContain("G28");
    expect(text.slice(layers[0].insertByte)).toMatch(/^G[01] /);
  });
});
