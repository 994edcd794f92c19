import { AppliedEdits, Edit } from "@/core/edits";
import { readProgram } from "@/core/gcode/read";
import { comparePlan, settingsByLayer } from "@/core/heightplan/proof";
import { SettingValues } from "@/core/settings";
import { Printer } from "@/core/shelf/printer";
import { ladle, printers } from "../helpers/demo";
import { edited, tryEdits } from "../helpers/edits";

const read = (text: string) => readProgram(text);

/** Two posts a layer, ten layers: a retraction of 3 mm between them, absolute or relative. */
function posts(absolute: boolean, drawBack?: (e: number) => string[]): string {
  const lines = ["M104 S210", "G28", "M109 S210", "G90", absolute ? "M82" : "M83", "G92 E0"];
  let e = 0;
  const word = (change: number) => (absolute ? (e + change).toFixed(4) : change.toFixed(4));
  for (let layer = 0; layer < 10; layer++) {
    lines.push(`; deck ${layer}`);
    for (const x of [40, 70]) {
      lines.push(...(drawBack?.(e) ?? [`G1 E${word(-3)} F2400 ; back`]));
      lines.push(`G0 X${x} Y40 Z${(0.2 * (layer + 1)).toFixed(1)} F6000`);
      if (!drawBack) lines.push(`G1 E${word(absolute ? 0 : 3)} F2400`);
      else lines.push(...(absolute ? [`G1 E${e.toFixed(4)} F2400`] : ["G11"]));
      for (const [dx, dy] of [
        [4, 0],
        [4, 4],
        [0, 4],
      ]) {
        lines.push(`G1 X${x + dx} Y${40 + dy} E${word(0.15)} F1800`);
        e += 0.15;
      }
    }
  }
  return [...lines, "M104 S0", ""].join("\n");
}

function edit(
  text: string,
  settings: SettingValues,
  printer: Printer = ladle,
  more: object = {},
): Partial<AppliedEdits> & { after?: string; refused?: string } {
  const edits = [{ kind: "height-plan", changes: [{ from: { heightMm: 1 }, settings, ...more }] }] as Edit[];
  const applied = tryEdits(text, edits, printer);
  return applied.ok ? edited(text, edits, printer) : { refused: applied.message };
}

/** Lines that differ, side by side. */
function changed(before: string, after: string): [string, string][] {
  const [a, b] = [before.split("\n"), after.split("\n")];
  expect(b).toHaveLength(a.length);
  return a.flatMap((line, i): [string, string][] => (line === b[i] ? [] : [[line, b[i]]]));
}

describe("retraction inside a file's own moves", () => {
  test("with absolute E only the end points of the drawing-back lines change", () => {
    const text = posts(true);
    const { after } = edit(text, { retractionLength: 1.5 });
    const pairs = changed(text, after!);
    // Five layers from 1 mm on, two posts each.
    expect(pairs).toHaveLength(10);
    for (const [was, is] of pairs) {
      expect(was).toMatch(/; back$/);
      const e = (line: string) => Number(/E(-?[\d.]+)/.exec(line)![1]);
      expect(e(is) - e(was)).toBeCloseTo(1.5, 4);
      expect(is.replace(/E-?[\d.]+/, "")).toBe(was.replace(/E-?[\d.]+/, ""));
    }
    expect(read(after!).filamentPerToolMm[0]).toBeCloseTo(read(text).filamentPerToolMm[0], 3);
  });

  test("with relative E the line that gives back changes too, and as much is laid as before", () => {
    const text = posts(false);
    const { after, planned, edits } = edit(text, { retractionLength: 5 });
    const pairs = changed(text, after!);
    expect(pairs.slice(0, 2)).toEqual([
      ["G1 E-3.0000 F2400 ; back", "G1 E-5 F2400 ; back"],
      ["G1 E3.0000 F2400", "G1 E5 F2400"],
    ]);
    expect(pairs).toHaveLength(20);
    expect(edits![0].changedLines).toBe(20);
    const tables = read(after!);
    expect(tables.filamentPerToolMm[0]).toBeCloseTo(read(text).filamentPerToolMm[0], 3);
    // Read back from the edited text, layer by layer.
    const { byLayer } = settingsByLayer(tables);
    expect(Array.from(byLayer.retractionLength).map((mm) => Math.round(mm * 1000) / 1000)).toEqual([
      3, 3, 3, 3, 3, 5, 5, 5, 5, 5,
    ]);
    expect(comparePlan(tables.layers, byLayer, planned![0].planned, ladle)).toEqual([]);
  });

  test("the speed is the feed of those lines and of nothing else", () => {
    const text = posts(true);
    const { after } = edit(text, { retractionSpeed: 25 });
    const pairs = changed(text, after!);
    expect(pairs).toHaveLength(20);
    for (const [was, is] of pairs) expect(is).toBe(was.replace("F2400", "F1500"));
  });

  test("a file whose firmware draws back gets a command instead", () => {
    const text = posts(false, () => ["G10"]);
    const { after } = edit(text, { retractionLength: 2 });
    expect(after!.split("\n").filter((line) => line.startsWith("M207"))).toEqual([
      "M207 S2 ; cuchara: band 1/1 retraction 2 from 1 mm",
    ]);
  });

  test("wiping is left alone and said; a file that never draws back is refused with the reason", () => {
    const wiping = posts(true, (e) => [`G1 X60 E${(e - 3).toFixed(4)} F2400`]);
    expect(edit(wiping, { retractionLength: 2 }).refused).toMatch(/only while it moves/);
    const never =
      "M83\n; deck 0\nG1 X10 Y10 Z0.2 E1 F1200\n; deck 1\nG1 X20 Y10 Z0.4 E1\n; deck 2\nG1 X30 Y10 Z1.4 E1\n";
    expect(edit(never, { retractionSpeed: 20 }).refused).toMatch(/never draws the filament back/);
  });
});

