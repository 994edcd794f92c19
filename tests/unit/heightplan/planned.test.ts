import { Change } from "@/core/heightplan/change";
import { changesSchema } from "@/core/heightplan/change-schema";
import { followBands, followChanges } from "@/core/heightplan/planned";
import { layerTops } from "@/core/heightplan/layer-grid";
import { resolveBands } from "@/core/heightplan/plan";
import { planOf } from "../helpers/demo";

const layers = Array.from(layerTops(10, 0.2, 0.2), (zMm) => ({ zMm }));
const nozzle = (changes: Change[]) => Array.from(followChanges(changes, layers).planned.nozzleTemperature ?? []);
const at = (heightMm: number, nozzleTemperature: number, untilMm?: number): Change => ({
  from: { heightMm },
  ...(untilMm === undefined ? {} : { until: { heightMm: untilMm } }),
  settings: { nozzleTemperature },
});

describe("changes along the layers", () => {
  test("a change holds to the next of the same setting, or to the end", () => {
    const planned = nozzle([at(2, 210), at(5, 200)]);
    expect(planned[9]).toBeNaN();
    expect(planned[10]).toBe(210);
    expect(planned[24]).toBe(210);
    expect(planned[25]).toBe(200);
    expect(planned[49]).toBe(200);
  });

  test("with an end, what held before returns", () => {
    const planned = nozzle([at(0, 220), at(4, 200, 6)]);
    expect([planned[19], planned[20], planned[29], planned[30]]).toEqual([220, 200, 200, 220]);
    expect(nozzle([at(4, 200, 6)])[30]).toBeNaN();
  });

  test("layers counted from 0 and from 1 mean the same layer", () => {
    const from0 = nozzle([{ from: { layer: 12, countsFrom: 0 }, settings: { nozzleTemperature: 205 } }]);
    const from1 = nozzle([{ from: { layer: 13, countsFrom: 1 }, settings: { nozzleTemperature: 205 } }]);
    expect(from0).toEqual(from1);
    expect([from0[11], from0[12]]).toEqual([NaN, 205]);
  });

  test("until a layer means up to it, as from a layer means from it", () => {
    const planned = nozzle([
      { from: { layer: 5, countsFrom: 0 }, until: { layer: 8, countsFrom: 0 }, settings: { nozzleTemperature: 205 } },
    ]);
    expect(planned.flatMap((value, i) => (value === 205 ? [i] : []))).toEqual([5, 6, 7]);
  });

  test("the order of the list does not matter, but for ties", () => {
    expect(nozzle([at(5, 200), at(2, 210)])).toEqual(nozzle([at(2, 210), at(5, 200)]));
    expect(nozzle([at(2, 210), at(2, 205)])[10]).toBe(205);
  });

  test("copies printed one by one each follow the heights", () => {
    const twice = [...layers.slice(0, 20), ...layers.slice(0, 20)];
    const { planned } = followChanges([at(2, 210)], twice);
    expect(planned.nozzleTemperature![15]).toBe(210);
    expect(planned.nozzleTemperature![25]).toBeNaN();
    expect(planned.nozzleTemperature![35]).toBe(210);
  });

  test("settings do not get in each other's way", () => {
    const { planned } = followChanges([at(2, 210), { from: { heightMm: 4 }, settings: { fan: 50 } }], layers);
    expect(planned.nozzleTemperature![30]).toBe(210);
    expect(planned.fan![19]).toBeNaN();
    expect(planned.fan![30]).toBe(50);
  });

  test("a plan's bands spread over their layers", () => {
    const bands = resolveBands(
      planOf([220, 210], 4, 2),
      layers.map(({ zMm }) => zMm),
    );
    const planned = followBands(bands, layers.length).planned.nozzleTemperature!;
    expect([planned[9], planned[10], planned[29], planned[30]]).toEqual([NaN, 220, 220, 210]);
  });
});

describe("what a list of changes may be", () => {
  test.each([
    [[], /at least one change/],
    [[{ settings: { fan: 5 } }], /Say where/],
    [[{ from: { layer: 3 }, settings: { fan: 5 } }], /Say where/],
    [[{ from: { layer: 3, countsFrom: 2 }, settings: { fan: 5 } }], /Say where|from 0 or from 1/],
    [[{ from: { heightMm: -1 }, settings: { fan: 5 } }], /Say where|below the bed/],
    [[{ from: { heightMm: 1 }, settings: { fan: "much" } }], /must be a number/],
    [new Array(201).fill(at(1, 200)), /at most 200/],
  ])("%#", (changes, sentence) => {
    const parsed = changesSchema.safeParse(changes);
    expect(parsed.success).toBe(false);
    expect(parsed.error!.issues.map(({ message }) => message).join("\n")).toMatch(sentence);
  });
});
