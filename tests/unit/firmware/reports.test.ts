/** Reports as printers write them. Shapes: common practice, no source. Readers live with parts missing or in another order. */
import { readAnswer } from "@/core/firmware/reports/answer";
import { readIdentity } from "@/core/firmware/reports/identity";
import { readPosition } from "@/core/firmware/reports/position";
import { readTemperatures } from "@/core/firmware/reports/temperatures";
import { firmwareValues, valueFor } from "@/core/firmware/values";
import { isTaken, stageChange, valueLine } from "@/core/firmware/values/change";
import { compareReadings } from "@/core/firmware/values/compare";
import { readValues } from "@/core/firmware/values/reading";

describe("temperatures", () => {
  it.each([
    ["ok T:200.0 /200.0 B:60.0 /60.0 @:64 B@:30", [[200, 200]], [60, 60]],
    [
      " T:190.12 /200.00 B:59.9 /60.0 T0:190.1 /200.0 T1:22.5 /0.0 @:127 B@:0 W:3",
      [
        [190.1, 200],
        [22.5, 0],
      ],
      [59.9, 60],
    ],
    ["B:60 /60 T:21", [[21, null]], [60, 60]],
    [
      "T0:21 /0 T1:22 /0",
      [
        [21, 0],
        [22, 0],
      ],
      null,
    ],
    ["T:-14.0 /0.0", [[-14, 0]], null],
  ])("%s", (line, nozzles, bed) => {
    const report = readTemperatures(line)!;
    expect(report.nozzles.map(({ measuredC, setC }) => [measuredC, setC])).toEqual(nozzles);
    expect(report.bed && [report.bed.measuredC, report.bed.setC]).toEqual(bed);
  });

  it.each(["ok", "X:0.00 Y:0.00", "FIRMWARE_NAME:T B", "echo:busy: processing", "T99999:1 /1", "T1000000:5 /3"])(
    "%s holds none",
    (line) => {
      const report = readTemperatures(line);
      expect(report?.nozzles.every(({ measuredC }) => Number.isNaN(measuredC)) ?? true).toBe(true);
    },
  );
});

it("reads positions with parts missing or in another order", () => {
  expect(readPosition("X:1.50 Y:-2.00 Z:0.20 E:4.00 Count X:120 Y:-160 Z:80")).toEqual({
    xMm: 1.5,
    yMm: -2,
    zMm: 0.2,
    eMm: 4,
  });
  expect(readPosition("Z:1 Y:2 X:3")).toEqual({ xMm: 3, yMm: 2, zMm: 1, eMm: 0 });
  expect(readPosition("ok T:200 /200")).toBeNull();
});

it("reads what a firmware is, spaces in values included", () => {
  const identity = readIdentity([
    "FIRMWARE_NAME:Skillet 2.1 (3 Mar) PROTOCOL_VERSION:1.0 MACHINE_TYPE:Ladle 220 EXTRUDER_COUNT:2",
    "Cap:EEPROM:1",
    "Cap:AUTOREPORT_TEMP:0",
    "ok",
  ]);
  expect(identity.fields).toEqual({
    FIRMWARE_NAME: "Skillet 2.1 (3 Mar)",
    PROTOCOL_VERSION: "1.0",
    MACHINE_TYPE: "Ladle 220",
    EXTRUDER_COUNT: "2",
  });
  expect(identity.capabilities).toEqual({ EEPROM: true, AUTOREPORT_TEMP: false });
});

it.each([
  ["ok", "ok"],
  ["ok T:20 /0", "ok"],
  ["okay", "other"],
  ["echo:busy: processing", "busy"],
  ["Resend: 12", "resend"],
  ["rs N12", "resend"],
  ["Error:checksum", "error"],
  ["!! stopped", "error"],
  ["start", "started"],
  ["echo:start", "other"],
])("sorts %s as %s", (line, kind) => {
  expect(readAnswer(line).kind).toBe(kind);
});

