/** A sheet drawn in text, for the top of its program. */
import { laysMaterial, MoveTable } from "../gcode/moves";
import { plainNumber } from "../units";

const WIDEST_SIGNS = 60;
const HIGHEST_LINES = 24;
/** Signs are about twice as high as they are wide. */
const SIGN_ASPECT = 2;
const STEPS_A_SIGN = 3;

/** What is laid, seen from above, and how large it is; nothing where nothing is laid. */
export function drawFromAbove({ count, x, y, kind }: MoveTable): string[] {
  const room = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity };
  for (let i = 1; i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    room.minX = Math.min(room.minX, x[i], x[i - 1]);
    room.maxX = Math.max(room.maxX, x[i], x[i - 1]);
    room.minY = Math.min(room.minY, y[i], y[i - 1]);
    room.maxY = Math.max(room.maxY, y[i], y[i - 1]);
  }
  const [wide, deep] = [room.maxX - room.minX, room.maxY - room.minY];
  if (!(wide >= 0)) return [];
  const signMm = Math.max(wide / (WIDEST_SIGNS - 1), deep / SIGN_ASPECT / (HIGHEST_LINES - 1), 0.2);
  const columns = Math.round(wide / signMm) + 1;
  const lines = Math.round(deep / signMm / SIGN_ASPECT) + 1;
  const cells = new Uint8Array(columns * lines);
  for (let i = 1; i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    const [dx, dy] = [x[i] - x[i - 1], y[i] - y[i - 1]];
    const steps = Math.ceil((Math.sqrt(dx * dx + dy * dy) / signMm) * STEPS_A_SIGN) || 1;
    for (let step = 0; step <= steps; step++) {
      const column = Math.round((x[i - 1] + (dx * step) / steps - room.minX) / signMm);
      const line = Math.round((y[i - 1] + (dy * step) / steps - room.minY) / signMm / SIGN_ASPECT);
      cells[line * columns + column] = 1;
    }
  }
  const drawn = Array.from({ length: lines }, (_, line) =>
    Array.from(cells.subarray((lines - 1 - line) * columns, (lines - line) * columns), (cell) => (cell ? "o" : " "))
      .join("")
      .trimEnd(),
  );
  return [`${plainNumber(wide, 1)} × ${plainNumber(deep, 1)} mm, seen from above`, ...drawn];
}
