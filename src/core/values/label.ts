/** A label for the spool: who it is, what was found for it, and a code that leads back to the bench. Drawn in millimetres. */
import { settingFor, settingKeys } from "../settings";
import type { Printer } from "../shelf/printer";
import { spoolTitle } from "../shelf/spool-title";
import type { Spool } from "../shelf/spool";
import type { KeptValue } from "../trials/kept";
import { clamp, plainNumber } from "../units";

/** Sizes of common label rolls, mm: across × along. */
export const labelSizes = ["50x25", "40x30", "57x32", "62x29", "70x37", "62x100"] as const;
export type LabelSize = (typeof labelSizes)[number];

export function sizeOf(size: LabelSize): { widthMm: number; heightMm: number } {
  const [widthMm, heightMm] = size.split("x").map(Number);
  return { widthMm, heightMm };
}

export interface LabelText {
  /** Left end of the base line, from the top left corner, mm. */
  x: number;
  y: number;
  /** Height of the letters' em, mm. */
  sizeMm: number;
  bold: boolean;
  text: string;
}

export interface Label {
  widthMm: number;
  heightMm: number;
  texts: LabelText[];
  /** Dark squares of the code, mm. */
  squares: { x: number; y: number; sizeMm: number }[];
  /** The colour of the spool as a bar at the left edge. */
  bar: { widthMm: number; colourHex: string };
}

/** A code as rows of modules; true is dark. */
export type Code = readonly (readonly boolean[])[];

const EDGE_MM = 2;
const BAR_MM = 1.6;
const LINE = 1.28;
/** Letters smaller than this cannot be read on a spool. Common practice, no source. */
const SMALLEST_MM = 1.7;
const LARGEST_MM = 4;
/** A code reads well from modules of about 0.4 mm on (common practice, no source). */
const MODULE_MM = { least: 0.33, most: 0.7 };
/** An em is about so many times as high as an average letter is wide (sans serif, from memory). */
const LETTER_WIDTH = 0.53;

/** What stands on the label, most wanted first: what does not fit is left out from the end. */
export function labelOf(
  size: LabelSize,
  printer: Printer,
  spool: Spool,
  kept: readonly KeptValue[],
  code: Code,
): Label {
  const { widthMm, heightMm } = sizeOf(size);
  const isUpright = heightMm > widthMm;
  const room = Math.min(heightMm, widthMm) - 2 * EDGE_MM;
  const moduleMm = clamp(
    Math.min(room, isUpright ? room : widthMm * 0.38) / code.length,
    MODULE_MM.least,
    MODULE_MM.most,
  );
  const codeMm = moduleMm * code.length;
  const left = BAR_MM + EDGE_MM;
  const textWidth = isUpright ? widthMm - left - EDGE_MM : widthMm - left - codeMm - 2 * EDGE_MM;
  const textHeight = isUpright ? heightMm - codeMm - 3 * EDGE_MM : heightMm - 2 * EDGE_MM;
  const lines = linesOf(printer, spool, kept);
  const longest = Math.max(...lines.map(({ text }) => text.length));
  const byHeight = textHeight / (lines.length * LINE);
  const byWidth = textWidth / (longest * LETTER_WIDTH);
  const sizeMm = clamp(Math.min(byHeight, byWidth), SMALLEST_MM, LARGEST_MM);
  const fit = Math.max(1, Math.floor(textHeight / (sizeMm * LINE)));
  const most = Math.floor(textWidth / (sizeMm * LETTER_WIDTH));
  const codeX = isUpright ? (widthMm + BAR_MM - codeMm) / 2 : widthMm - EDGE_MM - codeMm;
  const codeY = isUpright ? heightMm - EDGE_MM - codeMm : (heightMm - codeMm) / 2;
  return {
    widthMm,
    heightMm,
    bar: { widthMm: BAR_MM, colourHex: spool.colourHex },
    texts: lines.slice(0, fit).map(({ text, bold }, i) => ({
      x: left,
      y: EDGE_MM + sizeMm * (LINE * i + 1),
      sizeMm,
      bold,
      text: text.length > most ? `${text.slice(0, Math.max(1, most - 1))}…` : text,
    })),
    squares: code.flatMap((row, j) =>
      row.flatMap((dark, i) => (dark ? [{ x: codeX + i * moduleMm, y: codeY + j * moduleMm, sizeMm: moduleMm }] : [])),
    ),
  };
}

function linesOf(printer: Printer, spool: Spool, kept: readonly KeptValue[]): { text: string; bold: boolean }[] {
  const newest = kept
    .map(({ keptAt }) => keptAt.slice(0, 10))
    .sort()
    .at(-1);
  const values = [...kept]
    .sort((a, b) => settingKeys.indexOf(a.setting) - settingKeys.indexOf(b.setting))
    .map(({ setting, value, carriedFrom }) => {
      const { short, unit, decimals } = settingFor(setting);
      return (
        `${short} ${plainNumber(value, decimals + 1)} ${unit}`.trim() + (carriedFrom === null ? "" : " (not tried)")
      );
    });
  return [
    { text: spoolTitle(spool), bold: true },
    { text: [spool.material, spool.colourName].filter(Boolean).join(", "), bold: false },
    { text: `${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`, bold: false },
    ...values.map((text) => ({ text, bold: true })),
    ...(newest ? [{ text: newest, bold: false }] : []),
  ];
}

/** The label as open vector graphics (SVG 1.1, W3C) of its exact size. */
export function labelSvg({ widthMm, heightMm, bar, texts, squares }: Label): string {
  const say = (mm: number) => plainNumber(mm, 3);
  const escaped = (text: string) => text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");
  const parts = [
    `<rect width="${widthMm}" height="${heightMm}" fill="#ffffff"/>`,
    `<rect width="${say(bar.widthMm)}" height="${heightMm}" fill="${bar.colourHex}"/>`,
    ...texts.map(
      ({ x, y, sizeMm, bold, text }) =>
        `<text x="${say(x)}" y="${say(y)}" font-size="${say(sizeMm)}" font-family="sans-serif"${bold ? ' font-weight="700"' : ""}>${escaped(text)}</text>`,
    ),
    // One path: the squares touch without seams.
    `<path d="${squares.map(({ x, y, sizeMm }) => `M${say(x)} ${say(y)}h${say(sizeMm)}v${say(sizeMm)}h-${say(sizeMm)}z`).join("")}" fill="#000000"/>`,
  ];
  const box = `viewBox="0 0 ${widthMm} ${heightMm}" width="${widthMm}mm" height="${heightMm}mm"`;
  return `<svg xmlns="http://www.w3.org/2000/svg" ${box}>${parts.join("")}</svg>`;
}
