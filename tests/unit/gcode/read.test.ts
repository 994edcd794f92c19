import { EventKind, MoveKind } from "@/core/gcode/moves";
import fc from "fast-check";
import { ProgramReader, ProgramTables, readProgram } from "@/core/gcode/read";
import { cutPlainMove, Line, PlainMove, splitWords } from "@/core/gcode/scan";
import { arcFromCentre } from "@/core/gcode/arcs";

const ends = ({ moves }: ProgramTables) =>
  Array.from({ length: moves.count }, (_, i) =>
    [moves.x[i], moves.y[i], moves.z[i]].map((mm) => Math.round(mm * 1e3) / 1e3),
  );
const kinds = ({ moves }: ProgramTables) => Array.from(moves.kind);
const eventsOf = ({ events }: ProgramTables, kind: EventKind) =>
  Array.from({ length: events.count }, (_, i) => i)
    .filter((i) => events.kind[i] === kind)
    .map((i) => ({ value: events.value[i], tool: events.tool[i], move: events.move[i], line: events.line[i] }));

function lengthMm({ moves }: ProgramTables, from: number): number {
  let length = 0;
  for (let i = from + 1; i < moves.count; i++) {
    length += Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1], moves.z[i] - moves.z[i - 1]);
  }
  return length;
}

describe("straight moves", () => {
  test("absolute and relative positions; G90 and G91 switch the filament too", () => {
    const tables = readProgram("G90\nG1 X10 Y5 Z1\nG91\nG1 X-2 Z0.5\nG1 E3\nG90\nG1 E0.5\n");
    expect(ends(tables)).toEqual([
      [10, 5, 1],
      [8, 5, 1.5],
      [8, 5, 1.5],
      [8, 5, 1.5],
    ]);
    expect(tables.moves.filamentMm[2]).toBeCloseTo(3, 6);
    expect(tables.moves.filamentMm[3]).toBeCloseTo(-2.5, 6);
  });

  test("M83 makes the filament relative while positions stay absolute", () => {
    const tables = readProgram("G90\nM83\nG1 X10 E1\nG1 X20 E1\n");
    expect(ends(tables).map(([x]) => x)).toEqual([10, 20]);
    expect(tables.filamentPerToolMm[0]).toBeCloseTo(2, 6);
  });

  test("the feed is modal and in mm/min", () => {
    const { moves } = readProgram("G1 X1 F3000\nG1 X2\nM220 S50\nG1 X3\n");
    // F3000 is 50 mm/s: arithmetic.
    expect(Array.from(moves.feedMmS)).toEqual([50, 50, 25]);
  });

  test("inches: 1 in is exactly 25.4 mm (NIST SP 811)", () => {
    const tables = readProgram("G20\nG1 X1 Y2 F60\nG21\nG1 X1\n");
    expect(ends(tables)).toEqual([
      [25.4, 50.8, 0],
      [1, 50.8, 0],
    ]);
    expect(tables.moves.feedMmS[0]).toBeCloseTo(25.4, 5);
  });

  test("G92 names a position without moving", () => {
    const tables = readProgram("G1 X10\nG92 X0\nG1 X5\nG92\nG1 X1 Y1\n");
    expect(ends(tables).map(([x, y]) => [x, y])).toEqual([
      [10, 0],
      [15, 0],
      [16, 1],
    ]);
  });

  test("a line of axis words alone repeats the motion in force (RS274)", () => {
    expect(ends(readProgram("G1 X1\nX2 Y2\n")).at(-1)).toEqual([2, 2, 0]);
  });

  test("several commands on a line each have their words", () => {
    expect(ends(readProgram("G91 G1 X2\nG1 X2\n")).map(([x]) => x)).toEqual([2, 4]);
  });

  test("homing goes to zero on the named axes only", () => {
    expect(ends(readProgram("G1 X5 Y6 Z7\nG28 X\n")).at(-1)).toEqual([0, 6, 7]);
    expect(kinds(readProgram("G28\n"))).toEqual([MoveKind.home]);
  });

  test("the flow factor counts towards the filament that is used", () => {
    expect(readProgram("M83\nM221 S90\nG1 X10 E2\n").filamentPerToolMm[0]).toBeCloseTo(1.8, 6);
  });
});