describe("a file of two tools", () => {
  const twin = printers.find(({ tools }) => tools > 1)!;
  /** Each layer has a post of either tool; the tools are heated apart. */
  const lines = ["M104 S210 T0", "M104 S240 T1", "G28", "G90", "M83", "T0"];
  for (let layer = 0; layer < 10; layer++) {
    lines.push(`; deck ${layer}`);
    for (const tool of [0, 1]) {
      lines.push(`T${tool}`, `G1 E-3 F2400`, `G0 X${40 + tool * 30} Y40 Z${(0.2 * (layer + 1)).toFixed(1)} F6000`);
      lines.push("G1 E3 F2400", `G1 X${44 + tool * 30} E0.15 F1800`, `G1 Y44 E0.15`);
    }
  }
  const text = [...lines, "M104 S0 T0", "M104 S0 T1", ""].join("\n");

  test("a retraction for one tool leaves the other's lines alone, and is proved for that tool", () => {
    const { after, planned } = edit(text, { retractionLength: 1 }, twin, { tool: 1 });
    const pairs = changed(text, after!);
    expect(pairs).toHaveLength(10);
    const tools = after!.split("\n").reduce<{ tool: string; drawn: Record<string, string[]> }>(
      ({ tool, drawn }, line) => {
        if (/^T\d/.test(line)) return { tool: line, drawn };
        if (line.startsWith("G1 E-")) (drawn[tool] ??= []).push(line);
        return { tool, drawn };
      },
      { tool: "T0", drawn: {} },
    ).drawn;
    expect(new Set(tools.T0)).toEqual(new Set(["G1 E-3 F2400"]));
    expect(tools.T1.slice(5)).toEqual(new Array(5).fill("G1 E-1 F2400"));
    const tables = read(after!);
    expect(comparePlan(tables.layers, settingsByLayer(tables, 1).byLayer, planned![0].planned, twin)).toEqual([]);
    expect(settingsByLayer(tables, 0).byLayer.retractionLength[8]).toBe(3);
  });

  test("what returns behind a change is the tool's own value, not another's", () => {
    const until = { until: { heightMm: 1.5 } };
    const { after } = edit(text, { nozzleTemperature: 225 }, twin, { tool: 1, ...until });
    const put = after!.split("\n").filter((line) => line.includes("cuchara:"));
    expect(put.map((line) => line.split(" ; ")[0])).toEqual(["M104 S225 T1", "M104 S240 T1"]);
  });
});

