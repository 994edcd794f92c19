/** A position as printers report it: `X:0.00 Y:0.00 Z:0.00 E:0.00 Count X:0 Y:0 Z:0`. Common practice, no source. */

export interface PositionReport {
  xMm: number;
  yMm: number;
  zMm: number;
  eMm: number;
}

/** Where the printer says it stands, or null if the line is no such report. The counted steps behind `Count` are left aside. */
export function readPosition(line: string): PositionReport | null {
  const [told] = line.split(/\bCount\b/);
  const figure = (letter: string) => {
    const match = new RegExp(`(?:^|\\s)${letter}\\s*:\\s*(-?\\d+(?:\\.\\d+)?)`).exec(told);
    return match ? Number(match[1]) : NaN;
  };
  const [xMm, yMm, zMm] = ["X", "Y", "Z"].map(figure);
  if ([xMm, yMm, zMm].some(Number.isNaN)) return null;
  const eMm = figure("E");
  return { xMm, yMm, zMm, eMm: Number.isNaN(eMm) ? 0 : eMm };
}
