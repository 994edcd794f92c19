/** The trace against an interpreter that shares nothing with the core: what holds at every bead, and what happened on the way to it. */
import { proveEdits } from "@/core/edits/prove";
import { EventKind } from "@/core/machine/event-kind";
import { readChunks } from "@/core/edits/see-file";
import { compareTraces } from "@/core/trace/compare";
import { slotOf } from "@/core/trace/fields";
import { TraceWalk } from "@/core/trace/walk";
import { interpret } from "../helpers/beads";
import { editable, proved } from "../helpers/edits";
import { parsedEdit, sampleFiles } from "../helpers/edit-samples";
import { bytesOf } from "../helpers/programs";

/** What the interpreter knows: straight moves, fans by duty, filament drawn back by moves. */
const known = sampleFiles.filter(({ text }) => !/^(G[23] |M12[67]|G1[01]\b)/m.test(text));

test.each(known.map((file) => [file.name, file] as const))("%s: every bead and every way", (_, { text, printer }) => {
  const fanPerTool = printer.fanPerTool && printer.tools > 1;
  const { beads, end } = interpret(text, { fanPerTool });
  const walk = new TraceWalk(readChunks([bytesOf(text)], printer));
  const { bead } = walk;
  const set = (kind: EventKind, index = 0) => bead.set[slotOf(kind, index)];
  for (const want of beads) {
    expect(walk.next()).toBe(true);
    const is = [bead.fromX, bead.fromY, bead.fromZ, bead.x, bead.y, bead.z];
    [...want.from, ...want.to].forEach((mm, i) => expect(is[i]).toBeCloseTo(mm, 3));
    expect([bead.line + 1, bead.tool]).toEqual([want.line, want.tool]);
    expect(bead.filamentMm).toBeCloseTo((want.filamentMm * want.flowPercent) / 100, 4);
    expect(bead.feedMmS * 60).toBeCloseTo(want.feedMmMin, 1);
    expect(set(EventKind.nozzleTemperature, bead.tool)).toBe(want.nozzleC);
    expect(set(EventKind.fan, fanPerTool ? bead.tool : 0) || 0).toBe(want.fan);
    expect(set(EventKind.printAcceleration)).toEqual(want.accelerationMmS2);
    const { way } = bead;
    expect([way.lengthMm, way.drawnMm]).toEqual([
      expect.closeTo(want.way.lengthMm, 2),
      expect.closeTo(want.way.backMm, 3),
    ]);
    expect(way.balanceMm).toBeCloseTo(want.way.forthMm - want.way.backMm, 3);
    if (way.moves > 0) {
      // The interpreter leaves homing out, and with it how low the nozzle was on its way to the first bead.
      if (want !== beads[0]) expect(way.lowestMm).toBeCloseTo(want.way.lowestMm, 3);
      expect(way.highestMm).toBeCloseTo(want.way.highestMm, 3);
    }
  }
  expect(walk.next()).toBe(false);
  expect([bead.x, bead.y, bead.z].map((mm) => mm.toFixed(2))).toEqual([end.x, end.y, end.z].map((mm) => mm.toFixed(2)));
  expect(set(EventKind.bedTemperature)).toBe(end.bedC);
});

test("a program held against itself is the same, and one line dropped is found where it stood", () => {
  const { text, printer } = sampleFiles[0];
  const tables = readChunks([bytesOf(text)], printer);
  expect(compareTraces(tables, tables, {}).differences).toEqual([]);
  const lines = text.split("\n");
  const at = lines.indexOf("M106 S255");
  const { differences } = compareTraces(tables, readChunks([bytesOf(lines.toSpliced(at, 1).join("\n"))], printer), {});
  expect(differences[0]).toMatchObject({ field: "fan", layer: 2 });
  expect(differences[0].message).toMatch(/^Layer 3, line \d+ has the fan set to nothing instead of 100 %\.$/);
});

describe("what is said of a proof is no more than was looked at", () => {
  const { text, printer } = sampleFiles[0];

  test("lines that may become anything: how far it was looked", () => {
    const act = { comment: "left out" };
    const find = parsedEdit({ kind: "find", find: { command: "G1" }, scope: { fromLayer: 5, countsFrom: 1 }, act });
    const { passed } = proved(text, [find], printer);
    const before = interpret(text).beads.filter(({ to }) => to[2] < 0.9).length;
    expect(passed[0]).toMatch(
      new RegExp(`^The first ${before} lines of material are as they should be; from there on`),
    );
  });

  test("a line of the file's own that undoes a plan", () => {
    const changes = [{ from: { heightMm: 0.6 }, settings: { nozzleTemperature: 225 } }];
    const { mismatches, passed } = proved(text, [parsedEdit({ kind: "height-plan", changes })], printer);
    expect(mismatches.length).toBeGreaterThan(0);
    expect(passed.join(" ")).not.toMatch(/as they should be|Every layer/);
  });

  test("a stack with nothing in it says nothing of lines", () => {
    const proof = proveEdits([], editable(text, printer), printer);
    expect(proof.ok && proof.value.passed.join(" ")).not.toMatch(/lines of material/);
  });
});
