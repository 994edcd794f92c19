/**
 * Small pictures: what they paint is held against areas and heights that are worked out by hand here, from the path data itself (W3C SVG 1.1,
 * section 8.3), never by the code that wrote it.
 */
import { readProgram } from "@/core/gcode/read";
import { FOR_A_LIST, frontOf } from "@/core/laid/front";
import { aboveThumbnail, frontThumbnail, strokesThumbnail, Thumbnail } from "@/core/laid/thumbnail";
import { firstPieces } from "@/core/trials/effort";
import { trialKindKeys } from "@/core/trials";
import { planHeightMm } from "@/core/heightplan/plan";
import { firstRound } from "@/core/trials/first-round";
import { ladle, saffron } from "../helpers/demo";

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The rectangles of a path that is made of nothing but `M x y h w v h h -w z`. */
function boxesOf(path: string): Box[] {
  const figure = "(-?[\\d.]+)";
  const one = new RegExp(`M${figure} ${figure}h${figure}v${figure}h${figure}z`, "g");
  const boxes = [...path.matchAll(one)].map(([, x, y, width, height, back]) => {
    expect(Number(back)).toBe(-Number(width));
    return { x: Number(x), y: Number(y), width: Number(width), height: Number(height) };
  });
  expect(path.replace(one, "")).toBe("");
  return boxes;
}

const boxesIn = ({ parts }: Thumbnail, band: number) =>
  parts.filter((part) => part.band === band).flatMap(({ path }) => boxesOf(path));
const area = (boxes: Box[]) => boxes.reduce((sum, { width, height }) => sum + width * height, 0);

test("a block is cut at the edges of its bands, and what is below and above them belongs to the base", () => {
  // 10 mm wide, 20 mm high, bands from 4 to 10 and from 10 to 16 mm.
  const bands = [
    { fromMm: 4, toMm: 10, value: 220 },
    { fromMm: 10, toMm: 16, value: 215 },
  ];
  const picture = frontThumbnail({ rectangles: [-5, 5, 0, 20, 0, 0], widthMm: 10, heightMm: 20, bands });
  expect(boxesIn(picture, 0)).toEqual([{ x: 0, y: 10, width: 10, height: 6 }]);
  expect(boxesIn(picture, 1)).toEqual([{ x: 0, y: 4, width: 10, height: 6 }]);
  expect(area(boxesIn(picture, -1))).toBe(80);
  expect(picture.bands).toEqual(bands);
});

test("what is far behind is painted first and paler, what is raised after its face", () => {
  const rectangles = [...[0, 2, 0, 5, 0.5, 1], ...[-5, 5, 0, 5, 0.5, 0], ...[-5, 5, 0, 5, 30, 0]];
  const { parts } = frontThumbnail({ rectangles, widthMm: 10, heightMm: 5, bands: [{ fromMm: 0, toMm: 5, value: 1 }] });
  expect(parts.map(({ shade, raised }) => [shade, raised])).toEqual([
    [5, false],
    [0, false],
    [0, true],
  ]);
});

test("a ring from above is its outline turned round, the front at the bottom", () => {
  const ring = [
    { x: -2, y: -1 },
    { x: 2, y: -1 },
    { x: 2, y: 1 },
    { x: -2, y: 1 },
  ];
  const { parts } = aboveThumbnail({ cuts: [{ band: 0, rings: [ring] }], widthMm: 4, depthMm: 2, bands: [] });
  expect(parts.map(({ path }) => path)).toEqual(["M0 2L4 2L4 0L0 0z"]);
});

/** A program that goes along the points, one bead after the other. */
function walk(points: [x: number, y: number, z: number][]): Thumbnail {
  const [[x, y, z], ...others] = points;
  const lines = [`G90`, `M83`, `G0 X${x} Y${y} Z${z}`, ...others.map(([a, b, c]) => `G1 X${a} Y${b} Z${c} E1`)];
  return strokesThumbnail(readProgram(new TextEncoder().encode(lines.join("\n"))));
}

