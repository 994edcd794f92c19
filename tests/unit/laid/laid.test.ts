/** What lies where in a file: kinds of line, and strands over air, found without anybody's comments. */
import ClipperLib from "clipper-lib";
import { MoveKind, MoveTable } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { kindOfWords } from "@/core/gcode/said-kinds";
import { kindsOf } from "@/core/laid/kinds";
import { OutlineIndex, outlineBetween, ringLengthMm } from "@/core/laid/outline-between";
import { findBridges } from "@/core/laid/over-air";
import { strandsOf } from "@/core/laid/strands";
import { TrialKindKey } from "@/core/trials";
import { buildTrial } from "@/core/trials/build";
import { BEAD_MM, conventions, pieceText } from "../helpers/conventions";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

/** A built trial, and its program read back from its text, which says nothing of kinds. */
function builtAndRead(kind: TrialKindKey) {
  const built = buildTrial({ trial: trialOfKind(kind, ladle, saffron), printer: ladle, spool: saffron });
  return { built, read: readProgram(built.bytes, { asksProgram: false }) };
}

/** A laying move by its ends, to a tenth of a millimetre. */
const placeOf = ({ x, y, z }: MoveTable, i: number) =>
  [x[i - 1], y[i - 1], x[i], y[i], z[i]].map((figure) => figure.toFixed(2)).join(" ");

const walls: number[] = [MoveKind.outerWall, MoveKind.innerWall];

test.each(["temperature", "fan", "bridging", "flow", "cornering"] as const)(
  "the kinds of line of the %s trial are found by geometry alone, as they were built",
  (kind) => {
    const { built, read } = builtAndRead(kind);
    const { kind: seen, from } = kindsOf(read);
    expect(from).toBe("geometry");
    const known = new Map<string, number>();
    for (let i = 1; i < built.moves.count; i++) known.set(placeOf(built.moves, i), built.moves.kind[i]);
    const share = { wall: [0, 0], fill: [0, 0], bridge: [0, 0] };
    for (let i = 1; i < read.moves.count; i++) {
      const own = known.get(placeOf(read.moves, i));
      if (own === undefined || own < MoveKind.outerWall || own > MoveKind.bridge) continue;
      const mm = Math.hypot(read.moves.x[i] - read.moves.x[i - 1], read.moves.y[i] - read.moves.y[i - 1]);
      const of = walls.includes(own) ? "wall" : own === MoveKind.bridge ? "bridge" : "fill";
      share[of][0] += mm;
      // Where a raised digit leans out its wall may count as a bridge, which is none of the wall's shares.
      if (seen[i] === own) share[of][1] += mm;
    }
    expect(share.wall[1] / share.wall[0]).toBeGreaterThan(0.95);
    expect(share.fill[1] / Math.max(1, share.fill[0])).toBeGreaterThan(share.fill[0] > 0 ? 0.9 : -1);
    if (share.bridge[0] > 0) expect(share.bridge[1] / share.bridge[0]).toBeGreaterThan(0.94);
  },
);

test("the bridging trial has a bridge in every bay of every band, as long as its bay", () => {
  const { built, read } = builtAndRead("bridging");
  const found = findBridges(read);
  const levels = [...new Set(found.map(({ layer }) => layer))];
  expect(levels).toHaveLength(built.bands.length);
  for (const layer of levels) {
    const spans = found.filter((one) => one.layer === layer).map(({ spanMm }) => spanMm);
    // Bays of 15, 30, 45 and 60 mm: the specimen's own spans, half a cell of the raster off at either side.
    expect(spans.sort((a, b) => a - b).map((span) => Math.round(span / 5) * 5)).toEqual([15, 30, 45, 60]);
    for (const bridge of found) expect(bridge.stretches.every(({ heldEnds }) => heldEnds === 2)).toBe(true);
  }
});

test("the temperature tower has its bridges in every band, and nothing else hangs", () => {
  const { built, read } = builtAndRead("temperature");
  const found = findBridges(read).filter(({ spanMm }) => spanMm > 10);
  const bandsWith = new Set(
    found.map(({ zMm }) => built.bands.findIndex(({ fromMm, toMm }) => zMm > fromMm && zMm <= toMm + 1e-6)),
  );
  expect(bandsWith.size).toBe(built.bands.length);
  expect(findBridges(read).every(({ spanMm }) => spanMm > 4.5)).toBe(true);
});

