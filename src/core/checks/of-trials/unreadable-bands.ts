import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** A band this high has room for digits or strokes of a usual nozzle, mm. */
const HIGH_ENOUGH_MM = 4;

/** Bands without room for their value in raised digits. */
export const unreadableBands: Check = {
  key: "unreadable-bands",
  passes: null,
  run({ shape, bands, printer }) {
    const unlabelled = shape.unlabelled ?? [];
    if (unlabelled.length === 0) return [];
    const isLow = bands.some(
      ({ number, fromMm, toMm }) => unlabelled.includes(number) && toMm - fromMm < HIGH_ENOUGH_MM,
    );
    const instead = isLow
      ? `make them ${HIGH_ENOUGH_MM} mm high`
      : `take fewer of them: the lines of a ${plainNumber(printer.nozzleMm, 2)} mm nozzle are wide`;
    return [
      {
        check: "unreadable-bands",
        severity: "note",
        where: sayBands(unlabelled),
        message: `No room for a mark on the piece: count the bands from the base, or ${instead}.`,
      },
    ];
  },
};
