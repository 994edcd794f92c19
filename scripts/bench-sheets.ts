/** The sheets' part of `npm run bench`: formulas, laying and writing, beside a bare loop over `Math.sin`. */
import { writeMoves, ByteWriter } from "../src/core/gcode/write";
import { buildSheet, layOn } from "../src/core/sheets/program";
import { sheetSchema } from "../src/core/sheets/sheet-schema";
import { printerSchema } from "../src/core/shelf/printer-schema";
import { spoolSchema } from "../src/core/shelf/spool-schema";
import { demoPrinters, demoSpools } from "../src/server/demo/scenario";
import { row, timed } from "./bench-tools";

const printer = printerSchema.parse(demoPrinters[0]);
const spool = spoolSchema.parse(demoSpools[0]);

const sheetOf = (items: object[]) =>
  sheetSchema.parse({
    version: 1,
    name: "Bench",
    figures: [],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items,
  });

const curveOf = (steps: number) =>
  sheetOf([
    {
      kind: "curve",
      from: "0",
      to: "1",
      x: "110 + 60*cos(2*pi*40*t)*(1 + 0.2*sin(50*t))",
      y: "110 + 60*sin(2*pi*40*t)",
      z: "0.2 + 20*t",
      steps: String(steps),
    },
  ]);

const rings = sheetOf([
  {
    kind: "repeat",
    along: "z",
    count: "25",
    spacingMm: "0.2",
    items: [
      {
        kind: "repeat",
        along: "y",
        count: "8",
        spacingMm: "16.4",
        items: [
          {
            kind: "repeat",
            along: "x",
            count: "10",
            spacingMm: "16.4",
            items: [{ kind: "circle", centre: ["36", "52"], radiusMm: "8", faces: "64" }],
          },
        ],
      },
    ],
  },
]);

function lay(sheet: ReturnType<typeof sheetOf>) {
  const laid = layOn({ sheet, printer, spool });
  if (!laid.ok) throw new Error(laid.message);
  return laid.value;
}

function text(sheet: ReturnType<typeof sheetOf>): number {
  const { moves, layerStarts, tops, linesBeforeMove } = lay(sheet);
  const out = new ByteWriter();
  writeMoves(out, moves, layerStarts, { linesBefore: new Map(), linesBeforeMove, tops, start: { x: 0, y: 0 } });
  return out.take().length;
}

/** Sines of so many figures, as fast as they come. */
function bareLoop(count: number): number {
  let sum = 0;
  for (let i = 0; i < count; i++) sum += Math.sin(i * 0.001);
  return sum;
}

const SEGMENTS = 250_000;
const sines = timed(() => bareLoop(SEGMENTS), 7);
const figure = (ms: number) => `${ms.toFixed(0)} ms, ${(ms / sines).toFixed(0)} ×`;
console.log(`\nSheets: beside a bare loop over ${SEGMENTS.toLocaleString("en")} sines, ${sines.toFixed(1)} ms\n`);
row(
  `${SEGMENTS.toLocaleString("en")} segments of three formulas to moves`,
  figure(timed(() => lay(curveOf(SEGMENTS)), 5)),
  "aim ≤ 500 ms",
);
row("the same to program text", figure(timed(() => text(curveOf(SEGMENTS)), 5)), "aim ≤ 1,000 ms");
row("2,000 rings of 64 faces to moves", figure(timed(() => lay(rings), 5)), "aim ≤ 150 ms");
row("the same built, read back and checked", figure(timed(() => buildSheet({ sheet: rings, printer, spool }), 1)));
row("20,000 segments of three formulas to moves", figure(timed(() => lay(curveOf(20_000)), 5)));
row(
  "2,000,000 segments of three formulas to moves",
  figure(
    timed(
      () => lay(sheetOf([{ kind: "repeat", along: "z", count: "5", spacingMm: "0.2", items: curveOf(400_000).items }])),
      1,
    ),
  ),
);
