/** What is asked of a tune, made whole. */
import { refuse, Result, succeed } from "../result";
import { SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { plainNumber } from "../units";
import { tuneFor, TuneKey } from ".";
import { inputsOf } from "./inputs";
import type { TuneAsk } from "./request-schema";
import { TuneRequest } from "./tune";

/** The usual figures of a tune's inputs. */
export function usualInputs(tune: TuneKey, about: Omit<TuneRequest, "inputs">): Record<string, number> {
  return Object.fromEntries(inputsOf(tuneFor(tune), about.printer).map((input) => [input.key, input.usual(about)]));
}

/** The request with usual figures where none are given; refused where one is out of range or the printer cannot be tuned so. */
export function tuneRequest(
  ask: TuneAsk,
  about: { printer: Printer; spool: Spool | null; kept: SettingValues },
): Result<TuneRequest> {
  const tune = tuneFor(ask.tune);
  const inputs = { ...usualInputs(ask.tune, { ...about, values: ask.values }), ...ask.inputs };
  for (const { key, label, unit, low, high, decimals, choices } of inputsOf(tune, about.printer)) {
    const value = inputs[key];
    if (!(value >= low && value <= high)) {
      return refuse(`${label} must be ${plainNumber(low)} to ${plainNumber(high)} ${unit}`.trim(), `inputs.${key}`);
    }
    if (choices && !choices.some((choice) => choice.value === value)) {
      return refuse(`${label} is one of ${choices.map((choice) => choice.label).join(", ")}.`, `inputs.${key}`);
    }
    if (decimals === 0 && !Number.isInteger(value)) return refuse(`${label} is a whole number.`, `inputs.${key}`);
  }
  const { nozzleC } = inputs;
  if (nozzleC !== undefined && nozzleC > about.printer.highestNozzleC) {
    return refuse(`${about.printer.name} goes up to ${about.printer.highestNozzleC} °C.`, "inputs.nozzleC");
  }
  const request = { ...about, inputs, values: ask.values };
  return tune.unfit?.(request) ?? succeed(request);
}
