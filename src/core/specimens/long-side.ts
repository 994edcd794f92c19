/** How long the long frame's straight sides are: known to its kind too, which tries no speed they cannot hold. */
import { clamp } from "../units";

const USUAL_MM = 100;
const SHORTEST_MM = 40;
/** The base reaches out so far beyond the frame. */
export const MARGIN_MM = 1.5;

/** Length of a straight side that fits the room, mm. */
export function longSideMm(room: { widthMm: number }): number {
  return clamp(room.widthMm - 2 * MARGIN_MM, SHORTEST_MM, USUAL_MM);
}
