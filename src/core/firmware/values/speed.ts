import { FirmwareValue } from "./value";

const axes = [
  ["X", "X"],
  ["Y", "Y"],
  ["Z", "Z"],
  ["E", "Extruder"],
] as const;

const highest = (command: string, what: string, unit: string, most: number): FirmwareValue[] =>
  axes.map(([letter, label]) => ({
    key: `${what === "feed" ? "highestFeed" : "highestAcceleration"}${letter}`,
    group: "speed",
    label: `${label}, highest ${what}`,
    unit,
    meaning: `No move takes this axis beyond it, whatever the program asks for.`,
    command,
    word: letter,
    lowest: 0.1,
    highest: most,
    decimals: 1,
  }));

const acceleration = (key: string, word: string, label: string, meaning: string): FirmwareValue => ({
  key,
  group: "speed",
  label,
  unit: "mm/s²",
  meaning,
  command: "M204",
  word,
  lowest: 1,
  highest: 100_000,
  decimals: 0,
});

export const speed: FirmwareValue[] = [
  acceleration("printAcceleration", "P", "Acceleration, printing", "How quickly printing moves gain and lose speed."),
  acceleration("retractAcceleration", "R", "Acceleration, retraction", "How quickly the extruder alone gains speed."),
  acceleration("travelAcceleration", "T", "Acceleration, travelling", "How quickly moves without printing gain speed."),
  {
    ...acceleration("sharedAcceleration", "ACCEL", "Acceleration", "How quickly every move gains and loses speed."),
    reportedAs: "max_accel",
    command: "SET_VELOCITY_LIMIT",
  },
  {
    key: "highestFeed",
    reportedAs: "max_velocity",
    group: "speed",
    label: "Highest feed",
    unit: "mm/s",
    meaning: "No move is faster, whatever the program asks for.",
    command: "SET_VELOCITY_LIMIT",
    word: "VELOCITY",
    lowest: 1,
    highest: 2000,
    decimals: 1,
  },
  ...highest("M201", "acceleration", "mm/s²", 100_000),
  ...highest("M203", "feed", "mm/s", 2000),
];