test("strokes: a square from above, in millimetres from its top left", () => {
  const picture = walk([
    [10, 10, 0.2],
    [50, 10, 0.2],
    [50, 30, 0.2],
    [10, 30, 0.2],
    [10, 10, 0.2],
  ]);
  expect([picture.seenFrom, picture.widthMm, picture.heightMm]).toEqual(["above", 40, 20]);
  expect(picture.parts.map(({ path }) => path)).toEqual(["M0 20L40 20L40 0L0 0L0 20"]);
});

test("strokes: a thin wall that rises is seen from the front", () => {
  const picture = walk([
    [0, 5, 0.2],
    [20, 5, 10.2],
    [40, 5, 0.2],
  ]);
  expect([picture.seenFrom, picture.widthMm, picture.heightMm]).toEqual(["front", 40, 10]);
});

test("strokes of a print with many moves stay small", () => {
  const points = Array.from({ length: 60_000 }, (_, i): [number, number, number] => {
    const angle = i / 300;
    return [100 + (20 + i / 3000) * Math.cos(angle), 100 + (20 + i / 3000) * Math.sin(angle), 0.2];
  });
  expect(JSON.stringify(walk(points)).length).toBeLessThan(400_000);
});

test("a large file's silhouette stays small: 3000 layers of a comb of 20 teeth", () => {
  const lines = ["G90", "M83"];
  for (let layer = 1; layer <= 3000; layer++) {
    lines.push(`G0 X0 Y0 Z${(layer * 0.1).toFixed(1)}`);
    for (let tooth = 0; tooth < 20; tooth++) {
      // Teeth stand at another depth in every layer, so that no stretch of it goes on.
      lines.push(`G0 X${tooth * 10} Y${(tooth * 7 + layer * 3) % 40}`, `G1 X${tooth * 10 + 5} E0.3`);
    }
  }
  const tables = readProgram(new TextEncoder().encode(lines.join("\n")));
  const { widthMm, rectangles } = frontOf(tables, FOR_A_LIST);
  const picture = frontThumbnail({ rectangles, widthMm, heightMm: 300, bands: [] });
  expect(picture.parts.length).toBeGreaterThan(3);
  expect(JSON.stringify(picture).length).toBeLessThan(250_000);
});

test("what rounds to nothing is not drawn", () => {
  const rectangles = [...[0, 2, 0, 0.004, 0, 0], ...[0, 2, 1, 2, 0, 0]];
  const { parts } = frontThumbnail({ rectangles, widthMm: 4, heightMm: 2, bands: [] });
  expect(parts.map(({ path }) => path)).toEqual(["M2 0h2v1h-2z"]);
});

test("the first piece of every kind: as high as its plan, every band in it at its own height, small enough to send", () => {
  const printer = ladle;
  const pieces = firstPieces(printer, saffron, { kept: {} });
  expect(pieces.map(({ kind }) => kind)).toEqual([...trialKindKeys]);
  for (const { kind, heightMm, thumbnail } of pieces) {
    const round = firstRound(kind, {
      ...{ printer, spool: saffron, kept: {}, options: {} },
      ...{ layerHeightMm: 0.2, firstLayerHeightMm: 0.2 },
    });
    // Whole layers: at most one more or less than the plan.
    expect(Math.abs(heightMm - planHeightMm(round.plan))).toBeLessThanOrEqual(0.2);
    expect(JSON.stringify(thumbnail).length).toBeLessThan(40_000);
    expect(thumbnail.bands.length).toBe(round.plan.bands.length);
    if (thumbnail.seenFrom === "above") continue;
    thumbnail.bands.forEach(({ fromMm, toMm }, band) => {
      const boxes = boxesIn(thumbnail, band);
      const top = Math.min(...boxes.map(({ y }) => y));
      const bottom = Math.max(...boxes.map(({ y, height }) => y + height));
      expect(`${kind} ${(heightMm - top).toFixed(2)}`).toBe(`${kind} ${toMm.toFixed(2)}`);
      expect(`${kind} ${(heightMm - bottom).toFixed(2)}`).toBe(`${kind} ${fromMm.toFixed(2)}`);
    });
  }
});
