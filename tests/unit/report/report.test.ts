import { readProgram } from "@/core/gcode/read";
import { proofLayers, settingsByLayer } from "@/core/heightplan/proof";
import { limitsFor } from "@/core/motion/limits";
import { heatProfile, MOST_CHANGES, reportOf } from "@/core/report/report";
import { bestLeadLayers, settledShares } from "@/core/report/settling";
import { ladle } from "../helpers/demo";
import { squareTube } from "../helpers/programs";

/** Settled share of one band without a temperature of its own. */
const shareOf = (
  heat: Parameters<typeof settledShares>[2],
  heights: number[],
  firstLayer: number,
  lastLayer: number,
) => {
  const band = { number: 1, askedFromMm: 0, askedToMm: 1, fromMm: 0, toMm: 1, firstLayer, lastLayer, settings: {} };
  return settledShares([band], { planned: {}, followed: {} }, heat, heights)[0];
};

const report = (text: string) => reportOf(readProgram(text), limitsFor(ladle)).report;

describe("the report of a program", () => {
  const text = squareTube({
    layers: 10,
    opens: (i) => `; deck ${i}`,
    extra: (i) => (i === 5 ? ["M104 S200", "M106 S128"] : []),
  });

  test("bounds, filament and layers", () => {
    const { bounds, filament, layers, lines, bytes, markers } = report(text);
    expect(bounds).toMatchObject({ minX: 10, minY: 10, maxX: 30, maxY: 30 });
    expect(bounds!.maxZ).toBeCloseTo(2, 5);
    expect(filament).toEqual([{ tool: 0, lastLayer: 9, mm: expect.closeTo(10 * 80 * 0.0338, 2) }]);
    expect(layers.map(({ index }) => index)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
    expect(layers[4]).toMatchObject({ zMm: 1, heightMm: 0.2, minX: 10, maxX: 30, marker: 4 });
    expect(lines).toBe(text.split("\n").length - 1);
    expect(bytes).toBe(text.length);
    expect(markers).toEqual({ shape: "deck #", first: 0, last: 9, countsFrom: 0 });
  });

  test("seconds of the layers add up to those of the whole, heating apart", () => {
    const { layers, seconds } = report(text);
    const sum = layers.reduce((total, layer) => total + layer.seconds, 0);
    expect(sum).toBeLessThanOrEqual(seconds + 1e-6);
    expect(sum).toBeGreaterThan(seconds * 0.9);
    // Four sides of 20 mm at 30 mm/s take at least 2.67 s (arithmetic).
    for (const layer of layers) expect(layer.seconds).toBeGreaterThan(80 / 30);
  });

  test("settings along the height, and their changes with their place", () => {
    const { settings, changes } = report(text);
    expect(settings.nozzleTemperature).toEqual([210, 210, 210, 210, 210, 200, 200, 200, 200, 200]);
    expect(settings.fan.slice(4, 6)).toEqual([null, expect.closeTo(50.2, 1)]);
    expect(settings.bedTemperature).toEqual(new Array(10).fill(null));
    expect(changes.map(({ key, layer, within, ours }) => [key, layer, within, ours])).toEqual([
      ["nozzleTemperature", 5, false, false],
      ["fan", 5, false, false],
    ]);
    expect(text.slice(changes[0].startByte, changes[0].endByte)).toBe("M104 S200\n");
  });

  test("a change in the middle of a layer counts from the next one", () => {
    const lines = text.split("\n");
    const middle = lines.indexOf("; deck 7") + 7;
    lines.splice(middle, 0, "M104 S190");
    const { settings, changes } = report(lines.join("\n"));
    expect(settings.nozzleTemperature.slice(7, 9)).toEqual([200, 190]);
    expect(changes.at(-1)).toMatchObject({ value: 190, layer: 7, within: true });
  });

  test("each tool's own temperature is followed", () => {
    const { settings } = report(squareTube({ layers: 4, start: ["M104 S210 T0", "M104 S230 T1", "T1"] }));
    expect(settings.nozzleTemperature).toEqual([230, 230, 230, 230]);
  });

  test("the proof lists every layer with what is in force", () => {
    const tables = readProgram(text);
    const proof = proofLayers(tables, settingsByLayer(tables).byLayer);
    expect(proof[5]).toEqual({
      index: 5,
      zMm: 1.2,
      settings: { nozzleTemperature: 200, fan: 50.2, printSpeed: 30, retractionLength: 2, retractionSpeed: 40 },
    });
  });

  test("nothing laid: no bounds, no layers", () => {
    expect(report("G0 X5 Y5\n")).toMatchObject({ bounds: null, layers: [], filament: [], markers: null });
  });
});

describe("heat along the height", () => {
  const layers = Array.from({ length: 20 }, () => ({ seconds: 5, filamentMm: 10 }));
  const setC = Float64Array.from({ length: 20 }, (_, i) => (i < 10 ? 220 : 210));
  const heater = { riseCPerS: 2.5, fallCPerS: 1, lagS: 5 };

  test("settled before the change, on its way after it, settled again later", () => {
    const { expectedC, settledShare } = heatProfile(layers, setC, heater, { diameterMm: 1.75, densityGCm3: 1.24 });
    expect(expectedC[9]).toBeCloseTo(220, 1);
    expect(expectedC[10]).toBeGreaterThan(211);
    expect(expectedC[19]).toBeCloseTo(210, 0);
    expect(settledShare[10]).toBe(0);
    expect(settledShare[19]).toBe(1);
  });

  test("the share of a band is weighed by height", () => {
    const heat = { setC, expectedC: new Float32Array(4), settledShare: Float32Array.from([0, 0, 1, 1]) };
    expect(shareOf(heat, [0.4, 0.4, 0.2, 0.2], 0, 3)).toBeCloseTo(1 / 3, 6);
    expect(shareOf(heat, [0.2], 5, 4)).toBe(1);
  });

  test("layers in which the nozzle is already sent elsewhere do not count as settled", () => {
    const heat = { setC, expectedC: new Float32Array(4), settledShare: Float32Array.from([1, 1, 1, 1]) };
    const band = { number: 1, askedFromMm: 0, askedToMm: 1, fromMm: 0, toMm: 1, firstLayer: 0, lastLayer: 3 };
    const nozzleTemperature = Float64Array.from([220, 220, 220, 210]);
    const bands = [{ ...band, settings: { nozzleTemperature: 220 } }];
    const followed = { planned: { nozzleTemperature }, followed: {} };
    expect(settledShares(bands, followed, heat, [0.2, 0.2, 0.2, 0.2])[0]).toBeCloseTo(0.75, 9);
    // Only what is read counts, whatever it is told.
    const judged = Uint8Array.from([0, 0, 1, 1]);
    expect(settledShares(bands, { ...followed, judged }, heat, [0.2, 0.2, 0.2, 0.2])[0]).toBe(1);
  });

  test("the smallest lead that does about as well as the best is chosen", () => {
    const shares = [0.5, 0.6, 0.7, 0.705, 0.4];
    expect(bestLeadLayers((layers) => [0.9, shares[layers] ?? 0])).toEqual({ layers: 2, share: 0.7 });
  });

  test("slow layers leave the heater more time", () => {
    const spool = { diameterMm: 1.75, densityGCm3: 1.24 };
    const quick = heatProfile(layers, setC, heater, spool);
    const slow = heatProfile(
      layers.map((layer) => ({ ...layer, seconds: 20 })),
      setC,
      heater,
      spool,
    );
    expect(shareOf(slow, new Array(20).fill(0.2), 10, 19)).toBeGreaterThan(
      shareOf(quick, new Array(20).fill(0.2), 10, 19),
    );
  });
});

test("a report stays small however often a program changes its mind", () => {
  const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
  for (let i = 0; i < 100; i++) {
    lines.push(`; layer ${i}`, `G0 X10 Y10 Z${(0.2 + 0.2 * i).toFixed(1)} F6000`);
    for (let k = 0; k < 400; k++) lines.push(`M204 P${800 + (k % 2) * 100}`, `G1 X${10 + (k % 50)} Y12 E0.1 F1800`);
  }
  const { report } = reportOf(readProgram(lines.join("\n")), limitsFor(ladle));
  expect(report.changeCount).toBeGreaterThan(39_000);
  expect(report.changes).toHaveLength(MOST_CHANGES);
  expect(JSON.stringify(report).length).toBeLessThan(1e6);
});
