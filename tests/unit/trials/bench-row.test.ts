/** What the bench, lists and downloads say of trials. */
import { stretchesOf } from "@/core/heightplan/stretches";
import { withLiftOut } from "@/core/edits/with-lift-out";
import { benchRows } from "@/core/trials/bench-row";
import { around, keptValue } from "../helpers/kept";
import { briefOf } from "@/core/trials/brief";
import { changesOfTrial } from "@/core/trials/changes-of-trial";
import { needs, unsettled } from "@/core/trials/need";
import { programName } from "@/core/trials/program-name";
import { sayBytes } from "@/core/units";
import { ladle, saffron, smallTrial } from "../helpers/demo";

const trial = smallTrial();
const [printer, spool] = [ladle, saffron];
const onShelf = { printer: { ...printer, id: trial.printerId }, spool: { ...spool, id: trial.spoolId } };
const brief = briefOf({ ...trial, version: 1 }, printer);

test("a trial in brief has its values and heights, not its plan", () => {
  expect(brief).toMatchObject({
    id: trial.id,
    setting: "nozzleTemperature",
    unit: "°C",
    kindLabel: "Nozzle temperature",
  });
  expect(brief.bands).toEqual(trial.plan.bands.map(({ heightMm, settings }) => [heightMm, settings.nozzleTemperature]));
  expect(JSON.stringify(brief)).not.toContain("settings");
});

describe("what should be settled first", () => {
  const wanted = [needs.steps, needs.temperature, needs.fan];
  test.each([
    [{}, [], "extruder steps, then nozzle temperature, then fan"],
    [{ nozzleTemperature: 230 }, [], "extruder steps, then fan"],
    [{ nozzleTemperature: 230, fan: 40 }, ["extruder-steps"], ""],
  ])("kept %j, measured %j: %j", (kept, measured, open) => {
    expect(unsettled(wanted, kept, new Set(measured))).toBe(open);
  });
});

test("the bench says what is kept, what was planned last and what is next, and stops asking for what is settled", () => {
  const base = { ...around, ...onShelf, trials: [brief], printing: null };
  const rows = benchRows({ ...base, kept: [] });
  expect(rows.map(({ isNext }) => isNext).indexOf(true)).toBe(0);
  expect(rows[0]).toMatchObject({ kind: "temperature", count: 1, latest: { id: trial.id }, needs: "extruder steps" });
  expect(rows.find(({ kind }) => kind === "retraction")!.needs).toBe("nozzle temperature, then fan");
  const kept = [keptValue({ setting: "nozzleTemperature", value: 230, keptAt: "2026-11-20T10:00:00Z" })];
  const measuredAt = new Map([["extruder-steps", "2026-11-01T10:00:00Z"]]);
  const later = benchRows({ ...base, kept, measuredAt });
  expect(later[0]).toMatchObject({ kept: { value: 230 }, needs: "", isNext: false });
  expect(later.find(({ kind }) => kind === "retraction")!.needs).toBe("fan");
  expect(later.filter(({ isNext }) => isNext)).toHaveLength(1);
});

test("a file is called by what it asks, of which spool, with which values", () => {
  const name = programName(trial, printer, spool);
  const [first] = trial.plan.bands;
  const last = trial.plan.bands.at(-1)!;
  expect(name).toBe(
    `nozzle-temperature ${spool.colourName || spool.name} ${first.settings.nozzleTemperature}-${last.settings.nozzleTemperature}C ${first.heightMm}mm.gcode`,
  );
});

test("a trial's plan for another file keeps its lead and its own lines, by height", () => {
  const plan = { ...trial.plan, leadLayers: 2, sideBySide: { setting: "retractionLength" as const, values: [1, 2] } };
  const changes = changesOfTrial({ ...trial, plan, tool: 1 });
  expect(changes[0]).toMatchObject({ from: { heightMm: plan.baseHeightMm }, tool: 1 });
  expect(changes[0].leadLayers).toBeUndefined();
  expect(changes[1].leadLayers).toBe(2);
});

test("stretches are layers in a row that follow one change", () => {
  const who = Int32Array.from([-1, 0, 0, 1, 1, -1, 1]);
  const values = Float64Array.from([NaN, 5, 5, 7, 7, NaN, 7]);
  expect(stretchesOf(values, who)).toEqual([
    { firstLayer: 1, lastLayer: 2, value: 5 },
    { firstLayer: 3, lastLayer: 4, value: 7 },
    { firstLayer: 6, lastLayer: 6, value: 7 },
  ]);
});

test("a second lift-out of one kind grows the first", () => {
  const one = { kind: "lift-out", what: "foreign", settings: ["fan"] } as const;
  const stack = withLiftOut(withLiftOut([], { ...one, settings: ["fan"] }), {
    ...one,
    settings: ["fan", "flowFactor"],
  });
  expect(stack).toEqual([{ kind: "lift-out", what: "foreign", settings: ["fan", "flowFactor"] }]);
  expect(withLiftOut(stack, { ...one, settings: ["fan"], tool: 1 })).toHaveLength(2);
});

// Decimal prefixes: ISO 80000-1, kilo is 10³.
test.each([
  [1, "1 byte"],
  [999, "999 bytes"],
  [40_000, "40 kB"],
  [1_450, "1.5 kB"],
  [999_700, "1 MB"],
  [52_400_000, "52 MB"],
  [2_000_000_000, "2 GB"],
])("%d bytes are said as %s", (bytes, said) => {
  expect(sayBytes(bytes)).toBe(said);
});
