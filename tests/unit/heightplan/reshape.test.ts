import fc from "fast-check";
import { addBand, fillBands, moveEdge, removeBand, setBandHeight, setValue } from "@/core/heightplan/reshape";
import { pasteBands } from "@/core/heightplan/exchange";
import { bandEdgesMm, planHeightMm } from "@/core/heightplan/plan";
import { planOf } from "../helpers/demo";

const plan = planOf([220, 215, 210], 10, 1.5);
const values = (changed: typeof plan) => changed.bands.map(({ settings }) => settings.nozzleTemperature);

describe("changing a plan", () => {
  test("one value, one height; the plan from before stays as it was", () => {
    expect(values(setValue(plan, 1, "nozzleTemperature", 213))).toEqual([220, 213, 210]);
    expect(planHeightMm(setBandHeight(plan, 0, 12))).toBe(33.5);
    expect(values(plan)).toEqual([220, 215, 210]);
  });

  test("moving an edge gives to one side what it takes from the other", () => {
    const moved = moveEdge(plan, 1, 13.04);
    expect(bandEdgesMm(moved)).toEqual([1.5, 13, 21.5, 31.5]);
    expect(bandEdgesMm(moveEdge(plan, 0, 3))).toEqual([3, 11.5, 21.5, 31.5]);
  });

  test("an edge never runs past its neighbours", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2 }), fc.double({ min: -100, max: 200, noNaN: true }), (index, to) => {
        const edges = bandEdgesMm(moveEdge(plan, index, to));
        for (let i = 1; i < edges.length; i++) expect(edges[i] - edges[i - 1]).toBeGreaterThan(0.399);
        expect(edges[edges.length - 1]).toBeCloseTo(31.5, 6);
      }),
    );
  });

  test("a band more goes one step on; one less never leaves none", () => {
    expect(values(addBand(plan))).toEqual([220, 215, 210, 205]);
    expect(values(addBand(planOf([200])))).toEqual([200, 195]);
    expect(values(removeBand(plan, 0))).toEqual([215, 210]);
    expect(removeBand(planOf([200]), 0).bands).toHaveLength(1);
  });

  test("filling from start, step and count", () => {
    const bands = fillBands(plan, "nozzleTemperature", { start: 230, step: -7.5, count: 4, heightMm: 8 });
    expect(bands.map(({ settings }) => settings.nozzleTemperature)).toEqual([230, 223, 215, 208]);
    expect(
      fillBands(plan, "fan", { start: 0, step: 5, count: 21, heightMm: 5 }).map(({ settings }) => settings.fan),
    ).toEqual(Array.from({ length: 21 }, (_, i) => i * 5));
    expect(
      fillBands(plan, "fan", { start: 90, step: 10, count: 4, heightMm: 5 }).map(({ settings }) => settings.fan),
    ).toEqual([90, 100, 100, 100]);
  });
});

describe("pasting a list", () => {
  const pasted = (text: string) => pasteBands(text, ["nozzleTemperature"], plan);

  test.each([
    ["tabs", "1.5\t230\n11.5\t225\n21.5\t220"],
    ["semicolons and decimal commas", "1,5;230\n11,5;225\n21,5;220"],
    ["spaces and units", "1.5 mm  230 °C\n11.5 mm  225 °C\n21.5 mm 220 °C"],
    ["a heading and empty lines", "height\tnozzle\n\n1.5\t230\n11.5\t225\r\n21.5\t220\n\n"],
  ])("two columns with %s", (_, text) => {
    const result = pasted(text);
    expect(result.ok && bandEdgesMm(result.value)).toEqual([1.5, 11.5, 21.5, 31.5]);
    expect(result.ok && values(result.value)).toEqual([230, 225, 220]);
  });

  test("one column keeps the heights and repeats the last", () => {
    const result = pasted("230\n225\n220\n215\n");
    expect(result.ok && bandEdgesMm(result.value)).toEqual([1.5, 11.5, 21.5, 31.5, 41.5]);
  });

  test.each([
    ["", /no figures/],
    ["1\t2\t3", /3 figures/],
    ["10\t220\n5\t210", /must rise/],
    ["1.5\t220\n210", /Row 2 has 1 figures/],
    ["600", /outside 0 to 500 °C/],
    ["1.5\t2-2-0", /not all numbers/],
    ["80\t220\n90\t210", /the base can be/],
    [Array.from({ length: 201 }, () => "210").join("\n"), /at most 200/],
  ])("%j is refused with a reason", (text, sentence) => {
    const result = pasted(text);
    expect(result.ok).toBe(false);
    expect(!result.ok && result.message).toMatch(sentence);
  });
});
