import { checks } from "@/core/checks";
import { checkFile } from "@/core/checks/file";
import { Finding } from "@/core/findings/finding";
import { sayBands } from "@/core/checks/say";
import { readProgram } from "@/core/gcode/read";
import { readingOf } from "@/core/machine/reading";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { Printer } from "@/core/shelf/printer";
import { Spool } from "@/core/shelf/spool";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { Trial } from "@/core/trials/trial";
import { ladle, planOf, printers, saffron, smallTrial } from "../helpers/demo";
import { squareTube } from "../helpers/programs";

function inspect(trial: Trial, printer: Printer = ladle, spool: Spool = saffron) {
  const input = { trial, printer, spool };
  return inspectTrial(input, buildTrial(input));
}

const found = (findings: Finding[], check: string) => findings.find((finding) => finding.check === check);

/** A mend must mend: after it, the finding is gone. */
function expectMended(trial: Trial, check: string, printer = ladle, spool = saffron) {
  const before = found(inspect(trial, printer, spool).findings, check)!;
  expect(before.mend?.trial).toBeDefined();
  const after = inspect({ ...trial, ...before.mend!.trial }, printer, spool);
  expect(found(after.findings, check)).toBeUndefined();
  return before;
}

test("a sound trial has nothing to mend", () => {
  const { findings, passed } = inspect(smallTrial());
  expect(findings).toEqual([]);
  expect(passed).toEqual([
    "Every layer commands what the plan says.",
    "Everything stays on the bed.",
    "Nozzle and head clear everything that is printed.",
    "Heaters, fan and motors are off at the end.",
    "The nozzle settles within every band.",
    "The hot end keeps up with the flow.",
  ]);
});

test("300 °C on a 260 °C printer is stopped, and lowering mends it", () => {
  const finding = expectMended(smallTrial({ plan: planOf([300, 215, 205]) }), "beyond-limits");
  expect(finding).toMatchObject({ severity: "stop", where: "band 1" });
  expect(finding.message).toBe("The nozzle is set to 300 °C; Ladle 220 allows 260 °C.");
});

test("a bed beyond its limit too", () => {
  expect(expectMended(smallTrial({ fixed: { bedTemperature: 130, fan: 100 } }), "beyond-limits").message).toMatch(
    /bed is set to 130/,
  );
});

test("temperatures outside the label are pointed out", () => {
  const finding = expectMended(smallTrial({ plan: planOf([230, 220, 190]) }), "outside-label");
  expect(finding).toMatchObject({ severity: "warn", where: "bands 1, 3" });
  expect(finding.message).toBe("230, 190 °C is outside the label's 195–225 °C.");
});

test.each([
  ["a narrow bed", { ...ladle, bedWidthMm: 45 }],
  ["a round bed", { ...printers.find(({ bedShape }) => bedShape === "round")!, bedWidthMm: 55 }],
  ["a shifted origin", { ...ladle, startLines: `${ladle.startLines}\nG92 X-100` }],
])("%s: what runs off is stopped with its place", (_, printer) => {
  const finding = found(inspect(smallTrial(), printer).findings, "outside-bed")!;
  expect(finding).toMatchObject({ severity: "stop", mend: { open: "printer" } });
  expect(finding.message).toMatch(/X-?[\d.]+ Y-?[\d.]+ the print runs [\d.]+ mm off the bed/);
  expect(finding.where).toMatch(/^line \d+$/);
});

test("a piece higher than the printer reaches is stopped", () => {
  const finding = found(inspect(smallTrial(), { ...ladle, buildHeightMm: 20 - 7 }).findings, "outside-bed")!;
  expect(finding.message).toMatch(/16 mm high; Ladle 220 reaches 13 mm/);
});

test("filament pushed cold is stopped", () => {
  const cold = { ...ladle, startLines: "G28" };
  const { findings } = inspect(smallTrial(), cold);
  expect(found(findings, "cold-extrusion")!.message).toMatch(/before the nozzle is heated/);
  const cool = found(inspect(smallTrial({ plan: planOf([150, 145]) })).findings, "cold-extrusion")!;
  expect(cool.message).toMatch(/at 150 °C; below 170 °C/);
});

test("start lines that do not follow the first band are pointed out", () => {
  const fixed = { ...ladle, startLines: "G28\nM109 S200" };
  expect(found(inspect(smallTrial(), fixed).findings, "start-temperature")!.message).toMatch(
    /starts at 200 °C, the first band wants 220/,
  );
  const silent = { ...ladle, startLines: "G28" };
  expect(found(inspect(smallTrial(), silent).findings, "start-temperature")!.message).toMatch(/never set the nozzle/);
});

