/** Kept values for tests, and what they are held against. */
import type { KeptValue } from "@/core/trials/kept";
import type { Around } from "@/core/trials/stale";
import { ladle } from "./demo";

let next = 1;

export const keptValue = (change: Partial<KeptValue> = {}): KeptValue => ({
  id: next++,
  printerId: 1,
  spoolId: 1,
  setting: "nozzleTemperature",
  value: 210,
  trialId: null,
  fromValue: null,
  toValue: null,
  runId: null,
  nozzleMm: ladle.nozzleMm,
  layerHeightMm: 0.2,
  inForce: {},
  note: "",
  carriedFrom: null,
  keptAt: "2026-11-01T10:00:00Z",
  version: 1,
  ...change,
});

export const around: Around = {
  printer: ladle,
  kept: [],
  measuredAt: new Map(),
  readings: [],
  askedAnewAt: null,
  staleDays: 365,
  now: "2026-11-25T10:00:00Z",
};
