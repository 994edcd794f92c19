import fc from "fast-check";
import polygonClipping, { MultiPolygon } from "polygon-clipping";
import {
  boundingBox,
  boxesMeet,
  circle,
  contains,
  difference,
  intersection,
  islandsOf,
  offset,
  offsets,
  rectangle,
  Region,
  regionAreaMm2,
  Ring,
  ringAreaMm2,
  union,
} from "@/core/geometry/polygons";
import { cutAtBorders, distanceMm, hatch, staysInside, wayInside } from "@/core/geometry/segments";

/** The same shape for the reference library, a general-purpose one for polygon booleans. */
const reference = (ring: Ring): MultiPolygon => [[[...ring, ring[0]].map(({ x, y }) => [x, y] as [number, number])]];
const referenceArea = (shape: MultiPolygon) =>
  shape.reduce(
    (sum, polygon) =>
      sum +
      polygon.reduce((own, ring, index) => {
        let twice = 0;
        for (let i = 1; i < ring.length; i++) twice += ring[i - 1][0] * ring[i][1] - ring[i][0] * ring[i - 1][1];
        return own + (index === 0 ? 1 : -1) * Math.abs(twice / 2);
      }, 0),
    0,
  );

const blob = fc
  .record({
    x: fc.integer({ min: -20, max: 20 }),
    y: fc.integer({ min: -20, max: 20 }),
    radii: fc.array(fc.integer({ min: 3, max: 15 }), { minLength: 3, maxLength: 9 }),
  })
  .map(({ x, y, radii }): Ring =>
    radii.map((radius, i) => {
      const angle = (2 * Math.PI * i) / radii.length;
      // Hundredths of a millimetre: the reference gives up on corners that all but touch.
      const hundredths = (mm: number) => Math.round(mm * 100) / 100;
      return { x: hundredths(x + radius * Math.cos(angle)), y: hundredths(y + radius * Math.sin(angle)) };
    }),
  );

describe("booleans against a reference geometry library", () => {
  test.each([
    ["union", union, polygonClipping.union],
    ["difference", difference, polygonClipping.difference],
    ["intersection", intersection, polygonClipping.intersection],
  ])("%s", (_, ours, theirs) => {
    fc.assert(
      fc.property(blob, blob, (a, b) => {
        let expected = NaN;
        try {
          expected = referenceArea(theirs(reference(a), reference(b)));
        } catch {
          // The reference cannot complete some nearly degenerate shapes; there is nothing to compare with then.
        }
        fc.pre(!Number.isNaN(expected));
        expect(regionAreaMm2(ours([a], [b]))).toBeCloseTo(expected, 1);
      }),
      { numRuns: 150 },
    );
  });

  test("areas by the shoelace formula", () => {
    expect(ringAreaMm2(rectangle(0, 0, 4, 3))).toBe(12);
    expect(ringAreaMm2([...rectangle(0, 0, 4, 3)].reverse())).toBe(-12);
    expect(ringAreaMm2(circle(5, 5, 10, 24))).toBeCloseTo(Math.PI * 100, 6);
  });
});

describe("offsets", () => {
  test("a rectangle keeps its corners", () => {
    expect(regionAreaMm2(offset([rectangle(0, 0, 10, 6)], 1))).toBeCloseTo(12 * 8, 3);
    expect(regionAreaMm2(offset([rectangle(0, 0, 10, 6)], -1))).toBeCloseTo(8 * 4, 3);
    expect(offset([rectangle(0, 0, 10, 6)], -3.1)).toEqual([]);
  });

  test("holes shrink when the region grows", () => {
    const plate: Region = [rectangle(0, 0, 20, 20), [...rectangle(5, 5, 15, 15)].reverse()];
    expect(regionAreaMm2(offset(plate, 1))).toBeCloseTo(22 * 22 - 8 * 8, 2);
  });

  test("several at once are the same as one by one", () => {
    const shape = [circle(0, 0, 8), rectangle(4, -2, 20, 2)];
    const region = union(shape);
    const many = offsets(region, [-0.5, -1, 2]);
    expect(many.map(regionAreaMm2)).toEqual([-0.5, -1, 2].map((delta) => regionAreaMm2(offset(region, delta))));
  });

  test("growing a convex shape adds perimeter × distance and its corners at least", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 30 }),
        fc.integer({ min: 2, max: 30 }),
        fc.double({ min: 0.1, max: 3, noNaN: true }),
        (width, depth, delta) => {
          const area = regionAreaMm2(offset([rectangle(0, 0, width, depth)], delta));
          expect(area).toBeCloseTo((width + 2 * delta) * (depth + 2 * delta), 1);
        },
      ),
    );
  });
});

