import fc from "fast-check";
import {
  addBand,
  fillBands,
  holdSetting,
  moveEdge,
  removeBand,
  setBandHeight,
  setLines,
  setValue,
  varySetting,
} from "@/core/heightplan/reshape";
import { pasteBands } from "@/core/heightplan/exchange";
import { Band, bandEdgesMm, HeightPlan, planHeightMm } from "@/core/heightplan/plan";
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

describe("what a change does not name, it keeps", () => {
  const bands = fc.array(
    fc.record(
      {
        heightMm: fc.integer({ min: 1, max: 200 }).map((tenths) => tenths / 10),
        settings: fc.record(
          { nozzleTemperature: fc.integer({ min: 180, max: 260 }), fan: fc.integer({ min: 0, max: 100 }) },
          { requiredKeys: ["nozzleTemperature"] },
        ),
        lines: fc.constant(["M117 here"]),
      },
      { requiredKeys: ["heightMm", "settings"] },
    ),
    { minLength: 2, maxLength: 6 },
  ) as fc.Arbitrary<Band[]>;
  const plans: fc.Arbitrary<HeightPlan> = fc.record({
    baseHeightMm: fc.integer({ min: 0, max: 50 }).map((tenths) => tenths / 10),
    bands,
    leadLayers: fc.integer({ min: 0, max: 9 }),
    sideBySide: fc.constant({ setting: "retractionLength" as const, values: [1, 2, 3] }),
  });

  /** Every change, what it names of the band it is about, and whether it names heights. */
  const changes: [string, (plan: HeightPlan, at: number) => HeightPlan, (keyof Band)[], boolean][] = [
    ["a value", (plan, at) => setValue(plan, at, "nozzleTemperature", 199), ["settings"], false],
    ["a band's height", (plan, at) => setBandHeight(plan, at, 7), ["heightMm"], true],
    ["an edge", (plan, at) => moveEdge(plan, at, 4), ["heightMm"], true],
    ["a band more", (plan) => addBand(plan), [], false],
    ["a setting more", (plan) => varySetting(plan, "flowFactor", 100), ["settings"], false],
    ["a setting less", (plan) => holdSetting(plan, "fan"), ["settings"], false],
    ["lines", (plan, at) => setLines(plan, at, ["G4 P1"]), ["lines"], false],
    ["no lines", (plan, at) => setLines(plan, at, []), ["lines"], false],
  ];

  test.each(changes)("%s", (_, change, named, heights) => {
    fc.assert(
      fc.property(plans, fc.nat(5), (before, at) => {
        const index = at % before.bands.length;
        const after = change(before, index);
        const { baseHeightMm, bands: bandsAfter, ...rest } = after;
        expect(rest).toEqual({ leadLayers: before.leadLayers, sideBySide: before.sideBySide });
        if (!heights) expect(baseHeightMm).toBe(before.baseHeightMm);
        before.bands.forEach((band, i) => {
          for (const part of ["heightMm", "settings", "lines"] as const) {
            if (!named.includes(part)) expect(bandsAfter[i][part]).toEqual(band[part]);
          }
        });
      }),
    );
  });

  test("a setting that varies or is held leaves the others' values", () => {
    fc.assert(
      fc.property(plans, (before) => {
        const varied = varySetting(before, "flowFactor", 100);
        varied.bands.forEach(({ settings }, i) =>
          expect(settings).toEqual({ ...before.bands[i].settings, flowFactor: 100 }),
        );
        expect(holdSetting(varied, "flowFactor")).toEqual(before);
      }),
    );
  });

  test("a drag keeps every other edge, the band's own values and its top", () => {
    fc.assert(
      fc.property(plans, fc.nat(5), fc.double({ min: 0, max: 120, noNaN: true }), (before, at, toMm) => {
        const index = at % before.bands.length;
        const edges = bandEdgesMm(moveEdge(before, index, toMm));
        bandEdgesMm(before).forEach((edge, i) => i !== index && expect(edges[i]).toBeCloseTo(edge, 5));
      }),
    );
  });

  test("pasted heights and values leave lead and side by side", () => {
    const full = { ...plan, leadLayers: 4, sideBySide: { setting: "fan" as const, values: [10] } };
    const result = pasteBands("1\t230\n9\t220", ["nozzleTemperature"], full);
    expect(result.ok && result.value).toMatchObject({ leadLayers: 4, sideBySide: full.sideBySide });
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
    ["", /no numbers/],
    ["1\t2\t3", /3 numbers/],
    ["10\t220\n5\t210", /must rise/],
    ["1.5\t220\n210", /Row 2 has 1 number,/],
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
