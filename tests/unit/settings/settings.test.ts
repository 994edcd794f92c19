import { dialectKeys, dialects } from "@/core/firmware/dialects";
import { EventKind } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { settingFor, settingKeys, settingValuesSchema } from "@/core/settings";
import { fanDuty, turningDuty } from "@/core/settings/fan";
import { ladle, printers } from "../helpers/demo";

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

describe("what every setting says is what it hears", () => {
  for (const printer of printers) {
    for (const key of settingKeys) {
      test(`${key} on ${printer.name}`, () => {
        const setting = settingFor(key);
        for (const value of key === "fan" ? [0, 5, 35, 100] : [0, 55, 60, 215]) {
          const said = setting.say(value, printer, 0);
          if (!said.ok) {
            // A dialect that cannot change it gives a reason and no line.
            expect(said.message.length).toBeGreaterThan(20);
            expect(key).toBe("fan");
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
