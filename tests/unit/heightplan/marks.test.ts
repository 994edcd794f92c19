import { planWithMarks } from "@/core/heightplan/marks";
import { planHeightMm } from "@/core/heightplan/plan";

const plan = {
  baseHeightMm: 1,
  bands: [220, 215, 210].map((nozzleTemperature) => ({
    heightMm: 10,
    settings: { nozzleTemperature },
    lines: ["M117 Band"],
  })),
};
const rows = (made: typeof plan) => made.bands.map(({ heightMm, settings }) => [heightMm, settings]);

describe("a tower made by hand", () => {
  it("is cut where something was changed; the plan's own change ends it", () => {
    const made = planWithMarks(plan, [
      { heightMm: 15, setting: "nozzleTemperature", value: 230 },
      { heightMm: 6, setting: "nozzleTemperature", value: 225 },
    ]);
    expect(rows(made as typeof plan)).toEqual([
      [5, { nozzleTemperature: 220 }],
      [5, { nozzleTemperature: 225 }],
      [4, { nozzleTemperature: 215 }],
      [6, { nozzleTemperature: 230 }],
      [10, { nozzleTemperature: 210 }],
    ]);
    expect(planHeightMm(made)).toBe(planHeightMm(plan));
    expect(made.bands.map(({ lines }) => lines !== undefined)).toEqual([true, false, true, false, true]);
  });

  it("holds what the plan does not set to the end, and says what was in force before", () => {
    const made = planWithMarks(plan, [{ heightMm: 12, setting: "flowFactor", value: 104 }], { flowFactor: 100 });
    expect(made.bands.map(({ heightMm, settings }) => [heightMm, settings.flowFactor])).toEqual([
      [10, 100],
      [1, 100],
      [9, 104],
      [10, 104],
    ]);
  });

  it("takes marks of one height together, those in the base from the first band on, those above the top not at all", () => {
    const made = planWithMarks(plan, [
      { heightMm: 0.4, setting: "fan", value: 50 },
      { heightMm: 16, setting: "fan", value: 60 },
      { heightMm: 16.02, setting: "flowFactor", value: 97 },
      { heightMm: 40, setting: "fan", value: 99 },
    ]);
    expect(made.bands.map(({ settings }) => [settings.fan, settings.flowFactor])).toEqual([
      [50, undefined],
      [50, undefined],
      [60, 97],
      [60, 97],
    ]);
  });
});
