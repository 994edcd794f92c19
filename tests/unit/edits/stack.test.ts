import fc from "fast-check";
import { Edit } from "@/core/edits";
import { checkFile } from "@/core/checks/file";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { Printer } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { ladle } from "../helpers/demo";
import { edited, tryEdits } from "../helpers/edits";
import { squareTube } from "../helpers/programs";

const twin: Printer = printerSchema.parse({ ...ladle, tools: 2, name: "Two" });

/** Square layers with retraction by relative moves and a comment a layer. */
function squares(layers: number, more: (layer: number) => string[] = () => []): string {
  const lines = ["M104 S200", "G28", "M109 S200", "G90", "M83"];
  for (let i = 0; i < layers; i++) {
    lines.push(`; layer ${i}`, ...more(i), "G1 E-2 F2400", "G0 X10 Y10 F6000");
    lines.push(`G0 Z${(0.2 + 0.2 * i).toFixed(1)} F600`, "G1 E2 F2400");
    for (const corner of ["X30 Y10", "X30 Y30", "X10 Y30", "X10 Y10"]) lines.push(`G1 ${corner} E0.676 F1800`);
  }
  return [...lines, "M104 S0", "M140 S0", "M107", "M84", ""].join("\n");
}

const plan = (settings: object, fromMm: number, untilMm?: number): Edit =>
  ({
    kind: "height-plan",
    changes: [{ from: { heightMm: fromMm }, ...(untilMm ? { until: { heightMm: untilMm } } : {}), settings }],
  }) as Edit;

const put = (after: string, pattern: RegExp) => after.split("\n").filter((line) => pattern.test(line));

describe("edits compose", () => {
  const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
    fc
      .record({
        key: fc.constantFrom(
          "nozzleTemperature",
          "fan",
          "speedFactor",
          "retractionLength",
          "retractionSpeed",
          "travelSpeed",
        ),
        share: fc.double({ min: 0, max: 1, noNaN: true }),
        from: fc.integer({ min: 0, max: 22 }),
        long: fc.option(fc.integer({ min: 1, max: 10 })),
      })
      .map(({ key, share, from, long }) => {
        const [low, high] = {
          nozzleTemperature: [190, 230],
          fan: [0, 100],
          speedFactor: [50, 150],
          retractionLength: [0.5, 6],
          retractionSpeed: [10, 50],
          travelSpeed: [50, 200],
        }[key]!;
        const value = Math.round((low + (high - low) * share) * 10) / 10;
        return plan({ [key]: value }, from / 10, long ? (from + long) / 10 : undefined);
      }),
    fc.constantFrom<Edit>(
      { kind: "lift-out", what: "cuchara" },
      { kind: "lift-out", what: "foreign", settings: ["nozzleTemperature", "fan"] },
    ),
  );

  test("a stack gives the same bytes as saving the file after each edit, opening it, and applying the next", () => {
    const file = squares(12, (i) => (i === 4 ? ["M104 S205", "M106 S90"] : []));
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 4 }), (stack) => {
        const oneByOne = stack.reduce((text, edit) => {
          const applied = tryEdits(text, [edit]);
          return applied.ok ? edited(text, [edit]).after : text;
        }, file);
        const refused = !tryEdits(file, stack).ok;
        if (!refused) expect(edited(file, stack).after).toBe(oneByOne);
      }),
      { numRuns: 60 },
    );
  });

  test("two plans with retraction rewrite each line once", () => {
    const { after, mismatches } = edited(squares(6), [
      plan({ retractionLength: 3 }, 0.2),
      plan({ retractionLength: 1 }, 0.6),
    ]);
    expect(put(after, /^G1 E-/)).toEqual(["2", "3", "3", "1", "1", "1"].map((mm) => `G1 E-${mm} F2400`));
    expect(mismatches).toEqual([]);
  });

  test("where a later plan ends, the earlier one holds again, and the proof remembers it", () => {
    const { after, mismatches, planned } = edited(squares(12), [
      plan({ nozzleTemperature: 220 }, 0.4),
      plan({ nozzleTemperature: 230 }, 1, 1.4),
    ]);
    expect(put(after, /cuchara/).map((line) => line.split(" ; ")[0])).toEqual(["M104 S220", "M104 S230", "M104 S220"]);
    expect(mismatches).toEqual([]);
    const wanted = Array.from(planned[0].planned.nozzleTemperature!);
    expect(wanted).toEqual([NaN, NaN, 220, 220, 220, 230, 230, 220, 220, 220, 220, 220]);
    // The proof must be able to fail: with the returning line spoiled, the layers above it are not as the stack wants them.
    const broken = after.replace("M104 S220 ; cuchara: band 1/1 ends", "M104 S200 ; cuchara: band 1/1 ends");
    const { mismatches: seen } = edited(broken, [plan({ nozzleTemperature: 220 }, 1.4)]);
    expect(seen.map(({ layer }) => layer)).toEqual([7, 8, 9, 10, 11]);
  });

  test("an earlier plan's line that undoes a later plan is pointed out", () => {
    const { findings } = edited(squares(12), [
      plan({ nozzleTemperature: 220 }, 1.4),
      plan({ nozzleTemperature: 230 }, 0.4),
    ]);
    expect(findings).toMatchObject([{ check: "earlier-plan", mend: { edit: { kind: "lift-out", what: "cuchara" } } }]);
  });
});

