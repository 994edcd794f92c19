/** The label of a spool with its code, and the label as PDF. */
import { PDFDocument, PDFFont, rgb, StandardFonts } from "pdf-lib";
import QRCode from "qrcode";
import { Code, Label, labelOf, LabelSize } from "@/core/values/label";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { checkPair } from "./trials";

/** Points in a millimetre (ISO 32000-1, section 8.3.2.3: a unit is 1/72 inch). */
const POINTS_PER_MM = 72 / 25.4;
/** A sheet of labels: A4 with three columns of eight, mm (ISO 216). */
const SHEET = { widthMm: 210, heightMm: 297, columns: 3, rows: 8 };

/** @param address of the bench as it can be reached from here, like `http://192.168.0.7:4800` */
export function labelFor(printerId: number, spoolId: number, size: LabelSize, address: string): Label {
  checkPair(printerId, spoolId);
  const code = codeOf(`${address}/bench?printerId=${printerId}&spoolId=${spoolId}`);
  return labelOf(size, printers.get(printerId)!, spools.get(spoolId)!, kept.list(printerId, spoolId), code);
}

/** A QR code (ISO/IEC 18004) of medium error correction. */
export function codeOf(text: string): Code {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: "M" }).modules;
  return Array.from({ length: size }, (_, j) => Array.from({ length: size }, (_, i) => data[j * size + i] === 1));
}

/** One page of the label's exact size, or a whole sheet of them. */
export async function labelPdf(label: Label, asSheet: boolean): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const fonts = {
    plain: await pdf.embedFont(StandardFonts.Helvetica),
    bold: await pdf.embedFont(StandardFonts.HelveticaBold),
  };
  const { widthMm, heightMm } = asSheet ? SHEET : label;
  const page = pdf.addPage([widthMm * POINTS_PER_MM, heightMm * POINTS_PER_MM]);
  const draw = (leftMm: number, topMm: number) => {
    const x = (mm: number) => (leftMm + mm) * POINTS_PER_MM;
    // PDF counts from the bottom.
    const y = (mm: number) => (heightMm - topMm - mm) * POINTS_PER_MM;
    const size = (mm: number) => mm * POINTS_PER_MM;
    const { bar, texts, squares } = label;
    const [red, green, blue] = [1, 3, 5].map((at) => parseInt(bar.colourHex.slice(at, at + 2), 16) / 255);
    page.drawRectangle({
      x: x(0),
      y: y(label.heightMm),
      width: size(bar.widthMm),
      height: size(label.heightMm),
      color: rgb(red, green, blue),
    });
    for (const { text, bold, sizeMm, ...at } of texts) {
      const font = bold ? fonts.bold : fonts.plain;
      page.drawText(inLettersOf(font, text), { x: x(at.x), y: y(at.y), size: size(sizeMm), font });
    }
    for (const { sizeMm, ...at } of squares) {
      page.drawRectangle({ x: x(at.x), y: y(at.y + sizeMm), width: size(sizeMm), height: size(sizeMm) });
    }
  };
  if (!asSheet) draw(0, 0);
  else {
    const [acrossMm, alongMm] = [SHEET.widthMm / SHEET.columns, SHEET.heightMm / SHEET.rows];
    for (let row = 0; row < SHEET.rows; row++) {
      for (let column = 0; column < SHEET.columns; column++) {
        draw(column * acrossMm + (acrossMm - label.widthMm) / 2, row * alongMm + (alongMm - label.heightMm) / 2);
      }
    }
  }
  return pdf.save();
}

/** The standard fonts have Latin letters only: others lose their accents, or stand as a question mark. */
function inLettersOf(font: PDFFont, text: string): string {
  const has = new Set(font.getCharacterSet());
  return Array.from(text, (letter) => {
    if (has.has(letter.codePointAt(0)!)) return letter;
    const [bare] = letter.normalize("NFD");
    return has.has(bare.codePointAt(0)!) ? bare : "?";
  }).join("");
}