describe("kinds of move", () => {
  test("drawing back, travelling, restoring and printing are told apart", () => {
    const tables = readProgram("M83\nG1 X1 E1\nG1 E-4\nG0 X9\nG1 E4\nG1 X12 E1\n");
    expect(kinds(tables)).toEqual([
      MoveKind.print,
      MoveKind.retract,
      MoveKind.travel,
      MoveKind.restore,
      MoveKind.print,
    ]);
    expect(tables.filamentPerToolMm[0]).toBeCloseTo(2, 6);
  });

  test("what is restored beyond what was drawn back counts as used", () => {
    expect(readProgram("M83\nG1 E-4\nG1 E5\n").filamentPerToolMm[0]).toBeCloseTo(1, 6);
  });

  test("the firmware's own retraction, with the length it was given", () => {
    const tables = readProgram("M207 S3 F2400\nM83\nG1 X1 E1\nG10\nG0 X5\nG11\nG1 X6 E1\n");
    expect(kinds(tables)).toEqual([
      MoveKind.print,
      MoveKind.retract,
      MoveKind.travel,
      MoveKind.restore,
      MoveKind.print,
    ]);
    expect(tables.moves.filamentMm[1]).toBe(-3);
    expect(tables.moves.feedMmS[1]).toBeCloseTo(40, 5);
    expect(tables.filamentPerToolMm[0]).toBeCloseTo(2, 6);
  });

  test("filament is counted per tool", () => {
    const tables = readProgram("M83\nT0\nG1 X1 E1\nT1\nG1 X2 E3\n");
    expect(tables.filamentPerToolMm).toEqual([expect.closeTo(1, 6), expect.closeTo(3, 6)]);
  });
});

describe("arcs", () => {
  // Semantics: NIST RS274/NGC Interpreter, version 3 (NISTIR 6556), section 3.5.3.
  test("a full circle of radius 10 by G2 is 62.831853 mm long", () => {
    const { radiusMm, sweep } = arcFromCentre(10, 0, 10, 0, -10, 0, true)!;
    expect(Math.abs(radiusMm * sweep)).toBeCloseTo(62.831853, 6);
    const tables = readProgram("G1 X10 Y0\nG2 X10 Y0 I-10 J0\n");
    expect(lengthMm(tables, 0)).toBeGreaterThan(62.82);
    expect(lengthMm(tables, 0)).toBeLessThanOrEqual(62.831854);
    expect(ends(tables).at(-1)).toEqual([10, 0, 0]);
  });

  test.each([
    ["G3 X0 Y10 I-10 J0", Math.PI * 5],
    ["G2 X0 Y10 I-10 J0", Math.PI * 15],
    ["G3 X0 Y10 R10", Math.PI * 5],
    ["G3 X0 Y10 R-10", Math.PI * 15],
    ["G2 X0 Y10 R10", Math.PI * 5],
    ["G3 X-10 Y0 R10", Math.PI * 10],
  ])("%s from X10 Y0 is %f mm", (line, expected) => {
    const tables = readProgram(`G1 X10 Y0\n${line}\n`);
    expect(lengthMm(tables, 0)).toBeCloseTo(expected, 1);
  });

  test("a helix rises evenly and shares its filament out", () => {
    const tables = readProgram("M83\nG1 X10 Y0\nG3 X-10 Y0 I-10 J0 Z2 E3\n");
    expect(ends(tables).at(-1)).toEqual([-10, 0, 2]);
    expect(tables.filamentPerToolMm[0]).toBeCloseTo(3, 4);
    expect(lengthMm(tables, 0)).toBeCloseTo(Math.hypot(Math.PI * 10, 2), 1);
  });

  test("an arc that cannot be is a straight move to its end", () => {
    expect(ends(readProgram("G1 X10\nG2 X50 Y0 R1\n")).at(-1)).toEqual([50, 0, 0]);
    expect(ends(readProgram("G1 X10\nG2 X20 Y5\n")).at(-1)).toEqual([20, 5, 0]);
  });
});

