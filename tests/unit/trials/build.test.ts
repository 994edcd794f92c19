import { bandLabels, buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { Printer } from "@/core/shelf/printer";
import { Spool } from "@/core/shelf/spool";
import { newTrialSchema } from "@/core/trials/trial-schema";
import { readProgram } from "@/core/gcode/read";
import { textOf } from "../helpers/programs";
import { ladle, planOf, printers, saffron, smallTrial, spools, trialFor, trialOfKind } from "../helpers/demo";

const built = buildTrial({ trial: smallTrial(), printer: ladle, spool: saffron });
const text = textOf(built.bytes);
const lines = text.split("\n");

describe("the program of a trial", () => {
  test("says what it is, with a drawing and the plan as a table", () => {
    const header = lines
      .slice(
        0,
        lines.findIndex((line) => line.startsWith("G28")),
      )
      .join("\n");
    expect(header).toMatch(/^; Cuchara: nozzle temperature, A trial/);
    for (const said of [
      "Ladle 220",
      "Larkfield PLA Saffron",
      "2026-03-01",
      "seen from the front",
      "the arrow points to the front",
      "time ",
      "filament ",
    ]) {
      expect(header).toContain(said);
    }
    expect(header.match(/layers \d+ to \d+ {2}nozzle \d+ °C/g)).toHaveLength(3);
  });

  test("starts at the first band's temperature and waits only there", () => {
    expect(lines.filter((line) => /^M1(09|90)/.test(line))).toEqual(["M190 S60", "M109 S220"]);
    const firstLayer = lines.findIndex((line) => line.startsWith("; layer 1 of"));
    expect(lines.slice(firstLayer).some((line) => /^M1(09|90)/.test(line))).toBe(false);
  });

  test("changes where each band starts, behind the comment, before the first travel", () => {
    // Read with a few lines of its own, not with the core.
    const found: [number, number][] = [];
    lines.forEach((line, i) => {
      const match = /^M104 S(\d+) ; cuchara: band/.exec(line);
      if (match) found.push([Number(match[1]), Number(/^; layer (\d+) of/.exec(lines[i - 1])![1])]);
    });
    // Base 1 mm, bands of 5 mm, layers of 0.2 mm: layers 6, 31 and 56.
    expect(found).toEqual([
      [220, 6],
      [210, 31],
      [200, 56],
    ]);
  });

  test("everything is off at the end", () => {
    expect(lines.slice(-9)).toEqual(expect.arrayContaining(["M104 S0", "M140 S0", "M107", "M84"]));
  });

  test("numbers are plain: no exponent, no minus zero, no more decimals than allowed", () => {
    for (const line of lines) {
      if (line.startsWith(";")) continue;
      const command = line.split(";")[0];
      expect(command).not.toMatch(/\de[-+]?\d|-0(?![.\d])|NaN|Infinity|undefined/i);
      expect(command).not.toMatch(/[XYZ]-?\d+\.\d{4,}|E-?\d+\.\d{6,}|F\d+\./);
    }
  });

  test("reading it back gives the moves that were meant", () => {
    const { moves } = readProgram(built.bytes);
    const meant = built.moves;
    // The prime line and homing come before; from the first layer on the two run together.
    const offset =
      moves.count - meant.count - readProgram(text.slice(text.indexOf("; the print ends here"))).moves.count;
    for (let i = 1; i < meant.count; i++) {
      const at = i + offset;
      expect(Math.abs(moves.x[at] - meant.x[i])).toBeLessThan(0.0006);
      expect(Math.abs(moves.y[at] - meant.y[i])).toBeLessThan(0.0006);
      expect(Math.abs(moves.z[at] - meant.z[i])).toBeLessThan(0.0006);
      expect(Math.abs(moves.filamentMm[at] - meant.filamentMm[i])).toBeLessThan(2e-5);
      expect(Math.abs(moves.feedMmS[at] - meant.feedMmS[i])).toBeLessThan(0.01);
    }
  });

  test("the same trial gives the same bytes, whatever was built before", () => {
    buildTrial({
      trial: trialFor(printers[1], spools[2], { plan: planOf([250, 240]) }),
      printer: printers[1],
      spool: spools[2],
    });
    expect(buildTrial({ trial: smallTrial(), printer: ladle, spool: saffron }).bytes).toEqual(built.bytes);
  });

  test("a name with line breaks cannot leave the header", () => {
    const sly = buildTrial({ trial: smallTrial({ name: "x\nM104 S300" }), printer: ladle, spool: saffron });
    expect(
      textOf(sly.bytes)
        .split("\n")
        .some((line) => line.startsWith("M104 S300")),
    ).toBe(false);
  });
});

describe("the proof", () => {
  test.each(printers.map((printer) => [printer.name, printer] as const))(
    "%s: builds, passes its checks, proof equals plan",
    (_, printer) => {
      const spool = printer.highestNozzleC < 230 ? spools[1] : spools[0];
      const trial = trialFor(printer, spool, { plan: planOf([220, 215, 210], 6, 1) });
      const own = buildTrial({ trial, printer, spool });
      const { findings, passed, bandSettled, report } = inspectTrial({ trial, printer, spool }, own);
      expect(findings.filter(({ severity }) => severity === "stop")).toEqual([]);
      expect(passed).toContain("Every layer commands what the plan says.");
      expect(report.layers).toHaveLength(own.layerStarts.length - 1);
      expect(report.markers).toMatchObject({ countsFrom: 1 });
      for (const share of bandSettled) expect(share).toBeGreaterThan(0.6);
    },
  );

  test("time, filament, mass and cost of the finished file", () => {
    const { report, filamentMm, massG, cost } = inspectTrial(
      { trial: smallTrial(), printer: ladle, spool: saffron },
      built,
    );
    expect(report.seconds).toBeGreaterThan(600);
    expect(massG).toBeCloseTo((filamentMm * 2.4053 * 1.24) / 1000, 2);
    expect(cost).toBeCloseTo((massG / 1000) * 24, 6);
    expect(Number(/filament ([\d.]+) m/.exec(text)![1])).toBeCloseTo(filamentMm / 1000, 1);
  });
});

const roundOf = (kind: TrialKindKey, printer: Printer, spool: Spool) => trialOfKind(kind, printer, spool);

describe("kinds of trial", () => {
  test("the first round covers the label, both ends, hottest first, 5 °C a band", () => {
    const { plan, fixed } = roundOf("temperature", ladle, saffron);
    expect(plan.bands.map(({ settings }) => settings.nozzleTemperature)).toEqual([225, 220, 215, 210, 205, 200, 195]);
    expect(fixed).toEqual({ bedTemperature: 60, fan: 100 });
  });

  test("it stays below what the printer allows and within its height", () => {
    const kettle = printers.find(({ dialect }) => dialect === "valve")!;
    const asa = spools.find(({ material }) => material === "ASA")!;
    const { plan, fixed } = roundOf("temperature", kettle, asa);
    expect(Math.max(...plan.bands.map(({ settings }) => settings.nozzleTemperature!))).toBe(240);
    expect(fixed).toEqual({ bedTemperature: 80, fan: 0 });
    const low = roundOf("temperature", { ...ladle, buildHeightMm: 60 }, saffron);
    expect(low.plan.baseHeightMm + low.plan.bands.reduce((sum, { heightMm }) => sum + heightMm, 0)).toBeLessThan(60);
  });

  test("a wide label takes larger steps instead of endless bands", () => {
    const wide = { ...saffron, labelMinC: 150, labelMaxC: 300 };
    const { plan } = roundOf("temperature", { ...ladle, highestNozzleC: 400 }, wide);
    expect(plan.bands.length).toBeLessThanOrEqual(17);
    expect(plan.bands.at(-1)!.settings.nozzleTemperature).toBe(150);
  });

  test("every kind explains itself in two sentences and asks a question", () => {
    for (const key of trialKindKeys) {
      const kind = trialKindFor(key);
      expect(kind.explains.match(/\. /g)).toHaveLength(1);
      expect(kind.question(saffron, {})).toMatch(/\?$/);
      const { low, high } = kind.range(ladle, saffron, {});
      expect(low).toBeLessThan(high);
    }
  });

  test("labels are the values as they are raised", () => {
    expect(bandLabels(smallTrial(), ladle)).toEqual(["220", "210", "200"]);
    expect(
      bandLabels(smallTrial({ plan: { baseHeightMm: 1, bands: [{ heightMm: 5, settings: { fan: 3 } }] } }), ladle),
    ).toEqual([""]);
  });
});

test.each([
  [{ kind: "haircut", printerId: 1, spoolId: 1 }, "kind", /one of temperature/],
  [{ kind: "temperature", printerId: "1", spoolId: 1 }, "printerId", /whole number/],
  [{ kind: "temperature", printerId: 1, spoolId: -1 }, "spoolId", /above 0/],
  [{ kind: "temperature", printerId: 1, spoolId: 1, layerHeightMm: 9 }, "layerHeightMm", /at most 1.2 mm/],
  [{ kind: "temperature", printerId: 1, spoolId: 1, layerHeightMm: "0.2" }, "layerHeightMm", /number in mm/],
])("%j is refused at its field", (body, field, sentence) => {
  const [issue] = newTrialSchema.safeParse(body).error!.issues;
  expect(issue.path.join(".")).toBe(field);
  expect(issue.message).toMatch(sentence);
});
