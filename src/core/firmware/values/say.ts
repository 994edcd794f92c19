import { plainNumber } from "../../units";
import type { FirmwareValue } from "./value";

/** `411.17 steps/mm` */
export function sayFirmwareValue({ decimals, unit }: Pick<FirmwareValue, "decimals" | "unit">, value: number): string {
  return `${plainNumber(value, decimals)}${unit ? ` ${unit}` : ""}`;
}
