import fc from "fast-check";
import { pasteBands, planToCsv, planToJson } from "@/core/heightplan/exchange";
import { HeightPlan, heightPlanSchema } from "@/core/heightplan/plan";
import { settingFor, SettingKey, settingKeys } from "@/core/settings";
import { planOf } from "../helpers/demo";

const plan = planOf([220, 210], 10, 1.5);
const paste = (text: string, keys: SettingKey[] = ["nozzleTemperature"]) => pasteBands(text, keys, plan);
const refused = (text: string, keys?: SettingKey[]) => {
  const result = paste(text, keys);
  return result.ok ? "" : result.message;
};

describe("pasting several columns", () => {
  test("height, then the settings that vary, in their order", () => {
    const result = paste("1.5\t220\t40\n11.5\t210\t80", ["nozzleTemperature", "fan"]);
    expect(result.ok && result.value.bands.map(({ settings }) => settings)).toEqual([
      { nozzleTemperature: 220, fan: 40 },
      { nozzleTemperature: 210, fan: 80 },
    ]);
  });

  test("a first line with names brings in other settings, by key, by label or in short", () => {
    const result = paste("height;Fan;Print speed;retraction\n2;30;60;1,5\n8;50;90;2,5");
    expect(result.ok && result.value).toEqual({
      baseHeightMm: 2,
      bands: [
        { heightMm: 6, settings: { fan: 30, printSpeed: 60, retractionLength: 1.5 } },
        { heightMm: 6, settings: { fan: 50, printSpeed: 90, retractionLength: 2.5 } },
      ],
    });
  });

  test.each([
    ["1\t220\t40", undefined, /varies one setting. Name the columns/],
    ["height,colour\n1,2", undefined, /“colour” is not a column/],
    ["height,fan\n1,2,3", undefined, /names 2 columns, the rows have 3/],
    ["height,fan\n1,200", undefined, /Row 1: 200 is outside 0 to 100 %/],
  ])("%j is refused", (text, keys, sentence) => {
    expect(refused(text, keys)).toMatch(sentence);
  });
});

test("what is exported as CSV is pasted back as the same plan, whatever it varies", () => {
  const band = fc.record({
    heightMm: fc.integer({ min: 5, max: 900 }).map((tenths) => tenths / 10),
    values: fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })),
  });
  fc.assert(
    fc.property(
      fc.array(band, { minLength: 1, maxLength: 12 }),
      fc.uniqueArray(fc.constantFrom(...settingKeys), { minLength: 1, maxLength: 2 }),
      fc.integer({ min: 0, max: 300 }),
      (bands, keys, base) => {
        const made: HeightPlan = {
          baseHeightMm: base / 10,
          bands: bands.map(({ heightMm, values }) => ({
            heightMm,
            settings: Object.fromEntries(
              keys.map((key, i) => {
                const { lowest, highest } = settingFor(key);
                return [key, Math.round((lowest + (highest - lowest) * values[i]) * 1000) / 1000];
              }),
            ),
          })),
        };
        const back = pasteBands(planToCsv(made), ["nozzleTemperature"], made);
        expect(back.ok ? "" : back.message).toBe("");
        if (!back.ok) return;
        expect(back.value.baseHeightMm).toBeCloseTo(made.baseHeightMm, 6);
        back.value.bands.forEach(({ heightMm, settings }, i) => {
          expect(heightMm).toBeCloseTo(made.bands[i].heightMm, 6);
          expect(settings).toEqual(made.bands[i].settings);
        });
      },
    ),
    { numRuns: 60 },
  );
});

test("a band that does not set a column keeps its hole through CSV", () => {
  const holed: HeightPlan = {
    baseHeightMm: 1,
    bands: [
      { heightMm: 5, settings: { nozzleTemperature: 220 } },
      { heightMm: 5, settings: { nozzleTemperature: 210, fan: 40 } },
      { heightMm: 5, settings: { fan: 60 } },
    ],
  };
  expect(planToCsv(holed).split("\n")[3]).toBe("11,16,,60");
  expect(pasteBands(planToCsv(holed), ["nozzleTemperature"], holed)).toEqual({ ok: true, value: holed });
  expect(refused("height,fan\n,20")).toMatch(/Row 1 does not say at which height/);
  expect(refused("200", [])).toMatch(/name the columns/);
});

test("JSON is what the HTTP interface takes", () => {
  const full: HeightPlan = { ...plan, leadLayers: 3, sideBySide: { setting: "retractionLength", values: [1, 2] } };
  expect(heightPlanSchema.parse(JSON.parse(planToJson(full)))).toEqual(full);
});

test.each([
  [{ ...plan, leadLayers: -1 }, /only come earlier/],
  [{ ...plan, leadLayers: 1.5 }, /whole numbers/],
  [{ ...plan, sideBySide: { setting: "retractionLength", values: [99] } }, /0 to 20 mm/],
  [{ ...plan, sideBySide: { setting: "hat", values: [1] } }, /one of nozzleTemperature/],
  [{ ...plan, bands: [{ heightMm: 5, settings: {}, lines: ["M117 a ; b"] }] }, /holds a comment/],
  [{ ...plan, bands: [{ heightMm: 5, settings: {}, lines: ["M117 a\nM104 S0"] }] }, /line break/],
  [{ ...plan, bands: [{ heightMm: 5, settings: {}, lines: [""] }] }, /empty/],
])("a plan that cannot be is refused with a sentence (%#)", (wrong, sentence) => {
  const parsed = heightPlanSchema.safeParse(wrong);
  expect(parsed.success ? "" : parsed.error.issues[0].message).toMatch(sentence);
});
