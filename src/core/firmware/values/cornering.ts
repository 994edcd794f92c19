import { FirmwareValue } from "./value";

const jerk = (letter: string, label: string): FirmwareValue => ({
  key: `jerk${letter}`,
  group: "cornering",
  label: `${label} jerk`,
  unit: "mm/s",
  meaning: "The jump in speed this axis may make at a corner.",
  command: "M205",
  word: letter,
  lowest: 0,
  highest: 100,
  decimals: 2,
});

const labelled = [
  ["X", "X"],
  ["Y", "Y"],
  ["Z", "Z"],
  ["E", "Extruder"],
] as const;

export const cornering: FirmwareValue[] = [
  ...labelled.map(([letter, label]) => jerk(letter, label)),
  // The same figure where it is told by M566, per minute.
  ...labelled.map(([letter, label]) => ({
    ...jerk(letter, label),
    key: `jerkPerMinute${letter}`,
    command: "M566",
    lineFactor: 60,
  })),
  {
    key: "junctionDeviation",
    group: "cornering",
    label: "Junction deviation",
    unit: "mm",
    meaning: "How far a rounded corner may stray from the true one: more is faster and rougher.",
    command: "M205",
    word: "J",
    lowest: 0.001,
    highest: 0.5,
    decimals: 4,
  },
  {
    key: "squareCornerSpeed",
    reportedAs: "square_corner_velocity",
    group: "cornering",
    label: "Speed round a right angle",
    unit: "mm/s",
    meaning: "How fast a right angle is taken.",
    command: "SET_VELOCITY_LIMIT",
    word: "SQUARE_CORNER_VELOCITY",
    lowest: 0,
    highest: 100,
    decimals: 2,
  },
];
