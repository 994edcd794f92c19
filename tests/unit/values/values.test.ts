/** What is written out of kept values: sheet, start lines, label, everything of the bench. */
import { decodePDFRawStream, PDFDocument, PDFRawStream } from "pdf-lib";
import { XMLParser } from "fast-xml-parser";
import { bundleSchema } from "@/core/values/bundle-schema";
import { Label, labelOf, labelSizes, labelSvg, sizeOf } from "@/core/values/label";
import { sheetCsv, sheetText, startLinesOf } from "@/core/values/sheet";
import { labelPdf } from "@/server/tasks/label-pdf";
import { codeOf } from "@/server/work/label";
import { ladle, saffron, spools } from "../helpers/demo";
import { keptValue } from "../helpers/kept";

const kept = [
  keptValue({ value: 208.4, fromValue: 206, toValue: 211, note: 'says "best", twice' }),
  keptValue({ setting: "pressureAdvance", value: 0.42 }),
  keptValue({ setting: "fan", value: 45, note: "=1+1" }),
];

async function loadedPdf(label: Label, asSheet: boolean): Promise<PDFDocument> {
  const made = await labelPdf(label, asSheet);
  if (!made.ok) throw new Error(made.message);
  return PDFDocument.load(made.value);
}

test("the CSV is as RFC 4180 has it: CRLF, doubled quotes, as many cells in every line; no cell is taken for a formula", () => {
  const text = sheetCsv(kept);
  expect(text.endsWith("\r\n")).toBe(true);
  const lines = text.trimEnd().split("\r\n");
  expect(lines).toHaveLength(4);
  expect(lines[1]).toBe(`Nozzle temperature,208.4,°C,206,211,2026-11-01T10:00:00Z,"says ""best"", twice"`);
  expect(lines.find((line) => line.startsWith("Part fan") || line.startsWith("Fan"))).toMatch(/,'=1\+1$/);
});

test("the text names pair, nozzle, value and range", () => {
  const text = sheetText(ladle, saffron, kept);
  expect(text).toContain(`on ${ladle.name}, 0.4 mm nozzle`);
  expect(text).toContain("Nozzle temperature: 208.4 °C (good from 206 to 211), 2026-11-01");
});

test("start lines hold what the firmware keeps, and nothing that heats or moves", () => {
  const lines = startLinesOf(ladle, saffron, kept)
    .split("\n")
    .filter((line) => line !== "" && !line.startsWith(";"));
  expect(lines).toEqual(["M900 K0.42"]);
  expect(lines.join()).not.toMatch(/\bM10[49]|\bG[0123]\b/);
});

test.each(labelSizes)(
  "a label of %s mm: SVG and PDF have its size, nothing lies outside, the code is whole",
  async (size) => {
    const { widthMm, heightMm } = sizeOf(size);
    for (const spool of spools) {
      const code = codeOf("http://192.168.0.17:4800/bench?printerId=12&spoolId=34");
      const label = labelOf(size, ladle, spool, kept, code);
      for (const { x, y, sizeMm } of label.texts) {
        expect(x).toBeGreaterThan(label.bar.widthMm);
        expect(y + 0.25 * sizeMm).toBeLessThanOrEqual(heightMm);
        expect(sizeMm).toBeGreaterThanOrEqual(1.7);
      }
      for (const { x, y, sizeMm } of label.squares) {
        expect(x).toBeGreaterThanOrEqual(label.bar.widthMm);
        expect(x + sizeMm).toBeLessThanOrEqual(widthMm + 1e-9);
        expect(y).toBeGreaterThanOrEqual(0);
        expect(y + sizeMm).toBeLessThanOrEqual(heightMm + 1e-9);
      }
      expect(label.squares).toHaveLength(code.flat().filter(Boolean).length);
      const root = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: "" }).parse(labelSvg(label)).svg;
      expect([root.width, root.height]).toEqual([`${widthMm}mm`, `${heightMm}mm`]);
      // The page's own MediaBox, in points of 1/72 inch (ISO 32000-1).
      const pdf = await loadedPdf(label, false);
      const box = pdf.getPage(0).getMediaBox();
      expect(box.width).toBeCloseTo((widthMm / 25.4) * 72, 2);
      expect(box.height).toBeCloseTo((heightMm / 25.4) * 72, 2);
    }
  },
);

test("a sheet is A4 (ISO 216: 210 × 297 mm)", async () => {
  const label = labelOf("70x37", ladle, saffron, kept, codeOf("http://x/bench"));
  const pdf = await loadedPdf(label, true);
  const { width, height } = pdf.getPage(0).getMediaBox();
  expect(width).toBeCloseTo((210 / 25.4) * 72, 2);
  expect(height).toBeCloseTo((297 / 25.4) * 72, 2);
});

