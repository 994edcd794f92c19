/** What the extruder and the firmware cannot do is said: by arithmetic done here again, and by plain counting of what passes the gear. */
import { gearPasses } from "@/core/checks/of-trials/gear-passes";
import { accelerationCeiling } from "@/core/firmware/values/ceiling";
import { Finding } from "@/core/findings/finding";
import { outOfReach, sayOutOfReach } from "@/core/heightplan/reach";
import { Printer } from "@/core/shelf/printer";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { Trial, TrialInput } from "@/core/trials/trial";
import { trialRequestSchema } from "@/workers/trial-messages";
import { mostPasses } from "../helpers/laid";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

function findingsOf(trial: Trial, printer: Printer = ladle, more: Partial<TrialInput> = {}): Finding[] {
  const input = { trial, printer, spool: saffron, ...more };
  return inspectTrial(input, buildTrial(input)).findings;
}

describe("speeds of drawing back that are never reached", () => {
  // From rest to rest over 0.5 mm at 1500 mm/s²: 0.25 mm to speed up, v = √(2 · 1500 · 0.25) = 27.4 mm/s (uniform acceleration).
  const slow = { ...ladle, retractAccelerationMmS2: 1500, highestFeedEMmS: 60 };
  const trial = trialOfKind("retraction-matrix", slow, saffron);

  test("are named by length, post and bands", () => {
    const found = outOfReach(trial, slow);
    expect(found[0]).toMatchObject({ lengthMm: 0.5, spot: 1, bands: [3, 4, 5, 6] });
    expect(found[0].reachesMmS).toBeCloseTo(27.39, 2);
    // 2 mm: √(1500 · 2) = 54.8 mm/s is less than the last band's 60, but more than the one before.
    expect(found.find(({ lengthMm }) => lengthMm === 2)?.bands).toEqual([6]);
    expect(found.some(({ lengthMm }) => lengthMm >= 3)).toBe(false);
    expect(sayOutOfReach(found)).toMatch(/0\.5 mm 27 mm\/s, 1 mm 39 mm\/s, 2 mm 55 mm\/s\.$/);
  });

  test("are a note of the trial, and stand in the file", () => {
    const [finding] = findingsOf(trial, slow).filter(({ check }) => check === "out-of-reach");
    expect(finding).toMatchObject({ severity: "note" });
    expect(finding.message).toContain("over 0.5 mm it never exceeds 27 mm/s (bands 3–6)");
    const text = new TextDecoder().decode(buildTrial({ trial, printer: slow, spool: saffron }).bytes);
    expect(text).toContain("; as fast as the extruder gets\n;   0.5 mm never exceeds 27 mm/s: bands 3–6 no faster");
  });

  test("nothing is said where the extruder is quick enough", () => {
    expect(outOfReach(trial, { ...slow, retractAccelerationMmS2: 20_000 })).toEqual([]);
  });
});

describe("pressure advance faster than the extruder", () => {
  test("is said from the value on that asks for more than its highest feed", () => {
    const quick = { ...ladle, printAccelerationMmS2: 3000 };
    const trial = trialOfKind("pressure-advance", quick, saffron);
    const [finding] = findingsOf(trial, quick).filter(({ check }) => check === "advance-too-fast");
    // A bead of 0.45 × 0.2 mm with round ends is 0.0814 mm², filament of 1.75 mm 2.405 mm²: 0.0338 mm fed a mm. 50 / (0.0338 · 3000) = 0.492 s.
    expect(finding.message).toMatch(/From 0\.492 s up/);
    // 0, 0.1 … 1 s: the sixth line is the first above it.
    expect(finding.where).toBe("lines 6 to 11");
    expect(findingsOf(trialOfKind("pressure-advance", ladle, saffron)).map(({ check }) => check)).not.toContain(
      "advance-too-fast",
    );
  });
});

describe("accelerations above the firmware's own", () => {
  const trial = trialOfKind("acceleration", ladle, saffron);
  const ceiling = { accelerationMmS2: 1600, readAt: "2026-03-01T10:00:00.000Z" };

  test("are refused, with the bands left out as the mend", () => {
    const [finding] = findingsOf(trial, ladle, { ceiling }).filter(({ check }) => check === "beyond-ceiling");
    expect(finding).toMatchObject({ severity: "stop", where: "bands 5, 6" });
    const mended = { ...trial, ...finding.mend!.trial };
    expect(mended.plan.bands.map(({ settings }) => settings.acceleration)).toEqual([500, 750, 1000, 1500]);
    expect(findingsOf(mended, ladle, { ceiling }).map(({ check }) => check)).not.toContain("beyond-ceiling");
  });

  test("are not spoken of while the values were never read", () => {
    expect(findingsOf(trial).map(({ check }) => check)).not.toContain("beyond-ceiling");
  });

  test("both axes of the bed count, and a firmware with one figure for all has no ceiling", () => {
    const entry = (id: string, value: number) => ({ id, value });
    expect(accelerationCeiling([entry("highestAccelerationX", 3000), entry("highestAccelerationY", 2000)])).toBe(2000);
    expect(accelerationCeiling([entry("highestAccelerationZ", 100), entry("sharedAcceleration", 500)])).toBeNull();
  });
});

describe("filament that goes to and fro over the gear", () => {
  test("is counted as a plain count of cells does it", () => {
    const filament = [3, -2, 2, 1.5, -2, 2, -4, 4, 0.7];
    expect(gearPasses(filament, filament.length).most).toBe(mostPasses(filament));
    // 3 mm in, and 2 mm of it out and in again five times: eleven passes.
    const often = [3, ...Array.from({ length: 5 }, () => [-2, 2]).flat()];
    expect(gearPasses(often, often.length).most).toBe(11);
  });

  test("is said when it is more than about fifteen times, with the layer", () => {
    const close = trialOfKind("retraction-matrix", ladle, saffron);
    const all8 = {
      ...close.plan,
      sideBySide: { setting: "retractionLength" as const, values: Array(20).fill(8) as number[] },
    };
    const [finding] = findingsOf({ ...close, plan: all8 }).filter(({ check }) => check === "gear-passes");
    expect(finding.message).toMatch(/passes the gear \d\d times/);
    expect(finding.where).toMatch(/^layer \d+$/);
    expect(findingsOf(trialOfKind("temperature", ladle, saffron)).map(({ check }) => check)).not.toContain(
      "gear-passes",
    );
  });
});

test("the worker is told what is kept and what the firmware allows", () => {
  const input = {
    trial: trialOfKind("acceleration", ladle, saffron),
    printer: ladle,
    spool: saffron,
    kept: { fan: 40 },
    ceiling: { accelerationMmS2: 1600, readAt: "2026-03-01" },
  };
  expect(trialRequestSchema.parse({ kind: "build", request: 1, input })).toMatchObject({
    input: { kept: { fan: 40 }, ceiling: { accelerationMmS2: 1600 } },
  });
});
