/** What bridges get for a fan where it is held fixed: more than the rest, for nothing holds them up but their cooling (common practice, no source). */
import type { Option, OptionValues } from "../options/option";
import { plainNumber } from "../units";

export const overAirOption: Option = {
  key: "overAir",
  label: "Fan on bridges",
  kind: "choice",
  choices: [
    { value: "double", label: "twice the rest, 100 % at most" },
    { value: "same", label: "the same as the rest" },
    { value: "full", label: "100 %" },
  ],
  usual: "double",
};

/** The fan over air, %, beside a fixed fan. Kinds without the option leave it as it is. */
export function overAirFan(fan: number, { overAir }: OptionValues): number {
  if (overAir === "full") return 100;
  return overAir === "double" ? Math.min(100, fan * 2) : fan;
}

/** `fan on bridges 100 %`; null where it is no other. */
export function sayOverAirFan(fan: number | undefined, options: OptionValues): string | null {
  if (fan === undefined || fan === 0 || overAirFan(fan, options) === fan) return null;
  return `fan on bridges ${plainNumber(overAirFan(fan, options), 0)} %`;
}
