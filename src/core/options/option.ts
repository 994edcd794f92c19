/** What a kind of trial leaves to choose besides its plan: a form, a step, a feed. */
import { refuse, Result, succeed } from "../result";
import { Printer } from "../shelf/printer";
import { clamp } from "../units";

export type OptionValues = Record<string, number | string | boolean>;

export type Option = {
  key: string;
  label: string;
  /** A change of it makes a new first round: the plan depends on it. */
  remakes?: boolean;
} & (
  | {
      kind: "number";
      unit: string;
      low: number;
      high: number;
      step: number;
      decimals: number;
      usual: number | ((printer: Printer) => number);
    }
  | { kind: "choice"; choices: { value: string; label: string }[]; usual: string }
  | { kind: "switch"; usual: boolean }
);

/** The options with their usual values where nothing (or nothing that fits) is given. */
export function optionsOf(options: readonly Option[], given: OptionValues, printer: Printer): OptionValues {
  const values: OptionValues = {};
  for (const option of options) {
    const value = given[option.key];
    if (option.kind === "number") {
      const usual = typeof option.usual === "number" ? option.usual : option.usual(printer);
      values[option.key] = clamp(typeof value === "number" ? value : usual, option.low, option.high);
    } else if (option.kind === "choice") {
      values[option.key] = option.choices.some((choice) => choice.value === value) ? value : option.usual;
    } else values[option.key] = typeof value === "boolean" ? value : option.usual;
  }
  return values;
}

/** The given options if the kind knows them and they are in range; refused with field and reason otherwise. */
export function checkOptions(options: readonly Option[], given: OptionValues): Result<OptionValues> {
  for (const [key, value] of Object.entries(given)) {
    const field = `options.${key}`;
    const option = options.find((one) => one.key === key);
    if (!option) {
      const known = options.map((one) => one.key).join(", ");
      return refuse(
        known ? `“${key}” is not an option of this kind; they are ${known}.` : "This kind has no options.",
        field,
      );
    }
    if (option.kind === "number" && !(typeof value === "number" && value >= option.low && value <= option.high)) {
      return refuse(`${option.label} must be ${option.low} to ${option.high} ${option.unit}`.trim() + ".", field);
    }
    if (option.kind === "choice" && !option.choices.some((choice) => choice.value === value)) {
      return refuse(`${option.label} is one of ${option.choices.map((choice) => choice.value).join(", ")}.`, field);
    }
    if (option.kind === "switch" && typeof value !== "boolean") {
      return refuse(`${option.label} is true or false.`, field);
    }
  }
  return succeed(given);
}

/** A choice among the options. */
export function choiceOption(options: OptionValues, key: string): string {
  return String(options[key]);
}

/** A number among the options. */
export function numberOption(options: OptionValues, key: string): number {
  return Number(options[key]);
}
