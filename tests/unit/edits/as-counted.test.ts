/** The law of what a file counts on: whoever obeys the lines in the one state is in the other. */
import fc from "fast-check";
import { editsSchema } from "@/core/edits";
import { asCounted } from "@/core/edits/as-counted";
import { follow } from "@/core/gcode/follow";
import { readingOf } from "@/core/machine/reading";
import { freshState, MachineState } from "@/core/machine/state";
import type { Printer } from "@/core/shelf/printer";
import { ladle } from "../helpers/demo";
import { twoTools } from "../helpers/edit-samples";
import { edited, proved } from "../helpers/edits";

const mm = fc.integer({ min: 0, max: 180_000 }).map((n) => n / 1000);
const said = <T>(value: fc.Arbitrary<T>, otherwise: T) => fc.oneof(value, fc.constant(otherwise));

const perAxis = (one: fc.Arbitrary<number>) => fc.record({ x: one, y: one, z: one, e: one });

/** States as files leave them: whatever was said, in whatever mode. */
const stateOf = ({ tools }: Printer): fc.Arbitrary<MachineState> =>
  fc
    .record({
      unitMm: fc.constantFrom(1, 25.4),
      relative: fc.boolean(),
      relativeE: fc.boolean(),
      x: mm,
      y: mm,
      z: mm,
      e: mm,
      offsetX: fc.constantFrom(0, 0, 10),
      offsetZ: fc.constantFrom(0, 0, 0.2),
      offsetE: fc.constantFrom(0, 12.5),
      feedMmMin: fc.integer({ min: 60, max: 9000 }),
      tool: fc.integer({ min: 0, max: tools - 1 }),
      nozzleC: fc.array(fc.integer({ min: 0, max: 250 }), { minLength: tools, maxLength: tools }),
      bedC: fc.integer({ min: 0, max: 100 }),
      fanDuty: fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: tools }),
      speedPercent: fc.integer({ min: 10, max: 300 }),
      flowPercent: fc.array(fc.integer({ min: 50, max: 150 }), { minLength: tools, maxLength: tools }),
      printAccelerationMmS2: said(fc.integer({ min: 100, max: 9000 }), 1000),
      travelAccelerationMmS2: said(fc.integer({ min: 100, max: 9000 }), 1500),
      retractAccelerationMmS2: said(fc.integer({ min: 100, max: 9000 }), 1500),
      axisAccelerationMmS2: perAxis(fc.integer({ min: 100, max: 9000 })),
      axisFeedMmS: perAxis(fc.integer({ min: 5, max: 300 })),
      pressureAdvanceS: fc.array(
        fc.integer({ min: 0, max: 100 }).map((n) => n / 1000),
        { minLength: tools, maxLength: tools },
      ),
      drawnBack: fc.boolean(),
    })
    .map((some) => ({ ...freshState(), knownX: true, knownY: true, knownZ: true, ...some }));

/** What of a state a print counts on, by the tool that is in. */
const countedOn = (state: MachineState) => ({
  modes: [state.unitMm, state.relative, state.relativeE],
  feed: state.feedMmMin.toFixed(0),
  tool: state.tool,
  heats: [state.nozzleC, state.bedC],
  fans: state.fanDuty
    .map((duty) => Math.round(duty))
    .join()
    .replace(/(,0)+$/, ""),
  ways: [
    state.speedPercent,
    state.flowPercent[state.tool],
    state.printAccelerationMmS2,
    state.pressureAdvanceS[state.tool],
  ],
  limits: [state.travelAccelerationMmS2, state.retractAccelerationMmS2, state.axisAccelerationMmS2, state.axisFeedMmS],
  drawnBack: state.drawnBack,
});

const cases: [string, Printer][] = [
  ["one tool", ladle],
  ["two tools", { ...twoTools, dialect: "jerk" }],
  ["a fan for every tool", { ...twoTools, dialect: "jerk", fanPerTool: true }],
  ["a printer whose modes leave the filament alone", { ...ladle, dialect: "deviation" }],
];

test.each(cases)("%s: for any two states, obeying the lines in the one gives the other", (_, printer) => {
  const reading = readingOf(printer);
  fc.assert(
    fc.property(stateOf(printer), stateOf(printer), mm, mm, (from, to, isDrawn, drawn) => {
      const [isMm, drawnMm] = [isDrawn % 8, drawn % 8];
      const lines = asCounted({ state: from, drawnMm: isMm }, { state: to, drawnMm }, printer, {
        waits: true,
        overMm: 0,
      });
      const state = structuredClone(from);
      let lowest = Infinity;
      let fedMm = 0;
      for (const line of lines) {
        const before = { ...state };
        follow(state, line, reading);
        if (/^G1 E/.test(line)) fedMm += state.e - before.e;
        const isAcross = state.x !== before.x || state.y !== before.y;
        if (isAcross) lowest = Math.min(lowest, before.z, state.z);
      }
      expect(countedOn(state)).toEqual(countedOn(to));
      const figures = ["x", "y", "z", "offsetX", "offsetY", "offsetZ"] as const;
      for (const name of figures) expect(state[name]).toBeCloseTo(to[name], 2);
      if (!to.relativeE) expect(state.e - state.offsetE).toBeCloseTo(to.e - to.offsetE, 3);
      expect(fedMm).toBeCloseTo(isMm - drawnMm, 4);
      // Across only as high as both places are.
      if (lowest < Infinity) expect(lowest).toBeGreaterThanOrEqual(Math.max(from.z, to.z) - 1e-3);
    }),
    { numRuns: 300 },
  );
});

test("where nothing differs hardly anything is said", () => {
  const state = { ...freshState(), relativeE: true, feedMmMin: 1800 };
  const same = { state, drawnMm: 1 };
  expect(asCounted(same, same, ladle, { waits: true, overMm: 5 })).toEqual(["G90", "M83", "G1 F1800"]);
});

test("start lines of one's own leave limits and accelerations of travel as the file's own had them", () => {
  const own = "M201 X3000 Y3000\nM203 X300 Y300\nM204 P1250 T1500 R900";
  const text = `M104 S210\nM109 S210\nG28\n${own}\nG90\nM83\nG1 X20 Y20 Z0.2 F3000\nG1 X60 E2 F900\nM104 S0\nM84\n`;
  const edits = editsSchema.parse([{ kind: "start-end", start: true, end: false }]);
  const { after } = edited(text, edits, { ...ladle, startLines: "G28" });
  for (const line of own.split("\n")) {
    for (const word of line.split(" ").slice(1)) {
      const code = line.slice(0, 4);
      expect(after.split("\n").some((said) => said.startsWith(code) && said.split(" ").includes(word))).toBe(true);
    }
  }
  expect(proved(text, edits, { ...ladle, startLines: "G28" }).wrong).toEqual([]);
});

test("a fan that the file has off is said off where nothing was said of it: it may blow since the print before", () => {
  const text =
    "M104 S210\nM109 S210\nG28\nG90\nM83\nM107\nG1 X20 Y20 Z0.2 F3000\nG1 X60 E2 F900\nG1 Y60 E2\nM104 S0\nM84\n";
  const edits = editsSchema.parse([{ kind: "start-end", start: true, end: false }]);
  const quiet = { ...ladle, startLines: "G28" };
  const { after } = edited(text, edits, quiet);
  expect(after.slice(0, after.indexOf("G1 X60"))).toMatch(/^M107/m);
  expect(proved(text, edits, quiet).wrong).toEqual([]);
});