describe("events", () => {
  test("temperatures with their tool, waiting or not", () => {
    const tables = readProgram("M104 S200 T1\nM109 R180\nM140 S60\nM190 S60\n");
    expect(eventsOf(tables, EventKind.nozzleTemperature)).toMatchObject([{ value: 200, tool: 1, line: 0 }]);
    expect(eventsOf(tables, EventKind.nozzleTemperatureWait)).toMatchObject([{ value: 180, tool: 0 }]);
    expect(eventsOf(tables, EventKind.bedTemperature)).toMatchObject([{ value: 60 }]);
    expect(eventsOf(tables, EventKind.bedTemperatureWait)).toMatchObject([{ value: 60 }]);
  });

  test("fans with and without duty", () => {
    const tables = readProgram("M106\nM106 P1 S128\nM107\nM126\nM127\n");
    expect(eventsOf(tables, EventKind.fan).map(({ value, tool }) => [value, tool])).toEqual([
      [255, 0],
      [128, 1],
      [0, 0],
      [255, 0],
      [0, 0],
    ]);
  });

  test("acceleration, cornering and pressure advance in all ways of saying them", () => {
    const tables = readProgram(
      "M204 P500 T900 R1200\nM205 X8 J0.02\nM566 X600\nM900 K0.05\nM572 D0 S0.03\n" +
        "SET_VELOCITY_LIMIT ACCEL=2000 SQUARE_CORNER_VELOCITY=5\nset_pressure_advance advance=0.04\nSET_RETRACTION RETRACT_LENGTH=1.2 RETRACT_SPEED=30\n",
    );
    const values = (kind: EventKind) => eventsOf(tables, kind).map(({ value }) => value);
    expect(values(EventKind.printAcceleration)).toEqual([500, 2000]);
    expect(values(EventKind.travelAcceleration)).toEqual([900, 2000]);
    expect(values(EventKind.retractAcceleration)).toEqual([1200]);
    expect(values(EventKind.jerkX)).toEqual([8, 10, 5]);
    expect(values(EventKind.junctionDeviation)).toEqual([0.02]);
    expect(values(EventKind.pressureAdvance)).toEqual([0.05, 0.03, 0.04]);
    expect(values(EventKind.firmwareRetractLength)).toEqual([1.2]);
    expect(values(EventKind.firmwareRetractSpeed)).toEqual([30]);
  });

  test("dwells in seconds or milliseconds; motors off only without axes", () => {
    const tables = readProgram("G4 S2\nG4 P500\nM84 X Y\nM84\n");
    expect(eventsOf(tables, EventKind.dwell).map(({ value }) => value)).toEqual([2, 0.5]);
    expect(eventsOf(tables, EventKind.motorsOff)).toMatchObject([{ line: 3 }]);
  });

  test("events stand before the move that follows them", () => {
    const tables = readProgram("G1 X1\nM106 S99\nG1 X2\n");
    expect(eventsOf(tables, EventKind.fan)[0].move).toBe(1);
    expect(tables.events.startByte[0]).toBe(6);
    expect(tables.events.endByte[0]).toBe(15);
  });
});

test("unknown commands are counted and change nothing", () => {
  const tables = readProgram("M7777 X5\nG555\nWHISTLE TUNE=3\nM7777\nG1 X1\n");
  expect(tables.unknown).toEqual(
    expect.arrayContaining([
      { command: "M7777", count: 2 },
      { command: "G555", count: 1 },
      { command: "WHISTLE", count: 1 },
    ]),
  );
  expect(ends(tables)).toEqual([[1, 0, 0]]);
});

test("empty and odd programs give empty tables", () => {
  for (const text of ["", "\n\n", ";", "()", "%"]) {
    const tables = readProgram(text);
    expect(tables.moves.count).toBe(0);
    expect(tables.layers).toEqual([]);
  }
  expect(readProgram(new Uint8Array([0, 1, 2, 0, 255])).binaryBytes).toBe(2);
});

describe("the filament of each tool is followed by itself", () => {
  const start = ["G28", "G90", "M83", "G1 X10 Y10 Z0.2 F6000", "G1 X30 Y10 E1 F1800"];
  const kindsOf = (...lines: string[]) => kinds(readProgram([...start, ...lines].join("\n"))).slice(3);
  const { print, travel, retract, restore } = MoveKind;

  test("what one tool has drawn back is not owed by the next", () => {
    const lines = ["G1 E-10 F2400", "T1", "G1 X50 F6000", "G1 X90 E2 F1800", "G1 Y90 E2"];
    expect(kindsOf(...lines)).toEqual([retract, travel, print, print]);
  });

  test("a wipe under a flow factor leaves nothing owed", () => {
    const wiped = ["M221 S105", "G1 X28 E-0.8 F6000", "G1 X50 Y50", "G1 E0.8 F2400", "G1 X51 E0.02", "G1 X70 E1"];
    expect(kindsOf(...wiped)).toEqual([travel, travel, restore, print, print]);
  });

  test("behind a lean restart lines are laid again at once; the gap it left is not counted as fed", () => {
    const lean = ["G1 E-0.8 F2400", "G1 X50", "G1 E0.75", "G1 X51 E0.02", "G1 X70 E1"];
    expect(kindsOf(...lean)).toEqual([retract, travel, restore, print, print]);
    // 1 + 0.02 + 1 mm are pushed behind the nozzle, less the 0.05 mm that were missing.
    expect(readProgram([...start, ...lean].join("\n")).filamentPerToolMm[0]).toBeCloseTo(1.97, 9);
  });

  test("a firmware's retraction of a length nobody said is no length of 0", () => {
    const tables = readProgram([...start, "G10", "G1 X50", "G11", "G1 X60 E1"].join("\n"));
    expect(kinds(tables).slice(3)).toEqual([retract, travel, restore, print]);
    expect(tables.retractionUnsaid).toBe(true);
    expect(Array.from(tables.moves.filamentMm).slice(3, 6)).toEqual([0, 0, 0]);
  });
});

