/**
 * The label as PDF: one page of its exact size, or a sheet of A4 full of them. Letters come from an open font that ships with the program,
 * in the parts it is divided into by script; what none of them has is refused, for a name of question marks is no name.
 */
import fontkit from "@pdf-lib/fontkit";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { PDFDocument, PDFFont, rgb } from "pdf-lib";
import { refuse, Result, succeed } from "@/core/result";
import type { Label } from "@/core/values/label";

/** Points in a millimetre (ISO 32000-1, section 8.3.2.3: a unit is 1/72 inch). */
const POINTS_PER_MM = 72 / 25.4;
/** A sheet of labels: A4 with three columns of eight, mm (ISO 216). */
const SHEET = { widthMm: 210, heightMm: 297, columns: 3, rows: 8 };
/** The parts of the font, the commonest first. */
const scripts = ["latin", "latin-ext", "cyrillic", "cyrillic-ext", "greek", "greek-ext", "vietnamese"] as const;
type Script = (typeof scripts)[number];

const bytesOf = (script: Script, bold: boolean) =>
  readFileSync(
    join(
      process.cwd(),
      ...["node_modules", "@fontsource", "noto-sans", "files"],
      `noto-sans-${script}-${bold ? 700 : 400}-normal.woff`,
    ),
  );

// Coverage is read once; the bytes are embedded where they are used.
const coverage = new Map<Script, Set<number>>();

function covers(script: Script, codePoint: number): boolean {
  let known = coverage.get(script);
  if (!known) coverage.set(script, (known = new Set(fontkit.create(bytesOf(script, false)).characterSet)));
  return known.has(codePoint);
}

const scriptOf = (letter: string) => scripts.find((script) => covers(script, letter.codePointAt(0)!));

/** Stretches of a text that one part of the font has; null where a letter is in none of them. */
function stretchesOf(text: string): { script: Script; text: string }[] | null {
  const stretches: { script: Script; text: string }[] = [];
  for (const letter of text.normalize("NFC")) {
    const script = scriptOf(letter);
    if (!script) return null;
    const last = stretches.at(-1);
    if (last?.script === script) last.text += letter;
    else stretches.push({ script, text: letter });
  }
  return stretches;
}

/** @returns the file's bytes; refused with a sentence where the font lacks letters of the label */
export async function labelPdf(label: Label, asSheet: boolean): Promise<Result<Uint8Array>> {
  const texts = label.texts.map((one) => ({ ...one, stretches: stretchesOf(one.text) }));
  const without = texts.find(({ stretches }) => stretches === null);
  if (without) {
    return refuse(
      `The PDF font has no characters for “${without.text}”. Print the label from its page, or save it as a picture: the browser has them.`,
    );
  }
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit);
  const fonts = new Map<string, PDFFont>();
  const page = pdf.addPage([label.widthMm * POINTS_PER_MM, label.heightMm * POINTS_PER_MM]);
  const size = (mm: number) => mm * POINTS_PER_MM;
  // PDF counts from the bottom.
  const y = (mm: number) => size(label.heightMm - mm);
  const { bar, squares } = label;
  const [red, green, blue] = [1, 3, 5].map((at) => parseInt(bar.colourHex.slice(at, at + 2), 16) / 255);
  const color = rgb(red, green, blue);
  page.drawRectangle({ x: 0, y: 0, width: size(bar.widthMm), height: size(label.heightMm), color });
  for (const { stretches, bold, sizeMm, ...at } of texts) {
    let x = size(at.x);
    for (const { script, text } of stretches!) {
      const key = `${script} ${bold}`;
      let font = fonts.get(key);
      if (!font) fonts.set(key, (font = await pdf.embedFont(bytesOf(script, bold), { subset: true })));
      page.drawText(text, { x, y: y(at.y), size: size(sizeMm), font });
      x += font.widthOfTextAtSize(text, size(sizeMm));
    }
  }
  for (const { sizeMm, ...at } of squares) {
    page.drawRectangle({ x: size(at.x), y: y(at.y + sizeMm), width: size(sizeMm), height: size(sizeMm) });
  }
  return succeed(asSheet ? await sheetOf(pdf) : await pdf.save());
}

/** The one label as often as a sheet has places. */
async function sheetOf(one: PDFDocument): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const [label] = await pdf.embedPdf(await one.save());
  const page = pdf.addPage([SHEET.widthMm * POINTS_PER_MM, SHEET.heightMm * POINTS_PER_MM]);
  const across = page.getWidth() / SHEET.columns;
  const along = page.getHeight() / SHEET.rows;
  for (let row = 0; row < SHEET.rows; row++) {
    for (let column = 0; column < SHEET.columns; column++) {
      page.drawPage(label, {
        x: column * across + (across - label.width) / 2,
        y: row * along + (along - label.height) / 2,
      });
    }
  }
  return pdf.save();
}
