import { succeed } from "../../result";
import { plainNumber } from "../../units";
import {
  advanceByDrive,
  commonDialect,
  Dialect,
  dutyFan,
  firmwareRetraction,
  jerkPerMinute,
  limitsByAxis,
  savedValues,
} from "./dialect";

export const minute: Dialect = {
  ...commonDialect,
  label: "Per minute",
  explains: "Cornering and the highest feeds are set in mm/min.",
  takes: new Set([
    ...dutyFan,
    ...savedValues,
    ...limitsByAxis,
    ...jerkPerMinute,
    ...advanceByDrive,
    ...firmwareRetraction,
  ]),
  setsToolsByG10: true,
  feedsPerMinute: true,
  modesCarryE: false,
  corneringLine: (jerkMmS) => succeed(`M566 X${plainNumber(jerkMmS * 60, 1)} Y${plainNumber(jerkMmS * 60, 1)}`),
  pressureAdvanceLine: (seconds, tool) => succeed(`M572 D${tool} S${plainNumber(seconds, 4)}`),
};
