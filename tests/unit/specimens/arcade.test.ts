import { islandsOf, regionAreaMm2, boundingBox, Region, union } from "@/core/geometry/polygons";
import { layerTops } from "@/core/heightplan/layer-grid";
import { frontView, FRONT_VIEW_STRIDE } from "@/core/printing/front-view";
import { slice } from "@/core/printing/slices";
import { arcade, OVERHANG_DEGREES } from "@/core/specimens/arcade";
import { signs, StrokeName, textBoxes, textWidthMm } from "@/core/specimens/digits";
import { planOf, specimenRequest } from "../helpers/demo";

const plan = planOf([225, 210], 10, 1.6);
const shape = arcade.shape(specimenRequest(plan, ["225", "210"]));
const at = (z: number): Region => union(shape.solidAt(z));
const areas = (z: number) => islandsOf(at(z)).map((island) => Math.round(regionAreaMm2(island) * 10) / 10);

describe("the arcade", () => {
  test("stands on a base that carries all of it, with an arrow to the front", () => {
    const base = boundingBox(at(0.5));
    // Fins hang out over it; everything that stands stands on it.
    const standing = boundingBox(at(2));
    expect(base.minX).toBeLessThan(standing.minX);
    expect(base.maxX).toBeGreaterThan(standing.maxX);
    expect(base.maxY).toBeGreaterThan(standing.maxY);
    expect(islandsOf(at(0.5))).toHaveLength(1);
    // The arrow reaches 3 mm beyond the plate, in the middle.
    const tip = at(0.5)
      .flat()
      .reduce((lowest, point) => (point.y < lowest.y ? point : lowest));
    expect(tip.x).toBeCloseTo(0, 6);
  });

  test("has separate uprights and a pin low in a storey", () => {
    // A wall of 4 × 12.5, posts of 9 × 4.8 and 4.2 × 4.2, a pin of 2.6 × 2.6.
    expect(areas(2).sort((a, b) => b - a)).toEqual([50, 43.2, 17.6, 6.8]);
  });

  test("spans 30 mm across the front and 15 mm along the side under every deck, with nothing below", () => {
    const [wall, front, rear] = islandsOf(at(2))
      .sort((a, b) => regionAreaMm2(b) - regionAreaMm2(a))
      .map((island) => boundingBox(island));
    expect(wall.minX - front.maxX).toBeCloseTo(30, 6);
    expect(rear.minY - front.maxY).toBeCloseTo(15, 6);
    // One piece in the deck's three layers, and apart right below it.
    expect(islandsOf(at(11.5))).toHaveLength(1);
    expect(islandsOf(at(11.1))).toHaveLength(1);
    expect(islandsOf(at(10.9))).toHaveLength(4);
  });

  test("leans out at the angles it says", () => {
    // Reach of the fins at two heights: the difference is rise × tan(angle).
    const reachAt = (z: number) => {
      const wall = islandsOf(at(z)).find((island) => regionAreaMm2(island) > 49)!;
      return boundingBox(wall).maxX;
    };
    const steepest = Math.tan((OVERHANG_DEGREES[0] * Math.PI) / 180);
    // Low down only the 30° fin has begun.
    expect((reachAt(8.2) - reachAt(7.2)) / 1).toBeCloseTo(steepest, 3);
    expect(OVERHANG_DEGREES).toEqual([30, 45, 60]);
  });

  test("is solid nowhere below the bed or above its top", () => {
    expect(shape.solidAt(0)).toEqual([]);
    expect(shape.solidAt(-1)).toEqual([]);
    expect(shape.solidAt(22)).toEqual([]);
    expect(shape.heightMm).toBe(21.6);
  });

  test("is drawn in text with its values where they stand", () => {
    expect(shape.drawing.filter((line) => line.includes("band"))).toHaveLength(2);
    expect(shape.drawing[1]).toContain("210");
    expect(shape.drawing.join("\n")).toMatch(/arrow points to the front/);
  });

  test("bands too low for digits carry strokes to count; those too low for strokes are told", () => {
    expect(arcade.shape(specimenRequest(planOf([220, 210], 3), ["220", "210"])).legend).toMatch(/Strokes .* count/);
    expect(arcade.shape(specimenRequest(planOf([220, 210], 0.6), ["220", "210"])).unlabelled).toEqual([1, 2]);
    expect(arcade.shape(specimenRequest(planOf([220, 210], 4), ["220", "210"])).unlabelled).toEqual([]);
    expect(arcade.shape(specimenRequest(planOf([220], 8), ["123456"])).legend).toMatch(/Strokes/);
  });
});

describe("raised digits", () => {
  const size = { heightMm: 5, widthMm: 2.6, strokeMm: 0.8, gapMm: 0.7 };

  test("all ten differ", () => {
    const patterns = "0123456789".split("").map((sign) => [...signs[sign]].sort().join());
    expect(new Set(patterns).size).toBe(10);
  });

  test("three of them fit the arcade's post of 9 mm, and a point takes one stroke", () => {
    expect(textWidthMm("225", { ...size, widthMm: 2.5 })).toBeLessThan(9);
    expect(textWidthMm("2.5", size)).toBeCloseTo(2 * 2.6 + 0.8 + 2 * 0.7, 9);
    expect(textWidthMm("", size)).toBe(0);
    expect(textBoxes("?", 0, 0, size)).toEqual([]);
  });

  test("are legible from the front: the strokes read back from the sliced piece are the font's own", () => {
    for (const label of ["22", "21", "96", "47", "80"]) {
      const one = arcade.shape(specimenRequest(planOf([200], 10, 1), [label]));
      const slices = slice(one, layerTops(11, 0.1, 0.1));
      const view = frontView(slices);
      const raised = (x: number, z: number) => {
        for (let i = 0; i < view.length; i += FRONT_VIEW_STRIDE) {
          if (view[i + 5] === 1 && x > view[i] && x < view[i + 1] && z > view[i + 2] && z < view[i + 3]) return true;
        }
        return false;
      };
      const post = boundingBox(union(one.solidAt(1.5)));
      const width = textWidthMm(label, size);
      const left = post.minX + (9 - width) / 2;
      const bottom = 1 + (10 - size.heightMm) / 2;
      // Where the middle of each stroke stands in a cell of 2.6 × 5 mm.
      const places: Record<StrokeName, [number, number]> = {
        bottom: [1.3, 0.4],
        middle: [1.3, 2.5],
        top: [1.3, 4.6],
        lowerLeft: [0.4, 1.4],
        lowerRight: [2.2, 1.4],
        upperLeft: [0.4, 3.6],
        upperRight: [2.2, 3.6],
      };
      [...label].forEach((sign, i) => {
        const x = left + i * (size.widthMm + size.gapMm);
        const read = (Object.keys(places) as StrokeName[]).filter((name) =>
          raised(x + places[name][0], bottom + places[name][1]),
        );
        expect(read.sort()).toEqual([...signs[sign]].sort());
      });
    }
  });
});
