import { EventKind, MoveKind } from "@/core/gcode/moves";
import { ProgramTables, readProgram } from "@/core/gcode/read";
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