describe("islands and boxes", () => {
  test("separate shapes and holes find their outline", () => {
    const ring: Region = [rectangle(0, 0, 20, 20), [...rectangle(5, 5, 15, 15)].reverse()];
    const region = union([...ring], [rectangle(8, 8, 12, 12)], [rectangle(30, 0, 34, 4)]);
    const islands = islandsOf(region);
    expect(islands.map((island) => Math.round(regionAreaMm2(island))).sort((a, b) => a - b)).toEqual([16, 16, 300]);
  });

  test("points inside, outside, in a hole", () => {
    const plate: Region = [rectangle(0, 0, 20, 20), [...rectangle(5, 5, 15, 15)].reverse()];
    expect(contains(plate, 2, 2)).toBe(true);
    expect(contains(plate, 10, 10)).toBe(false);
    expect(contains(plate, 25, 10)).toBe(false);
  });

  test("boxes", () => {
    const a = boundingBox([rectangle(0, 0, 2, 2)]);
    expect(boxesMeet(a, boundingBox([rectangle(2, 2, 3, 3)]))).toBe(true);
    expect(boxesMeet(a, boundingBox([rectangle(2.5, 0, 3, 1)]))).toBe(false);
    expect(boxesMeet(a, boundingBox([rectangle(2.5, 0, 3, 1)]), 0.6)).toBe(true);
  });
});

describe("lines against regions", () => {
  const plate: Region = [rectangle(0, 0, 20, 10)];

  test("hatching covers the area: length × spacing", () => {
    for (const angle of [0, Math.PI / 4, Math.PI / 2, 2]) {
      const lines = hatch(plate, angle, 0.4);
      const covered = lines.reduce((sum, { a, b }) => sum + distanceMm(a, b) * 0.4, 0);
      expect(covered).toBeGreaterThan(194);
      expect(covered).toBeLessThan(206);
    }
  });

  test("hatching stays inside and turns round every other line", () => {
    const lines = hatch(plate, 0, 1);
    for (const { a, b } of lines) {
      const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
      expect(contains(plate, middle.x, middle.y)).toBe(true);
    }
    expect(Math.sign(lines[0].b.x - lines[0].a.x)).toBe(-Math.sign(lines[1].b.x - lines[1].a.x));
    expect(hatch([], 0, 1)).toEqual([]);
  });

  test("hatching leaves holes out", () => {
    const holed: Region = [...plate, [...rectangle(5, 2, 15, 8)].reverse()];
    const covered = hatch(holed, 0, 0.2).reduce((sum, { a, b }) => sum + distanceMm(a, b) * 0.2, 0);
    expect(covered).toBeGreaterThan(136);
    expect(covered).toBeLessThan(144);
  });

  test("a way is free only if it stays inside", () => {
    const two: Region = [rectangle(0, 0, 4, 4), rectangle(8, 0, 12, 4)];
    expect(staysInside(two, { x: 1, y: 1 }, { x: 3, y: 3 })).toBe(true);
    expect(staysInside(two, { x: 1, y: 1 }, { x: 9, y: 1 })).toBe(false);
  });

  test("a way goes round a corner where straight across would leave", () => {
    const angle = union([rectangle(0, 0, 20, 6)], [rectangle(0, 0, 6, 20)]);
    const bends = offset(angle, -0.5).flat();
    const [a, b] = [
      { x: 3, y: 18 },
      { x: 18, y: 3 },
    ];
    expect(wayInside(angle, bends, { x: 3, y: 18 }, { x: 3, y: 3 }, 3)).toEqual([]);
    const way = wayInside(angle, bends, a, b, 3)!;
    expect(way).toHaveLength(1);
    expect(staysInside(angle, a, way[0]) && staysInside(angle, way[0], b)).toBe(true);
    // Round the inner corner, the shortest of the bends.
    expect(way[0].x).toBeCloseTo(5.5, 2);
    expect(way[0].y).toBeCloseTo(5.5, 2);
    expect(wayInside(angle, bends, a, b, 1.01)).toBeNull();
    expect(wayInside(angle, bends, a, { x: 30, y: 30 }, 9)).toBeNull();
  });

  test("a line is cut at the borders it crosses", () => {
    const pieces = cutAtBorders([rectangle(2, -1, 4, 1)], { x: 0, y: 0 }, { x: 10, y: 0 });
    expect(pieces.map(({ inside }) => inside)).toEqual([false, true, false]);
    expect(pieces[1].a.x).toBeCloseTo(2, 9);
    expect(pieces[1].b.x).toBeCloseTo(4, 9);
    expect(pieces.reduce((sum, { a, b }) => sum + distanceMm(a, b), 0)).toBeCloseTo(10, 9);
  });
});