test("bands too low to settle are told, and taller ones settle", () => {
  const slow = { ...ladle, heaterFallCPerS: 0.25, heaterLagS: 20 };
  const trial = smallTrial({ plan: planOf([225, 215, 205, 195], 1.2) });
  const finding = expectMended(trial, "too-low-to-settle", slow);
  expect(finding.message).toMatch(/settled for only \d+ % of its height/);
});

test("heaters, fans and motors left on at the end", () => {
  const messages = (endLines: string, printer = ladle) =>
    inspect(smallTrial(), { ...printer, endLines })
      .findings.filter(({ check }) => check === "left-on")
      .map(({ severity, message }) => `${severity}: ${message}`);
  expect(messages("")).toEqual([
    expect.stringMatching(/^stop: The nozzle stays at 200 °C/),
    expect.stringMatching(/^stop: The bed stays at 60 °C/),
    expect.stringMatching(/^warn: The fan keeps turning/),
    expect.stringMatching(/^warn: The motors stay on/),
  ]);
  expect(messages("M104 S0\nM140 S0\nM107\nM84")).toEqual([]);
});

test("one of two heaters staying on is seen", () => {
  const twin = printers.find(({ tools }) => tools > 1)!;
  const both = {
    ...twin,
    startLines: `${twin.startLines}\nM104 S150 T1`,
    endLines: twin.endLines.replace("M104 S0 T1\n", ""),
  };
  const finding = found(inspect(smallTrial(), both).findings, "left-on")!;
  expect(finding).toMatchObject({ severity: "stop" });
  expect(finding.message).toBe("Nozzle 1 stays at 150 °C after the print. Add M104 S0 T1 to the end lines.");
});

test("cold at the bottom is turned round", () => {
  const trial = smallTrial({ plan: planOf([200, 210, 220]) });
  const finding = expectMended(trial, "cold-at-bottom");
  expect(finding.mend!.trial!.plan!.bands.map(({ settings }) => settings.nozzleTemperature)).toEqual([220, 210, 200]);
});

test("bands that differ too little are told", () => {
  const finding = expectMended(smallTrial({ plan: planOf([220, 219, 218, 210]) }), "bands-alike");
  expect(finding.where).toBe("bands 1 and 2, 2 and 3");
  expect(finding.mend!.trial!.plan!.bands.map(({ settings }) => settings.nozzleTemperature)).toEqual([220, 210]);
});

test("fan duties that do not turn the fan are noted", () => {
  const finding = found(inspect(smallTrial({ fixed: { fan: 5 } })).findings, "fan-too-slow")!;
  expect(finding).toMatchObject({ severity: "note", where: "whole piece" });
  expect(finding.message).toMatch(/5 % \(S13\).*S15 is written/);
});

test("what a dialect cannot say is stopped with its reason", () => {
  const kettle = printers.find(({ dialect }) => dialect === "valve")!;
  const finding = found(
    inspect(smallTrial({ fixed: { bedTemperature: 60, fan: 40 } }), kettle).findings,
    "not-sayable",
  )!;
  expect(finding).toMatchObject({ severity: "stop", where: "fan" });
  expect(finding.message).toMatch(/only on or off/);
});

test("unknown names in start lines are stopped", () => {
  const finding = found(inspect(smallTrial(), { ...ladle, startLines: "M109 S{{warm}}" }).findings, "not-sayable")!;
  expect(finding.message).toMatch(/there is no “{{warm}}”/);
  expect(finding.mend).toEqual({ label: "Look at the printer", open: "printer" });
});

test("bands thinner than a layer are told", () => {
  const trial = smallTrial({ layerHeightMm: 0.6, firstLayerHeightMm: 0.6, plan: planOf([220, 215, 210], 0.4, 0) });
  expect(found(inspect(trial).findings, "beyond-piece")!.message).toMatch(/no layer starts there/);
});

test("bands without room for a mark are noted", () => {
  expect(found(inspect(smallTrial({ plan: planOf([220, 210], 0.6) })).findings, "unreadable-bands")!.where).toBe(
    "bands 1, 2",
  );
});

test.each([
  [[3], "band 3"],
  [[2, 1], "bands 1, 2"],
  [[1, 2, 3, 4, 7], "bands 1–4, 7"],
  [[1, 3, 5, 7, 9, 11, 13], "bands 1, 3, 5, 7, 9, 11 …"],
])("%j are said as %s", (numbers, said) => {
  expect(sayBands(numbers)).toBe(said);
});

