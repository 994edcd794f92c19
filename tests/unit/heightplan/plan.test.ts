import fc from "fast-check";
import { layerTops } from "@/core/heightplan/layer-grid";
import { bandEdgesMm, bandOfLayer, planHeightMm, resolveBands } from "@/core/heightplan/plan";
import { heightPlanSchema } from "@/core/heightplan/plan-schema";
import { planOf } from "../helpers/demo";

describe("bands on layers", () => {
  test("edges add up without binary noise", () => {
    expect(bandEdgesMm(planOf([1, 2, 3], 0.7, 0.1))).toEqual([0.1, 0.8, 1.5, 2.2]);
    expect(planHeightMm(planOf([1, 2, 3], 0.7, 0.1))).toBe(2.2);
  });

  test("a band starts with the first layer wholly or partly above its edge", () => {
    const bands = resolveBands(planOf([220, 215], 10, 1.5), layerTops(21.5, 0.2, 0.2));
    // 1.5 mm lies inside the eighth layer (1.4 to 1.6 mm).
    expect(bands[0]).toMatchObject({
      number: 1,
      firstLayer: 7,
      lastLayer: 56,
      askedFromMm: 1.5,
      fromMm: 1.4,
      toMm: 11.4,
    });
    expect(bands[1]).toMatchObject({ number: 2, firstLayer: 57, lastLayer: 107, fromMm: 11.4, toMm: 21.6 });
  });

  test("a first layer of its own height moves all edges with it", () => {
    const bands = resolveBands(planOf([220, 215], 5, 1), layerTops(11, 0.3, 0.25));
    expect(bands.map(({ firstLayer }) => firstLayer)).toEqual([3, 23]);
    expect(bands[0].fromMm).toBe(0.8);
  });

  test("a band without base starts on the bed", () => {
    expect(resolveBands(planOf([220], 5, 0), layerTops(5, 0.2, 0.2))[0]).toMatchObject({ firstLayer: 0, fromMm: 0 });
  });

  test("a band thinner than a layer may be left without one: the layer goes to the one that starts in it last", () => {
    const bands = resolveBands(planOf([1, 2, 3], 0.4, 0), layerTops(1.2, 0.6, 0.6));
    expect(bands.map(({ firstLayer, lastLayer }) => lastLayer - firstLayer + 1)).toEqual([0, 1, 1]);
  });

  test("bands share all layers above the base, none twice", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 4, max: 200 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 0, max: 50 }),
        fc.integer({ min: 4, max: 60 }),
        fc.integer({ min: 4, max: 60 }),
        (heights, base, first, layer) => {
          const plan = {
            baseHeightMm: base / 10,
            bands: heights.map((height) => ({ heightMm: height / 10, settings: {} })),
          };
          const tops = layerTops(planHeightMm(plan), first / 100, layer / 100);
          const bands = resolveBands(plan, tops);
          let next = bands[0].firstLayer;
          for (const band of bands) {
            expect(band.firstLayer).toBe(next);
            next = band.lastLayer + 1;
          }
          expect(next).toBe(tops.length);
          for (let i = bands[0].firstLayer; i < tops.length; i++) expect(bandOfLayer(bands, i)).toBeDefined();
        },
      ),
    );
  });
});

describe("what a plan may be", () => {
  const refusedBecause = (plan: unknown) => {
    const parsed = heightPlanSchema.safeParse(plan);
    return parsed.success ? "" : parsed.error.issues[0].message;
  };
  const band = { heightMm: 10, settings: { nozzleTemperature: 210 } };

  test("a good one", () => {
    expect(heightPlanSchema.parse({ baseHeightMm: 1.5, bands: [band] }).bands).toHaveLength(1);
  });

  test.each([
    ["no bands", { baseHeightMm: 1, bands: [] }, /at least one band/],
    ["band height 0", { baseHeightMm: 1, bands: [{ ...band, heightMm: 0 }] }, /at least 0.05 mm/],
    ["negative band height", { baseHeightMm: 1, bands: [{ ...band, heightMm: -5 }] }, /at least 0.05 mm/],
    ["NaN", { baseHeightMm: 1, bands: [{ ...band, heightMm: NaN }] }, /must be a number in mm/],
    ["text for a number", { baseHeightMm: "1", bands: [band] }, /must be a number in mm/],
    ["negative base", { baseHeightMm: -1, bands: [band] }, /cannot be lower/],
    [
      "an unknown setting",
      { baseHeightMm: 1, bands: [{ heightMm: 5, settings: { colour: 3 } }] },
      /“colour” is not a setting/,
    ],
    [
      "text for a temperature",
      { baseHeightMm: 1, bands: [{ heightMm: 5, settings: { nozzleTemperature: "hot" } }] },
      /must be a number in °C/,
    ],
    ["fan above 100", { baseHeightMm: 1, bands: [{ heightMm: 5, settings: { fan: 101 } }] }, /at most 100 %/],
    ["bands that are no list", { baseHeightMm: 1, bands: "many" }, /list of bands/],
  ])("%s", (_, plan, sentence) => {
    expect(refusedBecause(plan)).toMatch(sentence);
  });

  test("a million bands are one short answer, not a million", () => {
    const parsed = heightPlanSchema.safeParse({ baseHeightMm: 1, bands: new Array(1_000_000).fill({ heightMm: -1 }) });
    expect(parsed.error!.issues).toHaveLength(1);
    expect(parsed.error!.issues[0].message).toMatch(/at most 200 bands/);
  });
});
