import { succeed } from "../../result";
import { plainNumber } from "../../units";
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

export const deviation: Dialect = {
  ...commonDialect,
  label: "Junction deviation",
  explains: "Cornering is set as junction deviation in mm.",
  takes: new Set([...dutyFan, ...savedValues, ...limitsByAxis, ...jerkPerSecond, ...advanceByK, ...firmwareRetraction]),
  cornering: "junctionDeviation",
  corneringLine: (deviationMm) => succeed(`M205 J${plainNumber(deviationMm, 4)}`),
};
