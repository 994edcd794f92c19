/** Inputs that several tunes ask for. */
import { TuneInput } from "./tune";

/** The nozzle's temperature: what was kept for the pair, else the middle of the label. */
export const nozzleInput: TuneInput = {
  key: "nozzleC",
  label: "Nozzle",
  unit: "°C",
  low: 150,
  high: 320,
  step: 5,
  decimals: 0,
  usual: ({ spool, kept }) =>
    kept.nozzleTemperature ?? (spool ? Math.round((spool.labelMinC + spool.labelMaxC) / 2) : 200),
};
