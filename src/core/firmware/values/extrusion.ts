import { FirmwareValue } from "./value";

const length: FirmwareValue = {
  key: "retractionLength",
  group: "extrusion",
  label: "Retraction length",
  unit: "mm",
  meaning: "How far the firmware draws the filament back (G10).",
  command: "M207",
  word: "S",
  lowest: 0,
  highest: 20,
  decimals: 3,
};
const speed: FirmwareValue = {
  key: "retractionSpeed",
  group: "extrusion",
  label: "Retraction speed",
  unit: "mm/s",
  meaning: "How fast the firmware draws it back.",
  command: "M207",
  word: "F",
  lowest: 1,
  highest: 200,
  decimals: 2,
  lineFactor: 60,
};
const advance: FirmwareValue = {
  key: "pressureAdvance",
  group: "extrusion",
  label: "Pressure advance",
  unit: "s",
  meaning: "How far the extruder runs ahead of the pressure in the nozzle.",
  command: "M900",
  word: "K",
  lowest: 0,
  highest: 10,
  decimals: 4,
};

export const extrusion: FirmwareValue[] = [
  length,
  speed,
  {
    ...length,
    key: "retractionLift",
    label: "Retraction lift",
    word: "Z",
    meaning: "How far the nozzle is lifted while drawn back.",
  },
  {
    ...length,
    key: "restoreExtra",
    label: "Given back on top",
    command: "M208",
    lowest: -5,
    highest: 5,
    meaning: "How much more than was drawn back is given back (G11).",
  },
  { ...speed, key: "restoreSpeed", label: "Restore speed", command: "M208", meaning: "How fast it is given back." },
  { ...length, key: "namedRetractionLength", command: "SET_RETRACTION", word: "RETRACT_LENGTH" },
  { ...speed, key: "namedRetractionSpeed", command: "SET_RETRACTION", word: "RETRACT_SPEED", lineFactor: undefined },
  advance,
  { ...advance, key: "pressureAdvancePerTool", command: "M572", word: "S", toolWord: "D" },
  { ...advance, key: "namedPressureAdvance", command: "SET_PRESSURE_ADVANCE", word: "ADVANCE" },
];