test.each(conventions.map((form) => [form.name, form] as const))(
  "nothing of a solid cube is a bridge: %s",
  (_, form) => {
    expect(findBridges(readProgram(pieceText(form, { fillMm: BEAD_MM - 0.05, layers: 12 })))).toEqual([]);
  },
);

test("a sparse fill is no bridge, though its lines cross air", () => {
  expect(findBridges(readProgram(pieceText(conventions[0], { fillMm: 3.4 })))).toEqual([]);
});

test("kinds in a file's own comments count before geometry, and figures in comments are no kinds", () => {
  const text = pieceText(conventions[2]);
  const { kind, from } = kindsOf(readProgram(text));
  expect(from).toBe("comments");
  expect(new Set(kind)).toContain(MoveKind.sparse);
  // Trade words as they stand in files; common practice, no source.
  expect(kindOfWords("External perimeter")).toBe(MoveKind.outerWall);
  expect(kindOfWords("wall inner")).toBe(MoveKind.innerWall);
  expect(kindOfWords("TOP SOLID FILL")).toBe(MoveKind.solid);
  expect(kindOfWords("internal bridge")).toBe(MoveKind.bridge);
  expect(kindOfWords("infill speed = 60")).toBeNull();
  expect(kindOfWords("layer 12")).toBeNull();
});

test("strands know their length, filament and width: a ring of 16 mm, hand-worked", () => {
  const { moves, layers } = readProgram(pieceText(conventions[0], { fillMm: 0 }));
  const [inner, outer] = strandsOf(moves, layers[0]);
  expect(inner.isClosed && outer.isClosed).toBe(true);
  expect(outer.lengthMm).toBeCloseTo(4 * 16, 3);
  expect(inner.lengthMm).toBeCloseTo(4 * (16 - 2 * BEAD_MM), 3);
  expect(outer.widthMm).toBeCloseTo(BEAD_MM, 2);
});

/** Grown by another library: clipper's own offset, sharp corners. */
function grown(ring: { x: number; y: number }[], byMm: number) {
  const worker = new ClipperLib.ClipperOffset(10, 2);
  worker.AddPaths(
    [ring.map(({ x, y }) => ({ X: Math.round(x * 1e5), Y: Math.round(y * 1e5) }))],
    ClipperLib.JoinType.jtMiter,
    ClipperLib.EndType.etClosedPolygon,
  );
  const solution = new ClipperLib.Paths();
  worker.Execute(solution, byMm * 1e5);
  return solution[0].map(({ X, Y }) => ({ x: X / 1e5, y: Y / 1e5 }));
}

const areaOf = (ring: { x: number; y: number }[]) =>
  ring.reduce((sum, a, i) => sum + a.x * ring[(i + 1) % ring.length].y - ring[(i + 1) % ring.length].x * a.y, 0) / 2;

const shapes = {
  square: [0, 1, 2, 3].map((n) => ({ x: [10, 30, 30, 10][n], y: [10, 10, 30, 30][n] })),
  "L of six corners": [
    [0, 0],
    [30, 0],
    [30, 10],
    [12, 10],
    [12, 25],
    [0, 25],
  ].map(([x, y]) => ({ x, y })),
  round: Array.from({ length: 90 }, (_, n) => ({
    x: 12 * Math.cos((n * Math.PI) / 45),
    y: 12 * Math.sin((n * Math.PI) / 45),
  })),
};

test.each(Object.entries(shapes))(
  "an outline between two layers is what a geometry library makes of it: %s",
  (_, ring) => {
    for (const byMm of [0.3, -0.3]) {
      const index = new OutlineIndex([grown(ring, byMm)]);
      for (const share of [0.25, 0.5]) {
        const wanted = grown(ring, byMm * share);
        const got = outlineBetween(ring, index, share);
        expect(Math.abs(areaOf(got) / areaOf(wanted) - 1)).toBeLessThan(1e-3);
        expect(Math.abs(ringLengthMm(got) / ringLengthMm(wanted) - 1)).toBeLessThan(1e-3);
      }
    }
  },
);
