/** What most of the simulated printers have in common. */
import type { Material } from "../../material/materials";

export const usualCapabilities: Record<string, boolean> = {
  EEPROM: true,
  AUTOREPORT_TEMP: true,
  EMERGENCY_PARSER: true,
  BUSY: true,
  PROGRESS: true,
};

/** A screen of one line of plain letters. */
export function plainScreen(text: string): string {
  return text.replace(/[^\x20-\x7e]/g, "?").slice(0, 32);
}

/** Best temperatures of the made-up materials on a hot end that reads `readsHigh` °C too high. */
export function bestNozzleC(readsHigh: number): Record<Material, number> {
  const best: Record<Material, number> = { PLA: 207, PETG: 238, ABS: 243, ASA: 249, TPU: 224, PA: 258, PC: 276 };
  return Object.fromEntries(Object.entries(best).map(([name, value]) => [name, value + readsHigh])) as Record<
    Material,
    number
  >;
}
