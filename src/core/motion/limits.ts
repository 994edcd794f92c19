import { dialects } from "../firmware/dialects";
import { Printer } from "../shelf/printer";
import { MotionLimits } from "./duration";

/** What a printer's motion can do, as the duration needs it. */
export function limitsFor(printer: Printer): MotionLimits {
  const usesDeviation = dialects[printer.dialect].cornering === "junctionDeviation";
  return {
    printAccelerationMmS2: printer.printAccelerationMmS2,
    travelAccelerationMmS2: printer.travelAccelerationMmS2,
    retractAccelerationMmS2: printer.retractAccelerationMmS2,
    ...(usesDeviation ? { junctionDeviationMm: printer.junctionDeviationMm } : { jerkMmS: printer.jerkMmS }),
    jerkZMmS: 0.4,
    jerkEMmS: 5,
    highestFeedMmS: {
      x: printer.highestFeedXyMmS,
      y: printer.highestFeedXyMmS,
      z: printer.highestFeedZMmS,
      e: printer.highestFeedEMmS,
    },
  };
}
