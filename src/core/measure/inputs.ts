/** Inputs that several tunes ask for. */
import { Printer } from "../shelf/printer";
import { Tune, TuneInput } from "./tune";

/** What a tune asks on this printer: which tool first, where there are several. */
export function inputsOf({ inputs, perTool }: Pick<Tune, "inputs" | "perTool">, { tools }: Printer): TuneInput[] {
  if (!perTool || tools === 1) return inputs;
  const choices = Array.from({ length: tools }, (_, value) => ({ value, label: String(value) }));
  const tool = {
    key: "tool",
    label: "Tool",
    unit: "",
    low: 0,
    high: tools - 1,
    step: 1,
    decimals: 0,
    usual: () => 0,
    choices,
  };
  return [tool, ...inputs];
}

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
