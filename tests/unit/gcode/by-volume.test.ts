/**
 * Filament counted by its volume (M200; common practice, no source): E is mm³ then, and 1 mm of filament of 1.75 mm is π/4 · 1.75² = 2.40528 mm³
 * (area of a circle).
 */
import { checkFile } from "@/core/checks/file";
import { readProgram } from "@/core/gcode/read";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { ladle } from "../helpers/demo";
import { proved, tryEdits } from "../helpers/edits";

const MM3_PER_MM = 2.40528;

/** A tube whose filament is said in mm, or in mm³ behind an M200. */
function tube(unit: "mm" | "mm3", relative = true): string {
  const lines = ["M104 S210", "M109 S210", "G28", "G90", relative ? "M83" : "M82"];
  if (unit === "mm3") lines.push("M200 D1.75");
  let counted = 0;
  const e = (mm: number) => {
    const said = unit === "mm3" ? mm * MM3_PER_MM : mm;
    return (relative ? said : (counted += said)).toFixed(6);
  };
  lines.push("G92 E0", "M106 S255");
  for (let layer = 0; layer < 6; layer++) {
    lines.push(`G1 E${e(-2)} F1800`, `G0 X20 Y20 Z${(0.2 * (layer + 1)).toFixed(1)} F6000`, `G1 E${e(2)} F1800`);
    for (const [x, y] of [
      [40, 20],
      [40, 40],
      [20, 40],
      [20, 20],
    ])
      lines.push(`G1 X${x} Y${y} E${e(0.66)} F1500`);
  }
  lines.push("M104 S0", "M107", "M84");
  return `${lines.join("\n")}\n`;
}

test.each([true, false])("is read as the same filament as lengths, counted relative: %s", (relative) => {
  const [lengths, volumes] = [readProgram(tube("mm", relative)), readProgram(tube("mm3", relative))];
  expect(volumes.moves.count).toBe(lengths.moves.count);
  for (let i = 0; i < lengths.moves.count; i++) {
    expect(volumes.moves.kind[i]).toBe(lengths.moves.kind[i]);
    expect(volumes.moves.filamentMm[i]).toBeCloseTo(lengths.moves.filamentMm[i], 4);
  }
  expect(volumes.filamentPerToolMm[0]).toBeCloseTo(6 * 4 * 0.66, 3);
  expect(volumes.layers.length).toBe(6);
  expect([lengths.byVolume, volumes.byVolume]).toEqual([null, 5]);
});

test("a thickness of 0 counts by length again, and says nothing", () => {
  const plain = readProgram(tube("mm").replace("G92 E0", "M200 D0\nG92 E0"));
  expect(plain.byVolume).toBeNull();
  expect(plain.filamentPerToolMm[0]).toBeCloseTo(6 * 4 * 0.66, 3);
});

test("it is said, and what would write filament of its own is refused with its line; other edits are done", () => {
  const { report } = reportOf(readProgram(tube("mm3")), limitsFor(ladle));
  expect(checkFile(report, ladle)).toContainEqual(expect.objectContaining({ check: "by-volume", where: "line 6" }));
  for (const edit of [
    { kind: "pause", at: { layer: 3, countsFrom: 1 }, beep: false },
    { kind: "scale-flow", percent: 90 },
    { kind: "height-plan", changes: [{ from: { heightMm: 0.6 }, settings: { retractionLength: 1 } }] },
  ]) {
    expect(tryEdits(tube("mm3"), [edit as never])).toMatchObject({ ok: false, message: /M200/ });
    expect(tryEdits(tube("mm"), [edit as never])).toMatchObject({ ok: true });
  }
  const moved = proved(tube("mm3"), [{ kind: "move", byMm: { x: 5, y: 0, z: 0 } }]);
  expect(moved.wrong).toEqual([]);
  const faster = proved(tube("mm3"), [{ kind: "scale-speed", percent: 120 }]);
  expect(faster.wrong).toEqual([]);
});
