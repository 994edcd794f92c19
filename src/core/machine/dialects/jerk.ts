import {
  advanceByK,
  commonDialect,
  Dialect,
  dutyFan,
  firmwareRetraction,
  jerkPerSecond,
  limitsByAxis,
  savedValues,
} from "./dialect";

export const jerk: Dialect = {
  ...commonDialect,
  label: "Jerk",
  explains: "Cornering is set as jerk in mm/s.",
  takes: new Set([...dutyFan, ...savedValues, ...limitsByAxis, ...jerkPerSecond, ...advanceByK, ...firmwareRetraction]),
};
