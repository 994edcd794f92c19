import { succeed } from "../../result";
import { plainNumber } from "../../units";
import { commonDialect, Dialect, dutyFan, namedCommands } from "./dialect";

export const keyword: Dialect = {
  ...commonDialect,
  label: "Keyword",
  explains: "Settings are commands with names and KEY=value pairs.",
  takes: new Set([...dutyFan, ...namedCommands]),
  autotunes: [],
  accelerationIsShared: true,
  modesCarryE: false,
  namedValues: true,
  stepsByLine: false,
  homeOffsetByLine: false,
  valueQuestions: ["SET_VELOCITY_LIMIT", "SET_PRESSURE_ADVANCE", "SET_RETRACTION"],
  saveLine: "SAVE_CONFIG",
  reloadLine: null,
  accelerationLine: (accelerationMmS2) => succeed(`SET_VELOCITY_LIMIT ACCEL=${plainNumber(accelerationMmS2, 0)}`),
  corneringLine: (jerkMmS) => succeed(`SET_VELOCITY_LIMIT SQUARE_CORNER_VELOCITY=${plainNumber(jerkMmS, 2)}`),
  pressureAdvanceLine: (seconds) => succeed(`SET_PRESSURE_ADVANCE ADVANCE=${plainNumber(seconds, 4)}`),
  firmwareRetractionLine({ lengthMm, speedMmS }) {
    const length = lengthMm === undefined ? "" : ` RETRACT_LENGTH=${plainNumber(lengthMm, 3)}`;
    const speed = speedMmS === undefined ? "" : ` RETRACT_SPEED=${plainNumber(speedMmS, 2)}`;
    return succeed(`SET_RETRACTION${length}${speed}`);
  },
};
