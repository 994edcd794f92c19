import { dialectTold, everyValueQuestion, toldFigures } from "@/core/firmware/on-the-shelf";
import { readIdentity } from "@/core/firmware/reports/identity";
import { dialectOfFan, figuresOfPath, pathOf } from "@/core/shelf/five-questions";
import { printerSchema } from "@/core/shelf/printer-schema";
import { newPrinter } from "@/ui/shelf/drafts";

// Shapes of the reports: common practice, no source; one command a line, with or without `echo:`, unit comments between.
const jerkReport = [
  "echo:; Steps per unit:",
  "echo:  M92 X80.00 Y80.00 Z400.00 E405.00",
  "echo:  M203 X250.00 Y250.00 Z8.00 E60.00",
  "echo:  M201 X2000 Y2000 Z120 E9000",
  "echo:  M204 P1250.00 R1800.00 T1400.00",
  "echo:  M205 X7.50 Y7.50 Z0.30 E4.50",
  "echo:  M207 S0.00 F1500.00",
];
const nothing = readIdentity([]);
const figures = (answers: string[], identity = nothing) =>
  Object.fromEntries(toldFigures(identity, answers).map(({ field, value }) => [field, value]));

describe("what a printer tells of itself", () => {
  it("fills in limits, accelerations, cornering and tools, each with its line", () => {
    const identity = readIdentity(["FIRMWARE_NAME:ownware 2 MACHINE_TYPE:Pan 200 EXTRUDER_COUNT:2"]);
    expect(figures(jerkReport, identity)).toEqual({
      dialect: "jerk",
      tools: 2,
      printAccelerationMmS2: 1250,
      travelAccelerationMmS2: 1400,
      retractAccelerationMmS2: 1800,
      highestAccelerationZMmS2: 120,
      highestAccelerationEMmS2: 9000,
      jerkMmS: 7.5,
      jerkZMmS: 0.3,
      jerkEMmS: 4.5,
      highestFeedXyMmS: 250,
      highestFeedZMmS: 8,
      highestFeedEMmS: 60,
      // 1500 mm/min
      retractionMmS: 25,
    });
    const lines = toldFigures(identity, jerkReport).map(({ line }) => line);
    for (const line of lines) expect([...jerkReport, "EXTRUDER_COUNT:2"]).toContain(line);
  });

  it("tells its dialect by the commands it reports with", () => {
    expect(dialectTold(["M205 B20000 S0.00 T0.00 J0.026"])?.dialect).toBe("deviation");
    expect(dialectTold(["M566 X480.00 Y480.00 Z24.00 E300.00"])?.dialect).toBe("minute");
    expect(dialectTold(["// max_velocity: 300.0 max_accel: 3000.0 square_corner_velocity: 5.0"])?.dialect).toBe(
      "keyword",
    );
    expect(dialectTold(["M92 X80 Y80"])).toBeNull();
  });

  it("counts feeds per minute where the dialect does", () => {
    expect(figures(["M566 X480.00 Y480.00 Z24.00 E300.00", "M203 X18000 Y18000 Z600 E3600"])).toMatchObject({
      dialect: "minute",
      jerkMmS: 8,
      highestFeedXyMmS: 300,
      highestFeedEMmS: 60,
    });
  });

  it("says nothing of what it was not told, and asks each dialect's questions once", () => {
    expect(toldFigures(readIdentity(["EXTRUDER_COUNT:none"]), ["ok", "echo:Unknown command: M503"])).toEqual([]);
    expect(new Set(everyValueQuestion.flat()).size).toBe(everyValueQuestion.flat().length);
    expect(everyValueQuestion[0]).toEqual(["M503"]);
  });

  it("makes a whole record with what a new printer starts with", () => {
    const record = printerSchema.safeParse({ ...newPrinter, name: "Pan 200", ...figures(jerkReport) });
    expect(record.success).toBe(true);
  });
});

describe("five questions", () => {
  it("fit the retraction to the path, and leave what speaks for it", () => {
    expect(figuresOfPath("short", { retractionMm: 4 }).retractionMm).toBeLessThan(2);
    expect(figuresOfPath("short", { retractionMm: 1.2 })).toEqual({ retractionMm: 1.2 });
    expect(figuresOfPath("long", { retractionMm: 0.8 }).retractionMm).toBeGreaterThan(2.5);
    expect([pathOf({ retractionMm: 2.5 }), pathOf({ retractionMm: 2.6 })]).toEqual(["short", "long"]);
  });

  it("speak of a fan without duty as the valve dialect", () => {
    expect(dialectOfFan(true, "deviation")).toBe("valve");
    expect(dialectOfFan(false, "deviation")).toBe("deviation");
    expect(dialectOfFan(false, "valve")).toBe("jerk");
  });
});