describe("other changes of a plan on a file", () => {
  test("print speed is refused with what to take instead", () => {
    expect(edit(posts(true), { printSpeed: 40 }).refused).toMatch(/speed factor/);
    const { after } = edit(posts(true), { speedFactor: 80 });
    expect(after).toContain("M220 S80 ; cuchara: band 1/1 speed factor 80 from 1 mm");
  });

  test("several settings, a tool and lines of one's own in one change", () => {
    const twin = printers.find(({ tools }) => tools > 1)!;
    const more = { tool: 1, lines: ["M117 Second half"] };
    const { after } = edit(posts(true), { nozzleTemperature: 200, fan: 50 }, twin, more);
    const put = after!.split("\n").filter((line) => line.includes("cuchara:"));
    expect(put.map((line) => line.split(" ; ")[0])).toEqual(["M104 S200 T1", "M106 P1 S128", "M117 Second half"]);
  });

  test("a tool the printer does not have is refused", () => {
    expect(edit(posts(true), { fan: 50 }, ladle, { tool: 3 }).refused).toMatch(
      /Change 1 is for tool 3; Ladle 220 has one tool/,
    );
  });

  test("cornering that the printer does not have is refused with its equivalent", () => {
    expect(edit(posts(true), { junctionDeviation: 0.02 }).refused).toMatch(/corners by jerk/);
  });
});

