/**
 * What an operator would look at in the finished programs, by means that share nothing with the builder: beads are read from the text and
 * laid on a raster. Each kind on two of the printers, nozzles and layer heights in turn; `CUCHARA_ALL=1` tries all with all, and every band.
 */
import { bedCentre, Printer } from "@/core/shelf/printer";
import { TrialKindKey, trialKindKeys } from "@/core/trials";
import { bandLabels, buildTrial } from "@/core/trials/build";
import type { Trial } from "@/core/trials/trial";
import { printers, saffron, trialOfKind } from "../helpers/demo";
import {
  looseStrands,
  mostPasses,
  oddVolumeShare,
  partsInTheAir,
  rasters,
  readLaid,
  readRaised,
  shareOverVoid,
} from "../helpers/laid";
import { textOf } from "../helpers/programs";

const all = process.env.CUCHARA_ALL === "1";
const sizes = [
  { nozzleMm: 0.4, layerHeightMm: 0.2, firstLayerHeightMm: 0.2 },
  { nozzleMm: 0.4, layerHeightMm: 0.28, firstLayerHeightMm: 0.3 },
  { nozzleMm: 0.6, layerHeightMm: 0.3, firstLayerHeightMm: 0.3 },
];

const cases = trialKindKeys.flatMap((kind, k) =>
  printers
    .filter((_, p) => all || p === k % printers.length || p === (k + 2) % printers.length)
    .flatMap((printer, p) =>
      sizes
        .filter((_, s) => all || s === (k + p) % sizes.length)
        .map((size): [TrialKindKey, string, Printer, (typeof sizes)[number]] => [kind, printer.name, printer, size]),
    ),
);

/** Bottom, middle and top band: what stands on what is the same between them. */
function some<T>(bands: T[]): T[] {
  return all || bands.length <= 3 ? bands : [bands[0], bands[Math.floor(bands.length / 2)], bands[bands.length - 1]];
}

test.each(cases)("%s on %s, %#: nothing in the air, nothing over voids, nothing ground down", (kind, _, own, size) => {
  const printer = { ...own, nozzleMm: size.nozzleMm };
  const { layerHeightMm, firstLayerHeightMm } = size;
  const whole = trialOfKind(kind, printer, saffron, { layerHeightMm, firstLayerHeightMm });
  const trial = { ...whole, plan: { ...whole.plan, bands: some(whole.plan.bands) } };
  const built = buildTrial({ trial, printer, spool: saffron });
  const program = readLaid(textOf(built.bytes), saffron.diameterMm);
  const layers = rasters(program);
  const loose = looseStrands(program, layers);
  expect(loose).toEqual([]);
  expect(partsInTheAir(layers, loose)).toEqual([]);
  const standing = built.bands[0].firstLayer;
  if (standing > 0) expect(shareOverVoid(program, layers, standing)).toBeLessThanOrEqual(0.1);
  // About fifteen passes of one point of filament through the gear are taken as harmless (common practice, no source).
  expect(mostPasses(program.filament)).toBeLessThanOrEqual(18);
  // A bead is an eighth wider than the nozzle, a strand a tenth thinner (docs/specimens.md); tracks are of chosen widths.
  const [beadMm, strandMm] = [Math.round(size.nozzleMm * 1125) / 1000, size.nozzleMm * 0.9];
  if (kind !== "extrusion") expect(oddVolumeShare(program, beadMm, strandMm)).toBe(0);
});

/** Kinds with bands one above the other; turns carry a letter left of their values. */
const stacked: [TrialKindKey, number | undefined][] = [
  ["temperature", undefined],
  ["fan", undefined],
  ["retraction", undefined],
  ["retraction-matrix", undefined],
  ["flow", undefined],
  ["speed", undefined],
  ["acceleration", 5],
  ["cornering", 5],
  ["bridging", undefined],
];
const readable = stacked.flatMap(([kind, besideMm], k) =>
  sizes
    .filter((_, s) => all || s === k % sizes.length)
    .map((size): [TrialKindKey, (typeof sizes)[number], number | undefined] => [kind, size, besideMm]),
);

/** Strokes count their band: a wide one, which reads as an eight, is five. */
const countOf = (read: string) => [...read].reduce((sum, sign) => sum + (sign === "8" ? 5 : Number(sign)), 0);

test.each(readable)(
  "%s %j: every band's value, or its number in strokes, is read back from the beads",
  (kind, size, besideMm) => {
    const { nozzleMm, ...heights } = size;
    const printer = { ...printers[0], nozzleMm };
    const trial = trialOfKind(kind, printer, saffron, heights);
    const built = buildTrial({ trial, printer, spool: saffron });
    const layers = rasters(readLaid(textOf(built.bytes), saffron.diameterMm));
    const fromX = besideMm === undefined ? undefined : bedCentre(printer).x + besideMm;
    const read = built.bands.map(({ firstLayer, lastLayer }) =>
      readRaised(layers.slice(firstLayer, lastLayer + 1), fromX),
    );
    if (/The value of each band/.test(built.shape.legend)) expect(read).toEqual(bandLabels(trial, printer));
    else expect(read.map(countOf)).toEqual(built.bands.map(({ number }) => number));
  },
);

describe("what files say of the firmware's values", () => {
  const linesFor = (printer: Printer, change: Partial<Trial> = {}) =>
    textOf(
      buildTrial({ trial: { ...trialOfKind("temperature", printer, saffron), ...change }, printer, spool: saffron })
        .bytes,
    ).split("\n");
  const sets = /^(M20[3-8]|M566|M572|M900|M92|SET_(VELOCITY_LIMIT|PRESSURE_ADVANCE|RETRACTION))\b/;

  test.each(printers)(
    "$name: what it stores is left alone, the factors that no firmware stores are said",
    (printer) => {
      const lines = linesFor(printer);
      expect(lines.filter((line) => sets.test(line))).toEqual([]);
      const start = lines.slice(
        0,
        lines.findIndex((line) => line.startsWith("; layer 1 of")),
      );
      for (const said of [/^M220 S100$/, /^M221 S100( T\d)?$/])
        expect(start.some((line) => said.test(line))).toBe(true);
    },
  );

  test("a fixed value that is another is said at the start and set back at the end; the printer's own is not said", () => {
    const own = linesFor(printers[0], { fixed: { acceleration: printers[0].printAccelerationMmS2 } });
    expect(own.filter((line) => sets.test(line))).toEqual([]);
    const other = linesFor(printers[0], { fixed: { acceleration: 700 } });
    expect(other.filter((line) => sets.test(line))).toEqual(["M204 P700", "M204 P1000"]);
    expect(other.indexOf("M204 P1000")).toBeGreaterThan(other.indexOf("; the print ends here"));
  });
});

test("what is drawn back at the end is what the next start gives back", () => {
  for (const printer of printers) {
    for (const kind of ["temperature", "retraction"] as const) {
      const trial = trialOfKind(kind, printer, saffron);
      const lines = textOf(buildTrial({ trial, printer, spool: saffron }).bytes).split("\n");
      const moved = (some: string[]) => some.flatMap((line) => /^G1 E(-?[\d.]+)/.exec(line)?.[1] ?? []).map(Number);
      const lastBead = lines.findLastIndex((line) => /^G1 .*[XY].* E/.test(line));
      expect(moved(lines)[0]).toBe(1);
      expect(moved(lines.slice(lastBead + 1)).reduce((sum, mm) => sum + mm, 0)).toBeCloseTo(-1, 4);
    }
  }
});
