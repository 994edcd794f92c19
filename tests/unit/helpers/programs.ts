/** Little programs for reading, written by hand and not by Cuchara's own writer. */

export const bytesOf = (text: string) => new TextEncoder().encode(text);
export const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

export interface SquareOptions {
  layers: number;
  firstMm?: number;
  layerMm?: number;
  /** Comment that opens layer `index`; none if left out. */
  opens?(index: number, z: number): string;
  /** Lines before the first move of a layer. */
  extra?(index: number): string[];
  hopMm?: number;
  start?: string[];
  lineEnd?: string;
}

/** A square tube of 20 mm, one wall, absolute filament lengths. */
export function squareTube(options: SquareOptions): string {
  const { layers, firstMm = 0.2, layerMm = 0.2, opens, extra, hopMm = 0, lineEnd = "\n" } = options;
  const lines = [...(options.start ?? ["M104 S210", "G28", "M109 S210"]), "G90", "M82", "G92 E0"];
  let e = 0;
  for (let index = 0; index < layers; index++) {
    const z = firstMm + index * layerMm;
    if (opens) lines.push(opens(index, z));
    lines.push(...(extra?.(index) ?? []));
    lines.push(`G1 E${(e - 2).toFixed(5)} F2400`);
    if (hopMm > 0) lines.push(`G0 Z${(z + hopMm).toFixed(3)} F600`);
    lines.push(`G0 X10 Y10 F6000`, `G0 Z${z.toFixed(3)} F600`, `G1 E${e.toFixed(5)} F2400`);
    for (const [x, y] of [
      [30, 10],
      [30, 30],
      [10, 30],
      [10, 10],
    ]) {
      e += 20 * 0.0338;
      lines.push(`G1 X${x} Y${y} E${e.toFixed(5)} F1800`);
    }
  }
  lines.push("M104 S0", "M140 S0", "M107", "M84", "");
  return lines.join(lineEnd);
}
