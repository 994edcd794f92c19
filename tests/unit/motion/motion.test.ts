import { EventKind, EventTableBuilder, MoveKind, MoveTable, MoveTableBuilder } from "@/core/gcode/moves";
import { deviationForJerkMm, deviationSpeedMmS, jerkForDeviationMmS } from "@/core/motion/cornering";
import { MotionLimits, moveSeconds } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { trapezoidSeconds } from "@/core/motion/trapezoid";
import { printers } from "../helpers/demo";

const limits: MotionLimits = {
  printAccelerationMmS2: 1000,
  travelAccelerationMmS2: 1000,
  retractAccelerationMmS2: 1000,
  jerkMmS: 0.0001,
  jerkZMmS: 0.4,
  jerkEMmS: 1000,
  axisAccelerationMmS2: { x: Infinity, y: Infinity, z: Infinity, e: Infinity },
  lookAheadMoves: 1_000_000,
  highestFeedMmS: { x: 500, y: 500, z: 10, e: 50 },
};

function table(points: [number, number, number?][], feedMmS: number, kind: number = MoveKind.print): MoveTable {
  const builder = new MoveTableBuilder();
  for (const [x, y, z = 0] of points) builder.add(x, y, z, 0.001, feedMmS, kind, 0);
  return builder.take();
}

const total = (seconds: Float32Array) => seconds.reduce((sum, value) => sum + value, 0);

describe("one straight move", () => {
  test("100 mm from rest over 50 mm/s to rest at 1000 mm/s² takes 2.05 s (arithmetic)", () => {
    expect(trapezoidSeconds(100, 0, 50, 0, 1000)).toBeCloseTo(2.05, 9);
    expect(total(moveSeconds(table([[100, 0]], 50), null, limits))).toBeCloseTo(2.05, 3);
  });

  test("too short to reach its speed, it is a triangle: 2·√(s/a)", () => {
    expect(trapezoidSeconds(1, 0, 100, 0, 1000)).toBeCloseTo(2 * Math.sqrt(1 / 1000), 9);
  });

  test("entered and left at cruise speed, it is length by speed", () => {
    expect(trapezoidSeconds(30, 60, 60, 60, 1000)).toBeCloseTo(0.5, 9);
  });

  test("numerical integration agrees", () => {
    for (const [length, entry, cruise, exit, a] of [
      [12, 5, 80, 20, 700],
      [3, 0, 200, 10, 1500],
      [40, 30, 60, 0, 900],
    ]) {
      const step = 1e-5;
      let v = entry;
      let s = 0;
      let t = 0;
      while (s < length && t < 100) {
        const brake = Math.sqrt(Math.max(0, exit * exit + 2 * a * (length - s)));
        v = Math.max(1e-3, Math.min(v + a * step, cruise, brake));
        s += v * step;
        t += step;
      }
      expect(trapezoidSeconds(length, entry, cruise, exit, a)).toBeCloseTo(t, 2);
    }
  });
});

describe("corners", () => {
  test("junction deviation, straight on and turning back", () => {
    expect(deviationSpeedMmS(1, 1000, 0.02)).toBe(Infinity);
    expect(deviationSpeedMmS(-1, 1000, 0.02)).toBeCloseTo(0, 6);
  });

  test("junction deviation at a right angle: v² = a·δ·sin 45° / (1 − sin 45°)", () => {
    // Published as a cornering note for open motion firmware, 2011 (from memory).
    const sine = Math.sin(Math.PI / 4);
    expect(deviationSpeedMmS(0, 1000, 0.02)).toBeCloseTo(Math.sqrt((1000 * 0.02 * sine) / (1 - sine)), 9);
  });

  test("jerk 8 at 1000 mm/s² compares to a deviation of 0.0256 mm (common practice, no source)", () => {
    expect(deviationForJerkMm(8, 1000)).toBeCloseTo(0.0256, 9);
    expect(jerkForDeviationMmS(0.0256, 1000)).toBeCloseTo(8, 9);
  });
});