describe("the filament is followed", () => {
  const firstE = (line: string) => Number(/E(-?[\d.]+)/.exec(line)![1]);
  const from = { from: { heightMm: 0.2 } };
  /** One square a layer, four layers, with lines of one's own for drawing back and giving back. */
  const layers = (draw: string[], give: string[], more: (layer: number) => string[] = () => []) => {
    const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
    for (let i = 0; i < 4; i++) {
      lines.push(`; deck ${i}`, ...more(i), ...draw, "G0 X10 Y10 F6000", `G0 Z${(0.2 + 0.2 * i).toFixed(1)}`, ...give);
      for (const corner of ["X30 Y10", "X30 Y30", "X10 Y30", "X10 Y10"]) lines.push(`G1 ${corner} E0.676 F1800`);
    }
    return [...lines, "M104 S0", ""].join("\n");
  };
  /** What goes into the print, mm. */
  const laid = (text: string) => read(text).filamentPerToolMm[0];

  test("through a G92 between drawing back and giving back: as much is laid as before", () => {
    const lines = ["M104 S200", "G28", "M109 S200", "G90", "M82", "G92 E0", "; deck 0", "G1 Z0.2 F600"];
    for (let layer = 0; layer < 4; layer++) {
      if (layer > 0) lines.push(`; deck ${layer}`, `G1 Z${(0.2 * (layer + 1)).toFixed(1)} F600`);
      for (const x of [0, 40]) {
        lines.push("G92 E0", `G1 X${10 + x} Y10 F6000`, "G1 E2 F2400");
        [30, 10].forEach((y, i) => lines.push(`G1 X${20 + x} Y${y} E${(2.676 + 0.676 * i).toFixed(3)} F1800`));
        lines.push("G1 E1.352 F2400");
      }
    }
    const text = [...lines, "M104 S0", ""].join("\n");
    const { after, mismatches } = edited(text, [
      { kind: "height-plan", changes: [{ ...from, settings: { retractionLength: 4 } }] },
    ]);
    expect(after).toContain("G92 E-2\nG1 X50 Y10 F6000\nG1 E2 F2400");
    expect(laid(after)).toBeCloseTo(laid(text), 6);
    expect(mismatches).toEqual([]);
  });

  test("through a wipe: what is drawn back while moving counts, the rest is drawn standing", () => {
    const text = layers(["G1 E-0.24 F2400", "G1 X20 Y10 E-0.56 F6000"], ["G1 E0.8 F2400"]);
    const { after } = edit(text, { retractionLength: 1.2 }, ladle, from);
    const drawn = after!.split("\n").filter((line) => /E-/.test(line));
    expect(drawn.slice(2, 4)).toEqual(["G1 E-0.64 F2400", "G1 X20 Y10 E-0.56 F6000"]);
    expect(laid(after!)).toBeCloseTo(laid(text), 6);
    const { byLayer } = settingsByLayer(read(after!));
    expect(Array.from(byLayer.retractionLength).map((mm) => Math.round(mm * 100) / 100)).toEqual([0.8, 1.2, 1.2, 1.2]);
    // Less than the wipe alone draws cannot be had.
    const { findings } = edit(text, { retractionLength: 0.3 }, ladle, from);
    expect(findings).toMatchObject([{ check: "left-as-they-are", message: /3 places.*more than that while moving/ }]);
  });

  test("in two steps, with a restart that gives less: what was owed stays owed, and no more", () => {
    const text = layers(["G1 E-0.5 F2400", "G1 E-2 F2400"], ["G1 E2 F2400"]);
    const { after } = edit(text, { retractionLength: 3 }, ladle, from);
    const [drawn] = after!.split("; deck 2")[1].split("G0");
    expect(drawn.trim().split("\n")).toEqual(["G1 E-0.5 F2400", "G1 E-2.5 F2400"]);
    expect(after!.split("; deck 2")[1]).toContain("G1 E2.5 F2400");
    expect(laid(after!)).toBeCloseTo(laid(text), 6);
  });

  test("a change of filament, a priming line and a retraction across a tool change are left alone, and said", () => {
    const swap = ["G1 E-15 F6000", "G1 E-80 F3000", "G4 S5", "G1 E80 F1500", "G1 E15 F300"];
    const text = layers(["G1 E-2 F2400"], ["G1 E2 F2400"], (layer) => (layer === 2 ? swap : []));
    const { after, findings } = edit(text, { retractionLength: 1 }, ladle, from);
    for (const line of swap) expect(after!.split("\n")).toContain(line);
    expect(after!.match(/G1 E-1 F2400/g)).toHaveLength(3);
    const line = text.split("\n").indexOf(swap[0]) + 1;
    expect(findings).toMatchObject([{ check: "left-as-they-are", where: `line ${line}`, message: /^One place/ }]);

    const primed = layers(["G1 E-2 F2400"], ["G1 E2 F2400"], (layer) => (layer === 1 ? ["G1 E5 F300"] : []));
    expect(edit(primed, { retractionLength: 1 }, ladle, from).after).toContain("G1 E5 F300");

    const twin = printers.find(({ tools }) => tools > 1)!;
    const across = layers(["G1 E-2 F2400", "T1"], ["T0", "G1 E2 F2400"]);
    expect(edit(across, { retractionLength: 1 }, twin, { ...from, tool: 0 }).refused).toMatch(/never draws/);
  });

  test("a feed that the next lines would take on is put back", () => {
    const text = layers(["G1 E-2 F2400"], ["G1 E2 F2400"]).replaceAll("E0.676 F1800", "E0.676");
    const speedOf = (program: string) => Array.from(settingsByLayer(read(program)).byLayer.printSpeed);
    const { after } = edit(text, { retractionSpeed: 15 }, ladle, from);
    expect(speedOf(after!)).toEqual(speedOf(text));
    expect(after!.split("; deck 3")[1]).toContain("G1 E2 F900\nG1 X30 Y10 E0.676 F2400");
  });

  test("in a program that counts in inches the length is put in inches", () => {
    const inches = layers(["G1 E-0.04 F70"], ["G1 E0.04 F70"])
      .replace("M83", "M83\nG20")
      .replace(/([XYZ])([\d.]+)/g, (_, axis: string, mm: string) => `${axis}${(Number(mm) / 25.4).toFixed(5)}`);
    const { after } = edit(inches, { retractionLength: 2 }, ladle, from);
    // 2 mm are 0.07874 inch: NIST SP 811.
    expect(firstE(after!.split("\n").filter((line) => /E-/.test(line))[2])).toBeCloseTo(-2 / 25.4, 4);
    const { byLayer } = settingsByLayer(read(after!));
    expect(byLayer.retractionLength[2]).toBeCloseTo(2, 3);
  });
});

describe("travel speed", () => {
  const tube = posts(false);
  const speeds = (text: string) => {
    const { byLayer } = settingsByLayer(read(text));
    return { travel: Array.from(byLayer.travelSpeed), print: Array.from(byLayer.printSpeed) };
  };

  test("is the feed of the ways between what is laid, in a file's own lines, and of nothing else", () => {
    const { after, planned } = edit(tube, { travelSpeed: 60 });
    expect(speeds(after!)).toEqual({
      travel: [...new Array(5).fill(100), ...new Array(5).fill(60)],
      print: speeds(tube).print,
    });
    for (const [was, is] of changed(tube, after!)) expect(is).toBe(was.replace("F6000", "F3600"));
    expect(comparePlan(read(after!).layers, settingsByLayer(read(after!)).byLayer, planned![0].planned, ladle)).toEqual(
      [],
    );
  });
});
