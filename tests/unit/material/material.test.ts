import { beadAreaMm2, beadSpacingMm, filamentAreaMm2, filamentMassG, strandAreaMm2 } from "@/core/material/bead";
import { HeaterFigures, ROOM_C, runHeater, SETTLED_WITHIN_C } from "@/core/material/heat";
import { materialNames, materials } from "@/core/material/materials";

/** Seconds until the tip is within 1 °C after the set value changes while nothing else happens. */
function settlingSeconds(fromC: number, toC: number, figures: HeaterFigures): number {
  const steps = Array.from({ length: 2400 }, () => ({ seconds: 0.25, setC: toC, flowGPerS: 0 }));
  const { endC } = runHeater(steps, figures, fromC);
  return 0.25 * (endC.findLastIndex((tipC) => Math.abs(tipC - toC) > SETTLED_WITHIN_C) + 1);
}

describe("beads", () => {
  test("filament of 1.75 mm has 2.4053 mm² (geometry)", () => {
    expect(filamentAreaMm2(1.75)).toBeCloseTo(2.4053, 4);
  });

  test("0.45 × 0.20 mm: 0.081416 mm², 0.033849 mm of filament a millimetre (arithmetic)", () => {
    expect(beadAreaMm2(0.45, 0.2)).toBeCloseTo(0.081416, 6);
    // 0.0814159 / 2.4052819, worked by hand: 0.0338488.
    expect(beadAreaMm2(0.45, 0.2) / filamentAreaMm2(1.75)).toBeCloseTo(0.033849, 6);
  });

  test("a bead is at most its rectangle, a strand is round", () => {
    expect(beadAreaMm2(0.6, 0.3)).toBeLessThan(0.18);
    expect(beadAreaMm2(0.3, 0.3)).toBeCloseTo(strandAreaMm2(0.3), 9);
    expect(strandAreaMm2(0.4)).toBeCloseTo(0.125664, 6);
  });

  test("beads at their spacing fill a layer exactly", () => {
    expect(beadSpacingMm(0.45, 0.2) * 0.2).toBeCloseTo(beadAreaMm2(0.45, 0.2), 12);
    expect(beadSpacingMm(0.45, 0.2)).toBeLessThan(0.45);
  });

  test("a metre of 1.75 mm PLA weighs 2.98 g (arithmetic, density from memory)", () => {
    expect(filamentMassG(1000, 1.75, 1.24)).toBeCloseTo(2.9825, 3);
  });
});

test("every material's facts are sane", () => {
  expect(materialNames).toContain("PLA");
  for (const facts of Object.values(materials)) {
    expect(facts.labelMaxC).toBeGreaterThan(facts.labelMinC);
    expect(facts.densityGCm3).toBeGreaterThan(0.8);
    expect(facts.fanPercent).toBeLessThanOrEqual(100);
  }
});

describe("heat", () => {
  const figures = { riseCPerS: 2.5, fallCPerS: 1, lagS: 0 };
  const long = (setC: number, seconds: number) => [{ seconds, setC, flowGPerS: 0 }];

  test("cooling with the heater off is the closed-form exponential", () => {
    const loss = 1 / (200 - ROOM_C);
    for (const seconds of [5, 20, 60]) {
      const { endC } = runHeater(long(20, seconds), figures, 200);
      expect(endC[0]).toBeCloseTo(ROOM_C + (200 - ROOM_C) * Math.exp(-loss * seconds), 0);
    }
  });

  test("heating full on near 200 °C rises by 2.5 °C/s (common practice, no source)", () => {
    const { endC } = runHeater(long(300, 1), figures, 200);
    expect(endC[0] - 200).toBeCloseTo(2.5, 1);
  });

  test("cooling near 200 °C falls by 1 °C/s (common practice, no source)", () => {
    expect(200 - runHeater(long(100, 1), figures, 200).endC[0]).toBeCloseTo(1, 1);
  });

  test("the set value is held without creeping", () => {
    const { endC, settledShare } = runHeater(long(210, 600), figures, 210);
    expect(endC[0]).toBeCloseTo(210, 3);
    expect(settledShare[0]).toBe(1);
  });

  test("a lagging tip follows the block as a first-order lag does", () => {
    // The block is at its value at once (very fast heater), so the tip alone decides: T = T1 − ΔT·e^(−t/τ).
    const fast = { riseCPerS: 5000, fallCPerS: 1, lagS: 10 };
    const { endC } = runHeater(long(220, 10), fast, 200);
    expect(endC[0]).toBeCloseTo(220 - 20 * Math.exp(-1), 0);
  });

  test("printing draws heat: cooling is faster while material flows", () => {
    const still = runHeater([{ seconds: 10, setC: 190, flowGPerS: 0 }], figures, 220).endC[0];
    const flowing = runHeater([{ seconds: 10, setC: 190, flowGPerS: 0.008 }], figures, 220).endC[0];
    expect(flowing).toBeLessThan(still);
  });

  test("five degrees down take longer than five up", () => {
    const lagging = { ...figures, lagS: 5 };
    const down = settlingSeconds(215, 210, lagging);
    const up = settlingSeconds(210, 215, lagging);
    expect(down).toBeGreaterThan(up);
    expect(down).toBeGreaterThan(5);
    expect(down).toBeLessThan(30);
    expect(settlingSeconds(210, 210, lagging)).toBe(0);
  });
});