describe("look-ahead", () => {
  test("a straight line cut in pieces takes as long as the whole", () => {
    const whole = total(moveSeconds(table([[100, 0]], 50), null, limits));
    const pieces = total(
      moveSeconds(
        table(
          Array.from({ length: 200 }, (_, i) => [(i + 1) / 2, 0]),
          50,
        ),
        null,
        limits,
      ),
    );
    expect(pieces).toBeCloseTo(whole, 2);
  });

  test("a corner with hardly any jerk is a stop: two moves of 2.05 s (hand-worked)", () => {
    const seconds = moveSeconds(
      table(
        [
          [100, 0],
          [100, 100],
        ],
        50,
      ),
      null,
      limits,
    );
    expect(total(seconds)).toBeCloseTo(4.1, 2);
  });

  test("a corner at jerk 10 is taken at 10 mm/s (hand-worked)", () => {
    const seconds = moveSeconds(
      table(
        [
          [100, 0],
          [100, 100],
        ],
        50,
      ),
      null,
      { ...limits, jerkMmS: 10 },
    );
    // Each leg: 0 or 5 mm/s at the far end (half a jerk from rest), 10 mm/s in the corner.
    const leg = trapezoidSeconds(100, 5, 50, 10, 1000);
    expect(seconds[0]).toBeCloseTo(leg, 3);
  });

  test("a turn back stops under junction deviation", () => {
    const seconds = moveSeconds(
      table(
        [
          [100, 0],
          [0, 0],
        ],
        50,
      ),
      null,
      { ...limits, junctionDeviationMm: 0.05 },
    );
    expect(total(seconds)).toBeCloseTo(4.1, 2);
  });

  test("short moves before a stop brake in time", () => {
    const points: [number, number][] = Array.from({ length: 20 }, (_, i) => [0.1 * (i + 1), 0]);
    // 2 mm at 1000 mm/s² from rest to rest, never 200 mm/s: a triangle.
    expect(total(moveSeconds(table(points, 200), null, limits))).toBeCloseTo(2 * Math.sqrt(2 / 1000), 3);
  });

  test("axes keep their own highest feed", () => {
    const seconds = moveSeconds(table([[0, 0, 10]], 100), null, limits);
    expect(total(seconds)).toBeGreaterThan(1);
  });

  test("acceleration set by the program counts from there on, and dwells are added", () => {
    const events = new EventTableBuilder();
    const place = { number: 0, startByte: 0, endByte: 1 };
    events.add(EventKind.printAcceleration, 250, 0, 0, place);
    events.add(EventKind.dwell, 3, 0, 0, place);
    const seconds = moveSeconds(table([[100, 0]], 50), events.take(), limits);
    expect(total(seconds)).toBeCloseTo(3 + trapezoidSeconds(100, 0, 50, 0, 250), 2);
  });

  test("filament alone takes its own time, homing none", () => {
    const builder = new MoveTableBuilder();
    builder.add(0, 0, 0, 0, 30, MoveKind.home, 0);
    builder.add(0, 0, 0, -5, 25, MoveKind.retract, 0);
    const seconds = moveSeconds(builder.take(), null, { ...limits, jerkEMmS: 0.0001 });
    expect(seconds[0]).toBe(0);
    expect(seconds[1]).toBeCloseTo(trapezoidSeconds(5, 0, 25, 0, 1000), 3);
  });

  test("length by speed is far too short on small parts", () => {
    const points: [number, number][] = Array.from({ length: 40 }, (_, i) => [i % 2, Math.floor(i / 2) * 0.4]);
    const simple = 40 / 60;
    expect(total(moveSeconds(table(points, 60), null, { ...limits, jerkMmS: 8 }))).toBeGreaterThan(simple * 1.3);
  });
});

test("printers corner by what their dialect has", () => {
  const [ladle, whisk] = printers;
  expect(limitsFor(ladle)).toMatchObject({ jerkMmS: 8, printAccelerationMmS2: 1000 });
  expect(limitsFor(ladle).junctionDeviationMm).toBeUndefined();
  expect(limitsFor(whisk)).toMatchObject({ junctionDeviationMm: 0.026 });
});