describe("values", () => {
  const report = [
    "echo:  ; Steps:",
    "echo:  M92 X80.00 Y80.00 Z400.00 E405.00",
    "M203 X300.00 Y300.00 Z10.00 E50.00",
    "echo:M301 E0 P16.00 I0.90 D60.00",
    "echo:M301 E1 P17.00 I0.80 D61.00",
    "// SET_RETRACTION RETRACT_LENGTH=1.2 RETRACT_SPEED=35",
    "echo:M900 K0.05",
    "echo:M145 S0 H185 B45 F255",
    "ok",
  ];
  it("are read with or without echo, comments and unknown lines passed over", () => {
    const { entries, otherLines } = readValues(report);
    const of = (id: string) => entries.find((entry) => entry.id === id)?.value;
    expect([
      of("extruderSteps"),
      of("stepsZ"),
      of("nozzleP"),
      of("nozzleP@1"),
      of("namedRetractionSpeed"),
      of("pressureAdvance"),
    ]).toEqual([405, 400, 16, 17, 35, 0.05]);
    expect(of("highestFeedX")).toBe(300);
    expect(otherLines).toEqual(["echo:M145 S0 H185 B45 F255"]);
    expect(entries.find(({ id }) => id === "extruderSteps")!.line).toBe(report[1]);
  });

  it("are in mm/s where the printer counts in mm/min", () => {
    const of = (id: string) =>
      readValues(["M203 X18000.00", "M566 X480.00", "M207 S4 F2100"], true).entries.find((entry) => entry.id === id)
        ?.value;
    // F3000 is 50 mm/s: arithmetic.
    expect([of("highestFeedX"), of("jerkPerMinuteX"), of("retractionSpeed")]).toEqual([300, 8, 35]);
  });

  it("become the line that is sent, and that line is read back as the same figure", () => {
    const worst = firmwareValues.flatMap((definition) =>
      [false, true].flatMap((feedsPerMinute) => {
        const value = Math.min(definition.highest, Math.max(definition.lowest, 12.5));
        const line = valueLine(definition, 0, value, feedsPerMinute, 2);
        const [entry] = readValues([line], feedsPerMinute).entries.filter(({ id }) => id === definition.key);
        return entry && isTaken(definition.key, value, entry.value) ? [] : [line];
      }),
    );
    expect(worst).toEqual([]);
  });

  it("of a printer that goes by names are read in every form such printers answer in (common practice, no source)", () => {
    const { entries } = readValues([
      "// max_velocity: 300.000000",
      "// max_accel: 3000.000000",
      "// square_corner_velocity: 5.000000",
      "// pressure_advance: 0.045000",
      "// RETRACT_LENGTH=0.80000 RETRACT_SPEED=30.00000 UNRETRACT_EXTRA_LENGTH=0.00000 UNRETRACT_SPEED=30.00000",
    ]);
    expect(entries.map(({ value }) => value).sort((a, b) => a - b)).toEqual([0.045, 0.8, 5, 30, 300, 3000]);
  });

  it("are taken only as exactly as they are shown: half of the last decimal", () => {
    expect(isTaken("junctionDeviation", 0.013, 0.018)).toBe(false);
    expect(isTaken("pressureAdvance", 0.04, 0.045)).toBe(false);
    expect(isTaken("pressureAdvancePerTool", 0.03, 0.0345)).toBe(false);
    expect(isTaken("junctionDeviation", 0.013, 0.013)).toBe(true);
    // Shown with two decimals, 0.013 stands as 0.01: nothing more can be seen.
    expect(isTaken("junctionDeviation", 0.013, 0.01, 2)).toBe(true);
    expect(isTaken("junctionDeviation", 0.013, 0.02, 2)).toBe(false);
    const [shown] = readValues(["echo:  M205 J0.01"]).entries.filter(({ id }) => id === "junctionDeviation");
    expect(shown.decimals).toBe(2);
  });

  it("are staged: the exact line, the range, and a question for a jump of more than 25 %", () => {
    const printer = { feedsPerMinute: false, tools: 1 };
    const stage = (id: string, from: number, to: number) => stageChange(id, from, to, printer);
    // Extruder steps, old 405, mark 120, left 21.5: new 411.17. Common practice, no source.
    const steps = stage("extruderSteps", 405, 411.17);
    expect(steps.ok && [steps.value.line, steps.value.ask]).toEqual(["M92 E411.17", null]);
    const jump = stage("extruderSteps", 405, 41.117);
    expect(jump.ok && jump.value.ask).toMatch(/90 % less/);
    expect(stage("jerkX", 8, 500)).toMatchObject({ ok: false, field: "value" });
    expect(stage("nonsense", 1, 2)).toMatchObject({ ok: false, field: "id" });
    const second = stageChange("pressureAdvancePerTool@1", 0, 0.04, { feedsPerMinute: true, tools: 2 });
    expect(second.ok && second.value.line).toBe("M572 D1 S0.04");
    expect(valueFor("extruderSteps@1")?.tool).toBe(1);
  });

  it("are compared: what changed, what came, what went", () => {
    const entry = (id: string, value: number) => ({ id, value, tool: 0, decimals: 0, line: "" });
    expect(
      compareReadings([entry("a", 1), entry("b", 2), entry("c", 3)], [entry("a", 1), entry("b", 5), entry("d", 4)]),
    ).toEqual([
      { id: "b", before: 2, after: 5 },
      { id: "d", before: null, after: 4 },
      { id: "c", before: 3, after: null },
    ]);
  });
});
