import { FirmwareValue } from "./value";

const axis = (letter: string, label: string): FirmwareValue => ({
  key: `steps${letter}`,
  group: "steps",
  label: `${label} steps`,
  unit: "steps/mm",
  meaning: `Motor steps for one millimetre of ${label}.`,
  command: "M92",
  word: letter,
  lowest: 1,
  highest: 10_000,
  decimals: 2,
});

export const steps: FirmwareValue[] = [
  axis("X", "X"),
  axis("Y", "Y"),
  axis("Z", "Z"),
  {
    ...axis("E", "Extruder"),
    key: "extruderSteps",
    meaning: "Motor steps for one millimetre of filament.",
    toolWord: "T",
  },
];
