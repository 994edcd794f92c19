import { MoveKind, MoveTable, MoveTableBuilder } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { findStrikes, HeadShape, undersideMm } from "@/core/motion/clearance";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf } from "@/core/shelf/printer";
import { ladle } from "../helpers/demo";

const head: HeadShape = { tipRadiusMm: 0.4, coneDegrees: 45, radiusMm: 20, heightMm: 5 };

/** A square tube of 10 mm at `x`, laid from the bed to `heightMm`; the way there at a safe height. */
function tube(out: MoveTableBuilder, x: number, heightMm: number, safeMm: number): void {
  out.add(x, 50, safeMm, 0, 100, MoveKind.travel, 0);
  for (let z = 0.2; z <= heightMm + 1e-9; z += 0.2) {
    out.add(x, 50, z, 0, 100, MoveKind.travel, 0);
    for (const [dx, dy] of [
      [10, 0],
      [10, 10],
      [0, 10],
      [0, 0],
    ])
      out.add(x + dx, 50 + dy, z, 0.3, 40, MoveKind.outerWall, 0);
  }
  out.add(x, 50, safeMm, 0, 100, MoveKind.travel, 0);
}

function tubes(distanceMm: number, heightMm: number): MoveTable {
  const out = new MoveTableBuilder();
  tube(out, 50, heightMm, 40);
  tube(out, 50 + 10 + distanceMm, heightMm, 40);
  return out.take();
}

test("the underside of the head is the tip, then the cone, then the body", () => {
  // A cone of 45° rises as far as it goes out: plain geometry.
  expect(undersideMm(head, 0.3)).toBe(0);
  expect(undersideMm(head, 2.4)).toBeCloseTo(2, 9);
  expect(undersideMm(head, 5.4)).toBeCloseTo(5, 9);
  expect(undersideMm(head, 19)).toBe(5);
  expect(undersideMm(head, 20.5)).toBe(Infinity);
});

describe("pieces printed one after the other", () => {
  test("the head strikes the first if it stands nearer than the head reaches", () => {
    const { strike } = findStrikes(tubes(15, 20), head);
    expect(strike).toMatchObject({ part: "head" });
    expect(strike!.besideMm).toBeGreaterThan(13);
    expect(strike!.besideMm).toBeLessThan(20);
    expect(strike!.z).toBeLessThan(15);
  });

  test("further apart than the head reaches, nothing is struck", () => {
    expect(findStrikes(tubes(22, 20), head).strike).toBeNull();
  });

  test("a first piece lower than the head hangs is passed over, but not by the nozzle", () => {
    expect(findStrikes(tubes(15, 4), head).strike).toBeNull();
    expect(findStrikes(tubes(1.5, 4), head).strike).toMatchObject({ part: "nozzle" });
  });

  test("a way across what already stands is a strike", () => {
    const out = new MoveTableBuilder();
    tube(out, 50, 20, 40);
    out.add(20, 55, 40, 0, 100, MoveKind.travel, 0);
    out.add(20, 55, 10, 0, 100, MoveKind.travel, 0);
    out.add(90, 55, 10, 0, 100, MoveKind.travel, 0);
    const { strike } = findStrikes(out.take(), { ...head, radiusMm: 2, heightMm: 50 });
    expect(strike).toMatchObject({ part: "nozzle", z: 10 });
    expect(strike!.x).toBeGreaterThan(40);
    expect(strike!.x).toBeLessThan(52);
  });
});

test("layer by layer nothing is ever struck, whatever hops and travels there are", () => {
  const out = new MoveTableBuilder();
  for (let z = 0.2; z < 30; z += 0.2) {
    for (const x of [50, 63]) {
      out.add(x, 50, z + 0.4, 0, 100, MoveKind.travel, 0);
      out.add(x, 50, z, 0, 100, MoveKind.travel, 0);
      out.add(x + 8, 50, z, 0.3, 40, MoveKind.outerWall, 0);
      out.add(x, 50, z, 0.3, 40, MoveKind.outerWall, 0);
    }
  }
  expect(findStrikes(out.take(), head)).toEqual({ strike: null, steep: null, gaveUp: false });
});

test("moves beyond any bed, and too many long ones, neither take all memory nor all time", () => {
  const far = new MoveTableBuilder();
  far.add(124, 110, 5, 0, 100, MoveKind.travel, 0);
  far.add(124, 4294967296, 5, 1, 100, MoveKind.print, 0);
  far.add(124, 1e20, 0.4, 1, 100, MoveKind.print, 0);
  expect(findStrikes(far.take(), head)).toMatchObject({ strike: null, gaveUp: false });
  const many = new MoveTableBuilder();
  // One high bead, then low travels far from it: nothing is struck, and looking along them all would take hours.
  many.add(4900, 100, 1200, 0, 100, MoveKind.travel, 0);
  many.add(4910, 100, 1200, 1, 100, MoveKind.print, 0);
  many.add(0, 2000, 1300, 0, 100, MoveKind.travel, 0);
  for (let i = 0; i < 20_000; i++) many.add(i % 2 ? 0 : 4900, 2000, 3, 0, 100, MoveKind.travel, 0);
  expect(findStrikes(many.take(), head)).toMatchObject({ strike: null, gaveUp: true });
});

test.each([
  [30, null],
  [44, null],
  [46, 46],
  [60, 60],
])("a line laid at %d°, under a cone of 45°, is steep: %p", (degrees, found) => {
  const out = new MoveTableBuilder();
  out.add(10, 10, 0.2, 0, 100, MoveKind.travel, 0);
  out.add(20, 10, 0.2 + 10 * Math.tan((degrees * Math.PI) / 180), 0.3, 20, MoveKind.print, 0);
  const { steep } = findStrikes(out.take(), head);
  if (found === null) expect(steep).toBeNull();
  else expect(steep!.degrees).toBeCloseTo(found, 4);
});

test("the report of a file says where it strikes", () => {
  const piece = (x: number) =>
    Array.from({ length: 60 }, (_, i) => [
      `G0 X${x} Y50 Z${(0.2 * (i + 1)).toFixed(2)} F6000`,
      `G1 X${x + 8} E0.3 F1800`,
      `G1 Y58 E0.3`,
    ]).flat();
  const text = ["M83", ...piece(50), "G0 Z30", "G0 X70 Y50", ...piece(70)].join("\n");
  const { report } = reportOf(readProgram(text), limitsFor(ladle), headOf(ladle));
  expect(report.strike).toMatchObject({ part: "head", zMm: expect.any(Number) as number });
  expect(text.split("\n")[report.strike!.line - 1]).toMatch(/^G[01] X7|^G0 X70/);
});
