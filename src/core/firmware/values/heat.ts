import { FirmwareValue } from "./value";

const part = (key: string, label: string, command: string, word: string, meaning: string): FirmwareValue => ({
  key,
  group: "heat",
  label,
  unit: "",
  meaning,
  command,
  word,
  lowest: 0,
  highest: 5000,
  decimals: 2,
  ...(command === "M301" ? { toolWord: "E" } : {}),
});

const now = "Power for each degree that is missing.";
const past = "Power that grows while degrees go on missing.";
const coming = "Power taken back while it warms up quickly.";

export const heat: FirmwareValue[] = [
  part("nozzleP", "Nozzle P", "M301", "P", now),
  part("nozzleI", "Nozzle I", "M301", "I", past),
  part("nozzleD", "Nozzle D", "M301", "D", coming),
  part("bedP", "Bed P", "M304", "P", now),
  part("bedI", "Bed I", "M304", "I", past),
  part("bedD", "Bed D", "M304", "D", coming),
];
