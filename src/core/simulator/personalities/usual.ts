/** What most of the simulated printers have in common. */
export const usualCapabilities: Record<string, boolean> = {
  EEPROM: true,
  AUTOREPORT_TEMP: true,
  EMERGENCY_STOP: true,
  BUSY: true,
  PROGRESS: true,
};

/** A screen of one line of plain letters. */
export function plainScreen(text: string): string {
  return text.replace(/[^\x20-\x7e]/g, "?").slice(0, 32);
}
