import { plainNumber } from "../../units";
import { rowName, SheetCheck } from "./check";

/** A way across open bed on which the filament is not drawn back: it leaves a string. */
export const bareJump: SheetCheck = {
  key: "bare-jump",
  passes: "No jump leaves a string.",
  run({ laid: { bareJump: jump }, printer }) {
    if (!jump || printer.retractionMm === 0) return [];
    return [
      {
        check: "bare-jump",
        severity: "warn",
        where: rowName(jump.field),
        message: `The nozzle jumps ${plainNumber(jump.lengthMm, 0)} mm without drawing back, at ${plainNumber(jump.zMm, 2)} mm: expect a string. Leave “draws back” to itself there.`,
      },
    ];
  },
};
