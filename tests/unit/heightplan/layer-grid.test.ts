import fc from "fast-check";
import { firstLayerAbove, layerBottomMm, layerCountFor, layerTopMm, layerTops } from "@/core/heightplan/layer-grid";

// Heights as printers have them: hundredths of a millimetre.
const hundredths = (low: number, high: number) => fc.integer({ min: low, max: high }).map((value) => value / 100);

describe("layers ↔ heights", () => {
  test("z(n) = h1 + (n − 1)·h, counted from 1", () => {
    expect(layerTopMm(0, 0.3, 0.2)).toBe(0.3);
    expect(layerTopMm(1, 0.3, 0.2)).toBe(0.5);
    expect(layerTopMm(2, 0.1, 0.1)).toBe(0.3);
  });

  test("round trip for any first height, layer height and count", () => {
    fc.assert(
      fc.property(hundredths(5, 60), hundredths(5, 60), fc.integer({ min: 1, max: 2000 }), (first, height, count) => {
        const last = count - 1;
        const top = layerTopMm(last, first, height);
        expect(layerCountFor(top, first, height)).toBe(count);
        const tops = layerTops(top, first, height);
        expect(tops).toHaveLength(count);
        expect(tops[last]).toBe(top);
        // A height inside a layer finds that layer; its own top finds the next one.
        expect(firstLayerAbove(tops, top - height / 2)).toBe(count === 1 && height / 2 > first ? 0 : last);
        expect(firstLayerAbove(tops, top)).toBe(count);
        expect(firstLayerAbove(tops, layerBottomMm(tops, last))).toBe(last);
      }),
    );
  });

  test("rounding errors never move an edge by a layer", () => {
    const tops = layerTops(30, 0.1, 0.1);
    let sum = 0;
    for (let i = 0; i < 300; i++) {
      // 0.1 added up again and again drifts away from 0.1 · n.
      sum += 0.1;
      expect(firstLayerAbove(tops, sum)).toBe(i + 1);
    }
  });

  test("a last layer that lies only partly in the piece counts", () => {
    expect(layerCountFor(71.5, 0.2, 0.2)).toBe(358);
    expect(layerCountFor(0.05, 0.2, 0.2)).toBe(1);
    expect(layerBottomMm(layerTops(2, 0.2, 0.2), 0)).toBe(0);
  });
});