describe("words as programs of all sorts write them", () => {
  test("exponents are figures where they cannot be words", () => {
    const { moves } = readProgram("G90\nM83\nG1 X10.01 E1e-05\nG1 X1.5e+1 E9.5e-3\nG1 X20 e1\nG1X30E5\ng1 x5e-2\n");
    expect(Array.from(moves.x).map((x) => Math.round(x * 100) / 100)).toEqual([10.01, 15, 20, 30, 5]);
    expect(Array.from(moves.filamentMm).map((e) => Math.round(e * 1e5) / 1e5)).toEqual([0.00001, 0.0095, 1, 5, -2]);
  });

  test.each(["\n", "\r\n", "\r"])("lines end in %j", (lineEnd) => {
    const text = ["; top", "G90", "M83", "G1 X10 Z0.2 E1", "G1 X20 E1", ""].join(lineEnd);
    for (const size of [1, 3, 1000]) {
      const reader = new ProgramReader();
      const bytes = new TextEncoder().encode(text);
      for (let at = 0; at < bytes.length; at += size) reader.push(bytes.slice(at, at + size));
      const tables = reader.finish();
      expect([tables.lineEnd, tables.lineCount, tables.moves.count, tables.layers.length]).toEqual([lineEnd, 5, 2, 1]);
    }
  });

  test("text behind a pause or a display command heats nothing", () => {
    const { events } = readProgram("M0 Set M104 S240 now\nM1 Heat M104 S240\nM117 M104 S240\n");
    expect(events.count).toBe(0);
  });

  test("arcs lie in the plane that was chosen (RS274/NGC, section 3.5.3)", () => {
    // Half a circle of radius 5 in the ZX plane: 15.708 mm long, and Y stays where it is.
    const tables = readProgram("G90\nG1 X10 Y10 Z5.2\nG18\nG3 X20 Z5.2 I5 K0\n");
    expect(lengthMm(tables, 0)).toBeCloseTo(5 * Math.PI, 1);
    expect(new Set(Array.from(tables.moves.y).slice(1))).toEqual(new Set([10]));
    expect(Math.max(...Array.from(tables.moves.z))).toBeCloseTo(10.2, 1);
    const other = readProgram("G90\nG1 X10 Y10 Z5.2\nG19\nG2 Y20 Z5.2 J5 K0\n");
    expect(new Set(Array.from(other.moves.x).slice(1))).toEqual(new Set([10]));
    expect(lengthMm(other, 0)).toBeCloseTo(5 * Math.PI, 1);
  });
});

describe("nothing grows with the input without a bound", () => {
  test("names of commands, moves of arcs", () => {
    const names = Array.from({ length: 5000 }, (_, i) => `WORD_${i} A=1`).join("\n");
    expect(readProgram(names).unknown).toHaveLength(200);
    const arcs = Array.from({ length: 6000 }, () => "G2 X50 Y50 I1000000 J0 E1").join("\n");
    expect(readProgram(`G28\n${arcs}`).moves.count).toBeLessThanOrEqual(8_012_000);
  });
});

test("plain moves are cut into the same words as any line", () => {
  const word = fc
    .tuple(fc.constantFrom(..."XYZEF"), fc.double({ min: -999, max: 999, noNaN: true }), fc.integer({ min: 0, max: 5 }))
    .map(([letter, value, decimals]) => `${letter}${value.toFixed(decimals)}`);
  fc.assert(
    fc.property(
      fc.constantFrom("G0", "G1"),
      fc.uniqueArray(word, { maxLength: 5, selector: ([letter]) => letter }),
      fc.constantFrom("\n", "\r\n"),
      (command, words, lineEnd) => {
        const text = [command, ...words].join(" ");
        const bytes = new TextEncoder().encode(text + lineEnd);
        const move = new PlainMove();
        const end = cutPlainMove(move, bytes, 0, 10);
        const line = new Line();
        splitWords(line, bytes, 0, text.length);
        const figure = (letter: string) => line.value(letter.charCodeAt(0));
        if (end < 0) return words.some((one) => one.replace(/\D/g, "").length > 9);
        expect(end).toBe(bytes.length - 1);
        expect([move.x, move.y, move.z, move.e, move.f]).toEqual([..."XYZEF"].map(figure));
        return true;
      },
    ),
  );
});
