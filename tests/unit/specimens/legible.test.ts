import { layerTops } from "@/core/heightplan/layer-grid";
import { FRONT_VIEW_STRIDE, frontView } from "@/core/printing/front-view";
import { slice } from "@/core/printing/slices";
import { advanceTower } from "@/core/specimens/advance-tower";
import { arcade } from "@/core/specimens/arcade";
import { bandFaces } from "@/core/specimens/band-faces";
import { signs, StrokeName } from "@/core/specimens/digits";
import { fence } from "@/core/specimens/fence";
import { harp } from "@/core/specimens/harp";
import { lips } from "@/core/specimens/lips";
import { longFrame } from "@/core/specimens/long-frame";
import { oneWallBox } from "@/core/specimens/one-wall-box";
import { posts } from "@/core/specimens/posts";
import { Specimen } from "@/core/specimens/specimen";
import { letterSpans, turns } from "@/core/specimens/turns";
import { HeightPlan } from "@/core/heightplan/plan";
import { planOf, specimenRequest } from "../helpers/demo";

/** Middle of every stroke in a cell 1 wide and 1 high. */
const middles: Record<StrokeName, [number, number]> = {
  bottom: [0.5, 0.06],
  middle: [0.5, 0.5],
  top: [0.5, 0.94],
  lowerLeft: [0.1, 0.28],
  lowerRight: [0.9, 0.28],
  upperLeft: [0.1, 0.72],
  upperRight: [0.9, 0.72],
};
const GAP_MM = 0.7;

/** Whether something is raised on the front at a spot, asked of the rasterised side view. */
function raisedOn(specimen: Specimen, plan: HeightPlan, labels: string[]) {
  const shape = specimen.shape(specimenRequest(plan, labels, { options: { slowMmS: 20, fastMmS: 80 } }));
  const view = frontView(slice(shape, layerTops(shape.heightMm, 0.1, 0.1)));
  return (x: number, z: number) => {
    for (let i = 0; i < view.length; i += FRONT_VIEW_STRIDE) {
      if (view[i + 5] === 1 && x > view[i] && x < view[i + 1] && z > view[i + 2] && z < view[i + 3]) return true;
    }
    return false;
  };
}

/** Where something is raised between two heights: the smallest box of cells of a tenth of a millimetre. */
function extent(raised: (x: number, z: number) => boolean, fromX: number, toX: number, fromZ: number, toZ: number) {
  const box = { minX: Infinity, maxX: -Infinity, minZ: Infinity, maxZ: -Infinity };
  for (let z = fromZ + 0.05; z < toZ; z += 0.1) {
    for (let x = fromX; x < toX; x += 0.1) {
      if (!raised(x, z)) continue;
      box.minX = Math.min(box.minX, x - 0.05);
      box.maxX = Math.max(box.maxX, x + 0.05);
      box.minZ = Math.min(box.minZ, z - 0.05);
      box.maxZ = Math.max(box.maxZ, z + 0.05);
    }
  }
  return box;
}

test.each<[Specimen, number, number]>([
  [arcade, -40, 40],
  [lips, -40, 40],
  [posts, -40, 40],
  [fence, -40, 40],
  [oneWallBox, -40, 40],
  [longFrame, -60, 60],
  // The letter X stands to the left of the values.
  [turns, 5, 27],
  [advanceTower, -40, 40],
  [harp, -50, 50],
])("values are legible on $0: the strokes read back from the side view are the font's own", (specimen, fromX, toX) => {
  // They begin and end in digits as wide as their cell, so that the text's own extent tells where the digits stand.
  const labels = ["208", "964"];
  const plan = {
    ...planOf([208, 964], 8, 1),
    sideBySide: { setting: "retractionLength" as const, values: [1, 2, 3, 4, 5] },
  };
  const raised = raisedOn(specimen, plan, labels);
  labels.forEach((label, band) => {
    const from = 1 + band * 8;
    const box = extent(raised, fromX, toX, from + 0.2, from + 7.8);
    const digit = (box.maxX - box.minX - (label.length - 1) * GAP_MM) / label.length;
    expect(digit).toBeGreaterThan(1.5);
    [...label].forEach((sign, i) => {
      const left = box.minX + i * (digit + GAP_MM);
      const read = (Object.keys(middles) as StrokeName[]).filter((name) =>
        raised(left + middles[name][0] * digit, box.minZ + middles[name][1] * (box.maxZ - box.minZ)),
      );
      expect(read.sort()).toEqual([...signs[sign]].sort());
    });
  });
});

describe("where there is no room for digits", () => {
  const edges = (count: number, heightMm: number) => Array.from({ length: count + 1 }, (_, i) => 1 + i * heightMm);

  test("strokes count the bands: a wide one is five, a thin one is one", () => {
    const plan = planOf(new Array(13).fill(200) as number[], 2);
    const { boxes, legend, unlabelled } = bandFaces(
      plan,
      plan.bands.map(() => "200"),
      edges(13, 2),
      { minX: 0, widthMm: 16, beadWidthMm: 0.45 },
    );
    const counted = boxes.map((marks) => marks.reduce((sum, { minX, maxX }) => sum + (maxX - minX > 1.5 ? 5 : 1), 0));
    expect(counted).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13]);
    expect(unlabelled).toEqual([]);
    expect(legend).toMatch(/a wide one is five/);
    for (const marks of boxes) for (const { minX, maxX } of marks) expect(minX >= 0 && maxX <= 16).toBe(true);
  });

  test("long values get narrower digits before they get strokes", () => {
    const plan = planOf([200], 8);
    const faces = (label: string, widthMm: number) =>
      bandFaces(plan, [label], edges(1, 8), { minX: 0, widthMm, beadWidthMm: 0.45 }).legend;
    expect(faces("1500", 14)).toMatch(/value of each band/);
    expect(faces("1500", 11)).toMatch(/value of each band/);
    expect(faces("12.345", 9)).toMatch(/Strokes/);
  });
});

test("the letters X and Y are drawn as such: two strokes that cross, and two that join into one", () => {
  const middleOf = ([from, to]: [number, number]) => (from + to) / 2;
  expect(letterSpans("X", 0.1).map(middleOf)[0]).toBeCloseTo(letterSpans("X", 0.9).map(middleOf)[1], 9);
  expect(letterSpans("X", 0.5).map(middleOf)).toEqual([2.2, 2.2]);
  expect(letterSpans("Y", 0.25)).toHaveLength(1);
  expect(letterSpans("Y", 0.75)).toHaveLength(2);
  expect(letterSpans("Y", 1.2)).toEqual([]);
});
