import { dialects } from "../machine/dialects";
import { refuse, succeed } from "../result";
import { bedCentre, bedDepthMm, Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { mistyped, Tune } from "./tune";

const AXES = ["X", "Y", "Z"] as const;
/** Within so much of the whole way an axis is right: what a calliper can tell. Common practice, no source. */
const GOOD_SHARE = 0.001;

const LIFT_MM = 10;
/** So far from its ends an axis is measured: play of the endstop stays out of it. */
const FROM_END_MM = 10;

/** Where a way along the axis may begin and end on this printer, mm. */
function roomAlong(axis: (typeof AXES)[number], printer: Printer): { fromMm: number; toMm: number } {
  if (axis === "Z") return { fromMm: FROM_END_MM, toMm: printer.buildHeightMm };
  const centre = bedCentre(printer)[axis === "X" ? "x" : "y"];
  const half = (axis === "X" ? printer.bedWidthMm : bedDepthMm(printer)) / 2;
  return { fromMm: centre - half + FROM_END_MM, toMm: centre + half };
}

export const axisSteps: Tune = {
  title: "Axis steps, measured",
  draws: "way",
  question: "Does an axis move the length it should?",
  needs: ["A calliper or a good ruler", "Nothing on the bed"],
  inputs: [
    {
      key: "axis",
      label: "Axis",
      unit: "",
      low: 0,
      high: 2,
      step: 1,
      decimals: 0,
      usual: () => 0,
      choices: AXES.map((label, value) => ({ value, label })),
    },
    { key: "wayMm", label: "Way", unit: "mm", low: 10, high: 200, step: 10, decimals: 0, usual: () => 100 },
  ],
  uses: ({ inputs }) => [`steps${AXES[inputs.axis] ?? "X"}`],
  refuses: ({ dialect }) =>
    dialects[dialect].stepsByLine
      ? null
      : "This printer's dialect cannot set steps by a line: they are part of its configuration.",
  heat: () => null,
  before: "Take everything off the bed. The printer homes and moves to where the way starts.",
  unfit({ inputs, printer }) {
    const axis = AXES[inputs.axis] ?? "X";
    const room = roomAlong(axis, printer);
    const most = Math.floor(room.toMm - room.fromMm);
    return inputs.wayMm <= most
      ? null
      : refuse(`${printer.name} has room for a way of ${most} mm along ${axis}.`, "inputs.wayMm");
  },
  act({ inputs, printer }) {
    const axis = AXES[inputs.axis] ?? "X";
    const feed = Math.round(axis === "Z" ? Math.min(600, printer.highestFeedZMmS * 60) : 1800);
    const { fromMm } = roomAlong(axis, printer);
    // Homed, the nozzle may stand on the bed: it is lifted before it goes anywhere.
    const lift = axis === "Z" ? [] : [`G1 Z${LIFT_MM} F${Math.round(Math.min(600, printer.highestFeedZMmS * 60))}`];
    return [
      "G28",
      "G90",
      ...lift,
      `G1 ${axis}${plainNumber(fromMm)} F${feed}`,
      "G4 P1",
      "G91",
      `G1 ${axis}${plainNumber(inputs.wayMm)} F${feed}`,
      "G90",
      "G4 P1",
    ];
  },
  after: "Measure how far it moved in its last move.",
  readings: ({ inputs }) => [
    { key: "movedMm", label: "Moved", unit: "mm", low: 1, high: 2 * inputs.wayMm, decimals: 2 },
  ],
  /** new = old · commanded / measured. Common practice, no source. */
  sum({ inputs, values }, { movedMm }) {
    const id = `steps${AXES[inputs.axis] ?? "X"}`;
    const old = values[id];
    if (!(old > 0))
      return refuse("The printer's current steps are unknown: read them from the printer or type them.", id);
    const next = (old * inputs.wayMm) / movedMm;
    const within = Math.abs(movedMm - inputs.wayMm) <= GOOD_SHARE * inputs.wayMm;
    return succeed({
      sum: [
        `new = ${plainNumber(old, 2)} · ${plainNumber(inputs.wayMm)} / ${plainNumber(movedMm, 2)} = ${plainNumber(next, 3)} steps/mm`,
      ],
      measured: movedMm,
      unit: "mm",
      within,
      verdict: within
        ? `${plainNumber(movedMm, 2)} mm for ${plainNumber(inputs.wayMm)}: as near as can be measured, leave it.`
        : `It moves ${plainNumber(movedMm, 2)} mm for ${plainNumber(inputs.wayMm)}.`,
      ask: mistyped("The steps", old, next),
      firmware: { [id]: Math.round(next * 100) / 100 },
    });
  },
  agreeWithin: 0.1,
  fromRuler: ({ lastMoveMm }, { inputs }) => ({
    movedMm: [lastMoveMm.x, lastMoveMm.y, lastMoveMm.z][inputs.axis] ?? 0,
  }),
  asFile: true,
};
