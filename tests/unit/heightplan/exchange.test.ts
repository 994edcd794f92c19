import fc from "fast-check";
import { pasteBands, planToCsv, planToJson } from "@/core/heightplan/exchange";
import { HeightPlan } from "@/core/heightplan/plan";
import { heightPlanSchema } from "@/core/heightplan/plan-schema";
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

describe("how a block is meant is seen from all of it", () => {
  const edges = (text: string, keys?: SettingKey[]) => {
    const result = paste(text, keys);
    if (!result.ok) throw new Error(result.message);
    const starts = result.value.bands.reduce<number[]>(
      (all, { heightMm }) => [...all, Math.round((all[all.length - 1] + heightMm) * 1e4) / 1e4],
      [result.value.baseHeightMm],
    );
    return [starts.slice(0, -1), result.value.bands.map(({ settings }) => Object.values(settings))];
  };

  // RFC 4180 for cells in quotes; a comma before the decimals as in ISO 80000-1, 7.3.2.
  test.each([
    ["one column with decimal commas", "210,5\n205,5", [1.5, 11.5], [[210.5], [205.5]]],
    ["bare commas that rise as heights do", "1,220\n6,210", [1, 6], [[220], [210]]],
    ["cells in quotes", '"1,5","220,5"\n"6,5","210"', [1.5, 6.5], [[220.5], [210]]],
    ["spaces and units that stand apart", "1,5 mm 220 °C\n6,5 mm 210 °C", [1.5, 6.5], [[220], [210]]],
    ["steps of a twentieth", "0.2\t215\n0.25\t210", [0.2, 0.25], [[215], [210]]],
    ["names and decimal commas", "height;nozzle\n1;220\n6,5;210", [1, 6.5], [[220], [210]]],
    ["names parted by spaces", "from to nozzle\n1 6 220\n6 11 210", [1, 6], [[220], [210]]],
    ["an exponent", "5\t2.2e2\n10\t2.1E+2", [5, 10], [[220], [210]]],
  ])("%s", (_, text, starts, values) => {
    expect(edges(text)).toEqual([starts, values]);
  });

  test.each([
    ["1\t−5", /Row 1: −?-?5 is outside 0 to 500 °C/],
    ["1e3", /1000 is outside/],
    ["-1\t210", /starts at -1 mm; the base can be 0/],
    ["0.2\t215\n0.22\t210", /rise by at least 0.05 mm/],
  ])("%j is refused for what it says", (text, sentence) => {
    expect(refused(text)).toMatch(sentence);
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
