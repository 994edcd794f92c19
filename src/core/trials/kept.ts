/** A value that was kept for a printer and a spool, and what it was found with. */
import type { SettingKey, SettingValues } from "../settings";

export interface KeptValue {
  id: number;
  printerId: number;
  spoolId: number;
  setting: SettingKey;
  value: number;
  /** The trial it came from; null if it was typed in or measured. */
  trialId: number | null;
  /** The values that cannot be told from it; null where nobody said. */
  fromValue: number | null;
  toValue: number | null;
  /** The printed piece it was read from. */
  runId: number | null;
  /** What it was found with; null where it was not said. */
  nozzleMm: number | null;
  layerHeightMm: number | null;
  /** What else was kept for the pair then. */
  inForce: SettingValues;
  note: string;
  /** The kept value of another pair it was taken over from: it was not tried here. */
  carriedFrom: number | null;
  keptAt: string;
  version: number;
}