test("findings come worst first, and every check has a key of its own", () => {
  const { findings } = inspect(smallTrial({ plan: planOf([190, 300]), fixed: { fan: 5 } }), { ...ladle, endLines: "" });
  const weights = findings.map(({ severity }) => ["stop", "warn", "note"].indexOf(severity));
  expect(weights).toEqual([...weights].sort());
  expect(new Set(checks.map(({ key }) => key)).size).toBe(checks.length);
});

describe("an opened file", () => {
  const look = (text: string, printer = ladle) =>
    checkFile(reportOf(readProgram(text), limitsFor(printer)).report, printer);

  test("a plain one has nothing to say", () => {
    expect(look(squareTube({ layers: 10 }))).toEqual([]);
  });

  test("earlier plans, own changes, limits, room, damage", () => {
    const extra = (i: number) =>
      i === 3
        ? ["M104 S205 ; cuchara: band 1/1 nozzle 205 from 0.6 mm"]
        : i === 5
          ? ["M104 S280"]
          : i === 6
            ? ["N9 M105*1"]
            : [];
    const findings = look(squareTube({ layers: 10, extra }), { ...ladle, buildHeightMm: 1 });
    expect(findings.map(({ check }) => check)).toEqual([
      "beyond-limits",
      "outside-bed",
      "earlier-plan",
      "damaged-lines",
      "foreign-change",
    ]);
    expect(findings[2].mend!.edit).toEqual({ kind: "lift-out", what: "cuchara" });
    expect(findings[4].message).toMatch(/sets the nozzle to 280 °C inside the print/);
  });
});

describe("what is said of a file's own lines", () => {
  const look = (text: string, printer: Printer = ladle) =>
    checkFile(reportOf(readProgram(text, { reading: readingOf(printer) }), limitsFor(printer)).report, printer);
  const [keyword] = printers.filter(({ dialect }) => dialect === "keyword");

  test("a heat that is waited for inside the print, with its line and how many there are", () => {
    const extra = (i: number) => (i === 4 || i === 7 ? ["M109 S205"] : []);
    const text = squareTube({ layers: 10, extra });
    const finding = found(look(text), "waits-inside")!;
    expect(finding.where).toBe(`line ${text.split("\n").indexOf("M109 S205") + 1}`);
    expect(finding).toMatchObject({ severity: "note", message: expect.stringMatching(/^2 temperature changes wait/) });
    expect(found(look(squareTube({ layers: 10 })), "waits-inside")).toBeUndefined();
  });

  /** Filament counts from where it stands; a lift names G90 once more. */
  const strokes = Array.from({ length: 6 }, (_, i) => `G1 X${20 + 10 * (i % 2)} Y${20 + i} E0.4`).join("\n");
  const lifted = `M104 S210\nG28\nG90\nM83\nG1 Z0.2 F900\n${strokes}\nG91\nG1 Z1\nG90\n${strokes}\nM104 S0\nM84\n`;
  const line = lifted.split("\n").lastIndexOf("G90") + 1;

  test("how filament is taken to count behind G90: as the figures tell, or as this printer reads it", () => {
    expect(found(look(lifted, keyword), "assumed-reading")).toMatchObject({
      severity: "note",
      where: `line ${line}`,
      message: expect.stringContaining("no other reading fits"),
    });
    expect(found(look(lifted), "assumed-reading")).toMatchObject({
      severity: "warn",
      where: `line ${line}`,
      message: expect.stringContaining("add M83 after this line"),
    });
  });

  test("a firmware that draws back by a length the file never says", () => {
    const drawn = "M104 S210\nG28\nM83\nG1 X9 Y9 Z0.2 E1 F900\nG10\nG0 X30\nG11\nG1 X50 E1\nM104 S0\nM84\n";
    expect(found(look(drawn), "assumed-reading")).toMatchObject({ severity: "note", where: "whole file" });
    expect(found(look(drawn.replace("G10", "M207 S2\nG10")), "assumed-reading")).toBeUndefined();
  });
});

test("bands that are alike in one setting but not in another are not alike", () => {
  const bands = [40, 60, 80].map((fan) => ({ heightMm: 6, settings: { nozzleTemperature: 210, fan } }));
  const different = smallTrial({ plan: { baseHeightMm: 1, bands } });
  expect(found(inspect(different).findings, "bands-alike")).toBeUndefined();
  const doubled = [...bands.slice(0, 2), { heightMm: 6, settings: { nozzleTemperature: 211, fan: 62 } }];
  const finding = expectMended(smallTrial({ plan: { baseHeightMm: 1, bands: doubled } }), "bands-alike");
  expect(finding.where).toBe("bands 2 and 3");
  expect(finding.message).toMatch(/as little as 1 °C/);
  expect(finding.mend!.trial!.plan!.bands).toEqual(bands.slice(0, 2));
});
