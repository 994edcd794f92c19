import { parseFigure } from "@/ui/common/figure";
import { logScale, roundStep } from "@/ui/heightlog/scale";
import { antTheme, cssVariables, mixColours, palettes, ramp, rampColour } from "@/ui/theme/tokens";
import { valueColours } from "@/ui/theme/value-colours";
import { logBands } from "@/ui/trials/log-bands";
import { convertPlace, layerOf, placeFrom, sayOtherCounts } from "@/ui/workshop/places";
import { smallTrial } from "../helpers/demo";

/** Relative luminance and contrast after WCAG 2.2 (success criterion 1.4.3, definitions of both). */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = parseInt(colour.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light + 0.05) / (dark + 0.05);
}

describe.each(["light", "dark"] as const)("colours, %s", (scheme) => {
  const p = palettes[scheme];
  test.each([
    ["ink", "ground"],
    ["ink", "surface"],
    ["soft", "ground"],
    ["soft", "surface"],
    ["soft", "tint"],
    ["faint", "surface"],
    ["faint", "raised"],
    ["primary", "surface"],
    ["onPrimary", "primary"],
    ["onMustard", "mustard"],
    ["railInk", "rail"],
    ["bad", "surface"],
  ] as const)("%s on %s has WCAG AA contrast of 4.5", (ink, ground) => {
    expect(contrast(p[ink], p[ground])).toBeGreaterThanOrEqual(4.5);
  });

  test("no default blue anywhere", () => {
    const tokens = JSON.stringify(antTheme(scheme).token).toLowerCase();
    expect(tokens).not.toMatch(/#1677ff|#1890ff|#0958d9/);
    expect(cssVariables(scheme)["--on-primary"]).toBe(p.onPrimary);
  });
});

describe("the ramp", () => {
  test("runs from mustard at the top to aubergine at the bottom, getting steadily darker", () => {
    expect(rampColour(1).toLowerCase()).toBe(ramp[0].toLowerCase());
    expect(rampColour(0).toLowerCase()).toBe(ramp[ramp.length - 1].toLowerCase());
    const light = Array.from({ length: 30 }, (_, i) => luminance(rampColour(1 - i / 29)));
    for (let i = 1; i < light.length; i++) expect(light[i]).toBeLessThan(light[i - 1]);
  });

  test("values take their place on it; unknown ones stay grey", () => {
    const [high, none, low] = valueColours([220, undefined, 190]);
    expect([high, low]).toEqual([rampColour(1), rampColour(0)]);
    expect(none).not.toBe(high);
    expect(valueColours([200, 200])[0]).toBe(rampColour(1));
    expect(mixColours("#000000", "#ffffff", 0.5)).toBe("#808080");
  });
});

describe("the log's scale", () => {
  test("heights and places go back and forth", () => {
    const scale = logScale(71.6, 540, 1);
    for (const mm of [0, 10, 37.4, 71.6]) expect(scale.mm(scale.y(mm))).toBeCloseTo(mm, 9);
    expect(scale.heightPx).toBeCloseTo(540, 6);
    expect(scale.y(0)).toBeGreaterThan(scale.y(70));
  });

  test("a wide specimen makes it smaller, as long as its bands can be read; zoom makes it larger", () => {
    expect(logScale(70, 540, 1, { widthMm: 54, px: 270, lowestBandMm: 10 }).pxPerMm).toBe(5);
    expect(logScale(42, 540, 1, { widthMm: 100, px: 300, lowestBandMm: 6 }).pxPerMm).toBeCloseTo(46 / 6, 9);
    expect(logScale(42, 540, 1, { widthMm: 100, px: 300, lowestBandMm: 1 }).pxPerMm).toBeCloseTo(506 / 42, 9);
    expect(logScale(70, 540, 2).pxPerMm).toBeCloseTo(logScale(70, 540, 1).pxPerMm * 2, 9);
  });

  test.each([
    [0.3, 0.5],
    [1, 1],
    [1.1, 2],
    [3, 5],
    [7, 10],
    [40, 50],
  ])("a step of at least %d is %d", (least, step) => {
    expect(roundStep(least)).toBeCloseTo(step, 9);
  });

  test("bands stand at their asked heights with their layers and values", () => {
    const { bands, topMm } = logBands(
      smallTrial(),
      "nozzleTemperature",
      ({ index }) => `settled for ${[100, 50, 25][index]} %`,
    );
    expect(bands.map(({ fromMm, toMm, firstLayer, label, note }) => [fromMm, toMm, firstLayer, label, note])).toEqual([
      [1, 6, 5, "220", "settled for 100 %"],
      [6, 11, 30, "210", "settled for 50 %"],
      [11, 16, 55, "200", "settled for 25 %"],
    ]);
    expect(topMm).toBe(16);
  });
});

describe("numbers as they are typed", () => {
  test.each([
    ["215", 215],
    [" 215 °C ", 215],
    ["0,2", 0.2],
    ["-5", -5],
    [".5", 0.5],
  ])("%j is %d", (text, value) => {
    expect(parseFigure(text, -10, 300, "°C")).toEqual({ value });
  });

  test.each([
    ["", /Type a number/],
    ["hot", /not a number/],
    ["1e3", /not a number/],
    ["2 1 5", /not a number/],
    ["Infinity", /not a number/],
    ["301", /At most 300 °C/],
    ["-11", /At least -10 °C/],
  ])("%j is wrong, with a reason", (text, reason) => {
    const parsed = parseFigure(text, -10, 300, "°C");
    expect("wrong" in parsed && parsed.wrong).toMatch(reason);
  });
});

describe("places on an opened file", () => {
  const layers = [0.3, 0.5, 0.7, 0.9].map((zMm, i) => ({ zMm, heightMm: i === 0 ? 0.3 : 0.2 }));

  test("the same layer by height and by both counts", () => {
    for (const place of [
      { heightMm: 0.5 },
      { layer: 2, countsFrom: 0 as const },
      { layer: 3, countsFrom: 1 as const },
    ]) {
      expect(layerOf(place, layers)).toBe(2);
      expect(convertPlace(place, "height", layers)).toEqual({ heightMm: 0.5 });
      expect(convertPlace(place, "layer0", layers)).toEqual({ layer: 2, countsFrom: 0 });
      expect(convertPlace(place, "layer1", layers)).toEqual({ layer: 3, countsFrom: 1 });
    }
  });

  test("says what the other counts call it", () => {
    expect(sayOtherCounts({ heightMm: 0.5 }, layers)).toBe("layer 2 from 0, 3 from 1");
    expect(sayOtherCounts({ layer: 2, countsFrom: 0 }, layers)).toBe("0.5 mm, layer 3 from 1");
    expect(sayOtherCounts({ layer: 3, countsFrom: 1 }, layers)).toBe("0.5 mm, layer 2 from 0");
    expect(sayOtherCounts({ heightMm: 5 }, layers)).toBe("above the piece");
    expect(placeFrom(2.4, "layer1")).toEqual({ layer: 2, countsFrom: 1 });
  });
});
