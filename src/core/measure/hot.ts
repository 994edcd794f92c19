/** Whether what a tune wants warm is warm, by what was measured. */
import type { TemperatureReport } from "../firmware/reports/temperatures";
import { plainNumber } from "../units";

/** As near to its target as a heater keeps it, °C; and no measurement older than this says how hot it is now, s. Common practice, no source. */
const NEAR_C = 4;
const STALE_S = 12;

export interface Wanted {
  nozzleC?: number;
  bedC?: number;
}

export interface Measured {
  heat: Pick<TemperatureReport, "nozzles" | "bed"> | null;
  heatAgeS: number | null;
}

/** True only if everything wanted was measured just now, and near its target. */
export function isHot({ nozzleC, bedC }: Wanted, { heat, heatAgeS }: Measured, tool: number): boolean {
  if (!heat || heatAgeS === null || heatAgeS > STALE_S) return false;
  const near = (wanted: number | undefined, measured: number | undefined) =>
    wanted === undefined || (measured !== undefined && Math.abs(measured - wanted) <= NEAR_C);
  return near(nozzleC, (heat.nozzles[tool] ?? heat.nozzles[0])?.measuredC) && near(bedC, heat.bed?.measuredC);
}

/** `nozzle 22 °C, bed 21 °C`, with its age where it is not of now; null if nothing was measured. */
export function sayMeasured({ nozzleC, bedC }: Wanted, { heat, heatAgeS }: Measured, tool: number): string | null {
  if (!heat || heatAgeS === null) return null;
  const nozzle = (heat.nozzles[tool] ?? heat.nozzles[0])?.measuredC;
  const parts = [
    nozzleC !== undefined && nozzle !== undefined ? `nozzle ${plainNumber(nozzle, 0)} °C` : "",
    bedC !== undefined && heat.bed ? `bed ${plainNumber(heat.bed.measuredC, 0)} °C` : "",
  ].filter((part) => part !== "");
  if (parts.length === 0) return null;
  const said = parts.join(", ");
  return heatAgeS > STALE_S ? `${said} ${plainNumber(Math.round(heatAgeS), 0)} s ago` : said;
}