/** What a reader of PDF copies out of a page: by the map from glyphs to letters that every font carries (ISO 32000-1, 9.10.3). */
async function lettersOf(pdf: PDFDocument): Promise<string> {
  const maps = pdf.context
    .enumerateIndirectObjects()
    .flatMap(([, object]) => (object instanceof PDFRawStream ? [decodePDFRawStream(object).decode()] : []))
    .map((bytes) => Buffer.from(bytes).toString("latin1"))
    .filter((text) => text.includes("beginbfchar"));
  const hex = maps.flatMap((text) => [...text.matchAll(/<[0-9A-F]+> <([0-9A-F]+)>/gi)].map(([, letters]) => letters));
  return hex.map((letters) => Buffer.from(letters, "hex").swap16().toString("utf16le")).join("");
}

test.each([
  ["Polish", "Żółty"],
  ["Czech", "Žluťoučký kůň"],
  ["Greek", "Κίτρινο"],
  ["Russian", "Жёлтый"],
  ["Vietnamese", "Màu vàng ấm"],
])("a name in %s stands in the PDF letter by letter", async (_, name) => {
  const label = labelOf("62x100", ladle, { ...saffron, name, maker: "" }, kept, codeOf("http://x"));
  const letters = await lettersOf(await loadedPdf(label, false));
  for (const letter of name.replaceAll(" ", "")) expect(letters).toContain(letter);
});

test.each(["黄色いフィラメント", "أصفر", "🟡 gold"])(
  "a PDF that could not say %s is refused, and the SVG says it",
  async (name) => {
    const label = labelOf("62x100", ladle, { ...saffron, name, maker: "" }, kept, codeOf("http://x"));
    expect(await labelPdf(label, false)).toMatchObject({ ok: false, message: expect.stringContaining(name) as string });
    expect(labelSvg(label)).toContain(name);
  },
);

test("a name that is made to break out of the SVG stays text", () => {
  const name = ']]>&<b>"x';
  const label = labelOf("62x100", ladle, { ...saffron, name, maker: "" }, kept, codeOf("http://x"));
  // XML 1.0, 2.4: “]]>” must not stand in text.
  expect(labelSvg(label)).not.toContain("]]>");
  const texts = [new XMLParser({ processEntities: true }).parse(labelSvg(label)).svg.text].flat();
  expect(texts.map(String).join()).toContain(name);
});

test.each(["-cmd|'/c calc'!A1", "+1", "@x", "=1+1", " =1+1", "\t=1", "-x"])(
  "a note “%s” is no formula in the CSV",
  (note) => {
    const [, line] = sheetCsv([keptValue({ note })]).split("\r\n");
    const cell = line.slice(line.indexOf("Z,") + 2).replace(/^"/, "");
    expect(cell.startsWith("'")).toBe(true);
  },
);

test("a value below nothing is a number in the CSV", () => {
  expect(sheetCsv([keptValue({ fromValue: -2, toValue: 3 })])).toContain(",-2,3,");
});

test("a QR code has the squares of its standard: three finders of 7 × 7, and its version's size", () => {
  const code = codeOf("http://127.0.0.1:4800/bench?printerId=1&spoolId=1");
  const size = code.length;
  // ISO/IEC 18004: 17 + 4·version modules to a side.
  expect((size - 17) % 4).toBe(0);
  for (const [x, y] of [
    [0, 0],
    [size - 7, 0],
    [0, size - 7],
  ]) {
    for (let j = 0; j < 7; j++) {
      for (let i = 0; i < 7; i++) {
        const ring = Math.max(Math.abs(i - 3), Math.abs(j - 3));
        expect(code[y + j][x + i]).toBe(ring !== 2);
      }
    }
  }
});

test("a bench that is none, newer, or speaks of what is not in it is refused with a sentence", () => {
  const whole = { format: "cuchara-bench", version: 1, printers: [ladle], spools: [saffron], kept: [] };
  expect(bundleSchema.safeParse(whole).success).toBe(true);
  const said = (change: object) => bundleSchema.safeParse({ ...whole, ...change }).error?.issues[0].message;
  expect(said({ format: "something" })).toContain("This is no bench");
  expect(said({ version: 2 })).toContain("newer Cuchara");
  const lost = { printer: 3, spool: 0, setting: "fan", value: 40, keptAt: "2026-11-01T10:00:00Z" };
  expect(said({ kept: [lost] })).toContain("not in the file");
});
