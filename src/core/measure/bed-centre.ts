import { dialects } from "../machine/dialects";
import { homeOffsetFor } from "../machine/homing";
import { succeed } from "../result";
import { bedCentre as middleOf } from "../shelf/printer";
import { plainNumber, roundTo } from "../units";
import { Tune, TuneOutcome } from "./tune";

/** Nearer than the eye can tell on a bed. Common practice, no source. */
const GOOD_WITHIN_MM = 0.3;

export const bedCentre: Tune = {
  title: "Bed centre",
  draws: "cross",
  question: "Is the middle of the bed where the printer thinks it is?",
  needs: ["The middle of the bed marked, by its two diagonals", "A ruler"],
  inputs: [
    {
      key: "heightMm",
      label: "Nozzle stands at",
      unit: "mm",
      low: 0.5,
      high: 20,
      step: 0.5,
      decimals: 1,
      usual: () => 2,
    },
  ],
  uses: ({ printer }) => (dialects[printer.dialect].homeOffsetByLine ? ["homeX", "homeY"] : []),
  heat: () => null,
  before: "Mark the middle of the bed: tape from corner to corner, both ways.",
  act({ printer, inputs }) {
    const { x, y } = middleOf(printer);
    return [
      "G28",
      "G90",
      `G1 Z${plainNumber(inputs.heightMm + 5)} F600`,
      `G1 X${plainNumber(x)} Y${plainNumber(y)} F3000`,
      `G1 Z${plainNumber(inputs.heightMm)} F600`,
      "G4 P1",
    ];
  },
  after: "Measure where the nozzle stands, seen from the mark: to the right and to the back count as plus.",
  readings: () => [
    { key: "dxMm", label: "To the right", unit: "mm", low: -50, high: 50, decimals: 1 },
    { key: "dyMm", label: "To the back", unit: "mm", low: -50, high: 50, decimals: 1 },
  ],
  /**
   * Sent to the middle it stands at middle + d. `homeOffsetFor` says which home offset makes that true; where there is none, naming the
   * place what it is (G92) does.
   */
  sum({ printer, values }, { dxMm, dyMm }) {
    const off = Math.hypot(dxMm, dyMm);
    const within = off <= GOOD_WITHIN_MM;
    const { x, y } = middleOf(printer);
    const old = { x: values.homeX ?? 0, y: values.homeY ?? 0 };
    const next = { x: homeOffsetFor(old.x, dxMm), y: homeOffsetFor(old.y, dyMm) };
    const byOffset = dialects[printer.dialect].homeOffsetByLine;
    const sumOf = (axis: "x" | "y", offMm: number) =>
      `home ${axis.toUpperCase()} = ${plainNumber(old[axis], 2)} ${offMm < 0 ? "−" : "+"} ${plainNumber(Math.abs(offMm), 1)} = ${plainNumber(next[axis], 2)} mm`;
    return succeed<TuneOutcome>({
      sum: byOffset
        ? [sumOf("x", dxMm), sumOf("y", dyMm)]
        : [`Behind G28, at the middle: G92 X${plainNumber(x + dxMm, 2)} Y${plainNumber(y + dyMm, 2)}`],
      measured: off,
      unit: "mm",
      within,
      verdict: within
        ? "In the middle, as near as one can see: leave it."
        : `The nozzle stands ${plainNumber(off, 1)} mm off the middle.`,
      ...(off > 20 ? { ask: `${plainNumber(off, 1)} mm off is much. Is it measured from the mark?` } : {}),
      firmware: byOffset ? { homeX: roundTo(next.x, 2), homeY: roundTo(next.y, 2) } : {},
    });
  },
  agreeWithin: 0.5,
  fromRuler: ({ fromCentreMm }) => ({ dxMm: fromCentreMm.x, dyMm: fromCentreMm.y }),
  asFile: true,
};
