/** A sliced file of any size for measuring: a round piece of two walls and a fill, layer on layer, as such files are written. */
import { closeSync, openSync, writeSync } from "node:fs";

const MIDDLE_MM = 110;
const RADIUS_MM = 40;
const BEAD_MM = 0.45;
const CORNERS = 240;
const FILL_EVERY_MM = 2;
const E_PER_MM = 0.0333;

export function writeLarge(path: string, megabytes: number): void {
  const file = openSync(path, "w");
  let size = writeSync(file, "M140 S60\nM104 S210\nM190 S60\nM109 S210\nG28\nG90\nM83\n");
  for (let layer = 1; size < megabytes * 1e6; layer++) size += writeSync(file, layerText(layer));
  writeSync(file, "M107\nM104 S0\nM140 S0\nM84\n");
  closeSync(file);
}

function layerText(layer: number): string {
  const z = (layer * 0.05).toFixed(2);
  const lines = [`; sheet ${layer}`];
  if (layer % 40 === 2) lines.push(`M106 S${120 + (layer % 130)}`);
  for (const inset of [BEAD_MM, 0]) {
    const radius = RADIUS_MM - inset;
    const at = (n: number) =>
      [Math.cos((2 * Math.PI * n) / CORNERS), Math.sin((2 * Math.PI * n) / CORNERS)].map((one) =>
        (MIDDLE_MM + one * radius).toFixed(3),
      );
    const e = (((2 * Math.PI * radius) / CORNERS) * E_PER_MM).toFixed(5);
    lines.push("G1 E-1 F2400", `G0 X${at(0)[0]} Y${at(0)[1]} Z${z} F9000`, "G1 E1 F2400");
    for (let n = 1; n <= CORNERS; n++) lines.push(`G1 X${at(n)[0]} Y${at(n)[1]} E${e}${n === 1 ? " F1800" : ""}`);
  }
  lines.push("G1 E-1 F2400");
  const inside = RADIUS_MM - 2 * BEAD_MM;
  let isFirst = true;
  for (let b = -inside + 1; b < inside; b += FILL_EVERY_MM) {
    const reach = Math.sqrt(inside * inside - b * b) * (Math.round(b) % 2 === 0 ? 1 : -1);
    const [from, to, across] = [MIDDLE_MM - reach, MIDDLE_MM + reach, MIDDLE_MM + b].map((mm) => mm.toFixed(3));
    const place = (along: string) => (layer % 2 ? `X${along} Y${across}` : `X${across} Y${along}`);
    lines.push(isFirst ? `G0 ${place(from)} F9000` : `G1 ${place(from)} E${(FILL_EVERY_MM * E_PER_MM).toFixed(5)}`);
    if (isFirst) lines.push("G1 E1 F2400");
    lines.push(`G1 ${place(to)} E${(2 * Math.abs(reach) * E_PER_MM).toFixed(5)}${isFirst ? " F3000" : ""}`);
    isFirst = false;
  }
  return `${lines.join("\n")}\n`;
}
