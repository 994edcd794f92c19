import { FirmwareValue } from "./value";

const offset = (key: string, label: string, command: string, word: string, meaning: string): FirmwareValue => ({
  key,
  group: "place",
  label,
  unit: "mm",
  meaning,
  command,
  word,
  lowest: -200,
  highest: 200,
  decimals: 2,
});

const home = "Moves the printer's zero after homing.";
const probe = "Where the probe is, seen from the nozzle.";

export const place: FirmwareValue[] = [
  offset("homeX", "Home offset X", "M206", "X", home),
  offset("homeY", "Home offset Y", "M206", "Y", home),
  offset("homeZ", "Home offset Z", "M206", "Z", home),
  offset("probeX", "Probe offset X", "M851", "X", probe),
  offset("probeY", "Probe offset Y", "M851", "Y", probe),
  offset("probeZ", "Probe offset Z", "M851", "Z", probe),
];
