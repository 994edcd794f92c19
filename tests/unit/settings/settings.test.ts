import { DialectKey, dialectKeys, dialects } from "@/core/machine/dialects";
import { EventKind } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { settingValuesSchema } from "@/core/settings/values-schema";
import { fanDuty, turningDuty } from "@/core/settings/fan";
import { Printer } from "@/core/shelf/printer";
import { ladle, printers } from "../helpers/demo";

/** What a dialect of the demo has no words for. */
function cannotBeSaid(key: SettingKey, { dialect }: Printer): boolean {
  if (key === "jerk") return dialects[dialect].cornering !== "jerk";
  if (key === "junctionDeviation") return dialects[dialect].cornering !== "junctionDeviation";
  return dialect === "valve" && (key === "fan" || key === "pressureAdvance");
}

describe("fan duty", () => {
  // Twenty-one even steps, round(255 · percent / 100): common practice, no source.
  const table = [0, 13, 26, 38, 51, 64, 77, 89, 102, 115, 128, 140, 153, 166, 179, 191, 204, 217, 230, 242, 255];
  test.each(table.map((duty, i) => [i * 5, duty]))("%i %% is duty %i", (percent, duty) => {
    expect(fanDuty(percent)).toBe(duty);
  });

  test("a smallest turning duty of 15 lifts 13 to 15 and leaves 0 alone", () => {
    expect(turningDuty(5, { smallestTurningDuty: 15 })).toBe(15);
    expect(turningDuty(0, { smallestTurningDuty: 15 })).toBe(0);
    expect(turningDuty(10, { smallestTurningDuty: 15 })).toBe(26);
  });
});

/** Values worth saying, by setting. */
const worthSaying: Partial<Record<SettingKey, number[]>> = {
  fan: [0, 5, 35, 100],
  speedFactor: [50, 100, 180],
  flowFactor: [90, 97.5, 110],
  retractionLength: [0.5, 4.25],
  retractionSpeed: [10, 45],
  acceleration: [400, 2500],
  jerk: [4, 8.5],
  junctionDeviation: [0.013, 0.08],
  pressureAdvance: [0, 0.045],
  printSpeed: [30, 87.5],
};

describe("what every setting says is what it hears", () => {
  for (const printer of [...printers, { ...ladle, name: "Ladle that retracts itself", firmwareRetraction: true }]) {
    for (const key of settingKeys) {
      test(`${key} on ${printer.name}`, () => {
        const setting = settingFor(key);
        for (const value of worthSaying[key] ?? [0, 55, 60, 215]) {
          const said = setting.say(value, printer, 0);
          if (!said.ok) {
            // A dialect that cannot change it gives a reason and no line.
            expect(said.message.length).toBeGreaterThan(20);
            expect(cannotBeSaid(key, printer)).toBe(true);
            continue;
          }
          if (setting.inside?.on(printer)) {
            expect(said.value).toEqual([]);
            continue;
          }
          const { events } = readProgram(said.value.join("\n"));
          const heard = Array.from(events.kind, (kind, i) => setting.hear(kind as EventKind, events.value[i])).filter(
            (one) => one !== null,
          );
          expect(heard).toHaveLength(1);
          expect(Math.abs(heard[0] - setting.effective(value, printer))).toBeLessThanOrEqual(setting.tolerance);
        }
      });
    }
  }

  // The lines themselves, by dialect: common practice, no source.
  test.each<[SettingKey, number, DialectKey, string]>([
    ["acceleration", 1500, "jerk", "M204 P1500"],
    ["acceleration", 1500, "keyword", "SET_VELOCITY_LIMIT ACCEL=1500"],
    ["jerk", 8, "jerk", "M205 X8 Y8"],
    ["jerk", 8, "minute", "M566 X480 Y480"],
    ["jerk", 5, "keyword", "SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=5"],
    ["junctionDeviation", 0.026, "deviation", "M205 J0.026"],
    ["pressureAdvance", 0.05, "jerk", "M900 K0.05"],
    ["pressureAdvance", 0.05, "minute", "M572 D0 S0.05"],
    ["pressureAdvance", 0.05, "keyword", "SET_PRESSURE_ADVANCE ADVANCE=0.05"],
    ["retractionLength", 1.2, "minute", "M207 S1.2"],
    ["retractionSpeed", 35, "jerk", "M207 F2100"],
    ["retractionSpeed", 35, "keyword", "SET_RETRACTION RETRACT_SPEED=35"],
    ["speedFactor", 80, "valve", "M220 S80"],
    ["flowFactor", 95.5, "keyword", "M221 S95.5"],
    ["fan", 100, "valve", "M126"],
  ])("%s %d in the dialect %s is %s", (key, value, dialect, line) => {
    const printer = { ...ladle, dialect, firmwareRetraction: true };
    expect(settingFor(key).say(value, printer, 0)).toEqual({ ok: true, value: [line] });
  });

  test("the other kind of cornering is refused with its equivalent", () => {
    // δ ≈ 0.4·j²/a with j 8 and a 1000 is 0.0256 mm (common practice, no source).
    const whisk = printers.find(({ dialect }) => dialect === "deviation")!;
    const said = settingFor("jerk").say(8, { ...whisk, printAccelerationMmS2: 1000 }, 0);
    expect(said.ok ? "" : said.message).toMatch(/deviation of 0\.0256 mm/);
    const back = settingFor("junctionDeviation").say(0.0256, ladle, 0);
    expect(back.ok ? "" : back.message).toMatch(/jerk 8 mm\/s/);
  });

  test("with several tools the change names its tool, and a fan its index", () => {
    const twin = printers.find(({ tools }) => tools > 1)!;
    expect(settingFor("nozzleTemperature").say(215, twin, 1)).toEqual({ ok: true, value: ["M104 S215 T1"] });
    expect(settingFor("fan").say(100, twin, 1)).toEqual({ ok: true, value: ["M106 P1 S255"] });
    expect(settingFor("pressureAdvance").say(0.1, twin, 1)).toEqual({ ok: true, value: ["M572 D1 S0.1"] });
  });

  test("temperatures never wait inside a print", () => {
    for (const key of ["nozzleTemperature", "bedTemperature"] as const) {
      const said = settingFor(key).say(210, ladle, 0);
      expect(said.ok && said.value.join()).not.toMatch(/M109|M190/);
    }
  });

  test("several tools are named", () => {
    const twin = printers.find(({ tools }) => tools > 1)!;
    const nozzle = settingFor("nozzleTemperature").say(210, twin, 1);
    const fan = settingFor("fan").say(50, twin, 1);
    expect(nozzle.ok && nozzle.value).toEqual(["M104 S210 T1"]);
    expect(fan.ok && fan.value).toEqual(["M106 P1 S128"]);
  });
});

test("every dialect explains itself and has a cornering value", () => {
  for (const key of dialectKeys) {
    expect(dialects[key].explains.endsWith(".")).toBe(true);
    expect(["jerk", "junctionDeviation"]).toContain(dialects[key].cornering);
  }
  expect(dialectKeys).toEqual(["jerk", "deviation", "minute", "keyword", "valve"]);
});

test("values outside what any printer can be told are refused", () => {
  expect(settingValuesSchema.safeParse({ nozzleTemperature: 210, fan: 30 }).success).toBe(true);
  expect(settingValuesSchema.safeParse({ nozzleTemperature: 900 }).error?.issues[0].message).toBe(
    "Nozzle temperature must be at most 500 °C",
  );
  expect(settingValuesSchema.safeParse({ fan: -1 }).success).toBe(false);
});
