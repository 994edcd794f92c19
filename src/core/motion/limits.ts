import { dialects } from "../machine/dialects";
import { Printer } from "../shelf/printer";
import { MotionLimits } from "./model";

/** What a printer's motion can do, as the duration needs it. */
export function limitsFor(printer: Printer): MotionLimits {
  const { cornering, accelerationIsShared } = dialects[printer.dialect];
  const usesDeviation = cornering === "junctionDeviation";
  // A firmware with one acceleration for everything has no other for travelling and retracting.
  const own = (mmS2: number) => (accelerationIsShared ? printer.printAccelerationMmS2 : mmS2);
  return {
    printAccelerationMmS2: printer.printAccelerationMmS2,
    travelAccelerationMmS2: own(printer.travelAccelerationMmS2),
    retractAccelerationMmS2: own(printer.retractAccelerationMmS2),
    axisAccelerationMmS2: {
      x: Infinity,
      y: Infinity,
      z: printer.highestAccelerationZMmS2,
      e: printer.highestAccelerationEMmS2,
    },
    highestFeedMmS: {
      x: printer.highestFeedXyMmS,
      y: printer.highestFeedXyMmS,
      z: printer.highestFeedZMmS,
      e: printer.highestFeedEMmS,
    },
    ...(usesDeviation ? { junctionDeviationMm: printer.junctionDeviationMm } : { jerkMmS: printer.jerkMmS }),
    jerkZMmS: printer.jerkZMmS,
    jerkEMmS: printer.jerkEMmS,
    lookAheadMoves: printer.lookAheadMoves,
  };
}
