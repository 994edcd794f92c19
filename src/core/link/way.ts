/** The ways to a printer, as they are asked for. */
import type { Way } from "./way-schema";

export type { Way };

/** Speeds offered, the usual ones first. Common practice, no source. */
export const serialSpeeds = [115200, 250000, 57600, 38400, 19200, 9600, 230400, 460800, 500000, 921600, 1000000];

/** What two links cannot share; null for a simulated printer, of which each record has its own. */
export function placeOf(way: Way): string | null {
  if (way.kind === "serial") return way.path;
  return way.kind === "tcp" ? `${way.host.toLowerCase()}:${way.port}` : null;
}