describe("tools", () => {
  /** Two tools in every layer, each heated and cooled at its turn. */
  const turns = (() => {
    const lines = ["M104 S200 T0", "M104 S150 T1", "G28", "M109 S200 T0", "G90", "M83", "T0"];
    const corners = (dx: number) =>
      [`X${30 + dx} Y10`, `X${30 + dx} Y30`, `X${10 + dx} Y30`, `X${10 + dx} Y10`].map((c) => `G1 ${c} E0.676 F1800`);
    for (let i = 0; i < 6; i++) {
      lines.push(`; layer ${i}`, "T0", `G0 X10 Y10 Z${(0.2 + 0.2 * i).toFixed(1)} F6000`, ...corners(0));
      lines.push(
        "M104 S150 T0",
        "M109 S230 T1",
        "T1",
        "G0 X50 Y10 F6000",
        ...corners(40),
        "M104 S150 T1",
        "M109 S200 T0",
      );
    }
    return [...lines, "M104 S0 T0", "M104 S0 T1", "M84", ""].join("\n");
  })();

  test("the mend for foreign changes names its tool and leaves the other's heat alone", () => {
    const change = {
      kind: "height-plan",
      changes: [{ from: { heightMm: 0.6 }, settings: { nozzleTemperature: 190 }, tool: 0 }],
    } as Edit;
    const [finding] = edited(turns, [change], twin).findings;
    expect(finding.mend!.edit).toMatchObject({ what: "foreign", settings: ["nozzleTemperature"], tool: 0 });
    const { after, mismatches } = edited(turns, [finding.mend!.edit!, change], twin);
    expect(put(after, /S230 T1/)).toHaveLength(6);
    expect(put(after, /S150 T0/)).toHaveLength(0);
    expect(mismatches).toEqual([]);
  });

  test("without a named tool a temperature holds for every tool that lays anything from there on", () => {
    const halves = turns.replace(/(; layer 3[\s\S]*)/, (rest) => rest.replace(/T1\nG0[\s\S]*?(?=M104 S150 T1)/g, ""));
    const lines = (from: number, text: string) =>
      put(edited(text, [plan({ nozzleTemperature: 210 }, from)], twin).after, /cuchara/).map((l) => l.split(" ; ")[0]);
    expect(lines(0.2, turns)).toEqual(["M104 S210 T0", "M104 S210 T1"]);
    // Tool 1 lays nothing above layer 3.
    expect(lines(1, halves)).toEqual(["M104 S210 T0"]);
    // One fan is every tool's: it is said once.
    expect(put(edited(turns, [plan({ fan: 50 }, 0.4)], twin).after, /cuchara/)).toHaveLength(1);
  });
});

describe("what holds before and behind a change", () => {
  test("factors return to the 100 % they are defined by; a value nobody ever said stays, and that is said", () => {
    const { after, findings } = edited(squares(10), [
      plan({ speedFactor: 50, flowFactor: 90, acceleration: 300 }, 0.4, 1),
    ]);
    expect(put(after, /ends/).map((line) => line.split(" ; ")[0])).toEqual(["M220 S100", "M221 S100"]);
    expect(findings).toMatchObject([{ check: "no-value-before", message: /acceleration.*in the printer too/ }]);
  });

  test("a firmware's own retraction returns to nothing that is known", () => {
    const file = squares(8)
      .replace(/G1 E-2 F2400/g, "G10")
      .replace(/G1 E2 F2400/g, "G11");
    const { after, findings } = edited(file, [plan({ retractionLength: 1.5 }, 0.6, 1)]);
    expect(put(after, /M207/)).toEqual(["M207 S1.5 ; cuchara: band 1/1 retraction 1.5 from 0.6 mm"]);
    expect(findings).toMatchObject([{ check: "no-value-before" }]);
  });

  test("a change of the file's own before the place where the plan begins undoes nothing", () => {
    const file = squares(6).replace("; layer 3", "M104 S205\n; layer 3");
    const { findings, mismatches } = edited(file, [plan({ nozzleTemperature: 230 }, 0.6)]);
    expect([findings, mismatches]).toEqual([[], []]);
  });

  test("a lead goes along: the nozzle is told some layers before its change begins", () => {
    const change: Edit = {
      kind: "height-plan",
      changes: [
        { from: { heightMm: 0.4 }, settings: { nozzleTemperature: 220, fan: 50 } },
        { from: { heightMm: 1.6 }, settings: { nozzleTemperature: 210, fan: 60 }, leadLayers: 3 },
      ],
    };
    const { after } = edited(squares(12), [change]);
    const layerOf = (text: string) => after.slice(0, after.indexOf(text)).split("; layer ").length - 2;
    expect([layerOf("M104 S210"), layerOf("M106 S153")]).toEqual([5, 8]);
  });
});

test("an edited file meets the same limits as a trial", () => {
  const hot = edited(squares(6), [plan({ nozzleTemperature: 480, bedTemperature: 190 }, 0.4)]);
  const findings = checkFile(reportOf(hot.tables, limitsFor(ladle)).report, ladle);
  expect(findings.filter(({ severity }) => severity === "stop").map(({ message }) => message)).toEqual([
    "The nozzle is set to 480 °C; Ladle 220 allows 260 °C.",
    "The bed is set to 190 °C; Ladle 220 allows 100 °C.",
  ]);
  const untouched = checkFile(reportOf(edited(squareTube({ layers: 4 }), []).tables, limitsFor(ladle)).report, ladle);
  expect(untouched.filter(({ severity }) => severity === "stop")).toEqual([]);
});
