/** Marble-run tiles as a slicer might have written them: not by Cuchara's own writer, so that reading is put to the test. */

interface TileOptions {
  name: string;
  layers: number;
  firstLayerMm: number;
  layerMm: number;
  /** The comment that opens layer `index` (from 0). */
  opens(index: number, zMm: number): string;
  relativeFilament: boolean;
  lineEnd: string;
  /** Outer radius at a share (0–1) of the height, mm. */
  radius(share: number): number;
  /** Lines of the slicer's own behind the opening of a layer. */
  extra?(index: number): string[];
}

const CENTRE = 110;
const FILAMENT_AREA = 2.4053;

/** A round tile with a hole for the marble: two walls outside, two inside, spokes between them. */
function tile(options: TileOptions): { name: string; bytes: Uint8Array } {
  const { layers, firstLayerMm, layerMm, relativeFilament, lineEnd } = options;
  const out = [
    "; a marble-run tile, sliced for a 0.4 mm nozzle",
    "M140 S60",
    "M104 S210",
    "G28",
    "M190 S60",
    "M109 S210",
    "G21",
    "G90",
    relativeFilament ? "M83" : "M82",
    "G92 E0",
    "M107",
  ];
  let filament = 0;
  const feedWord = (mm: number) => {
    filament += mm;
    return relativeFilament ? `E${mm.toFixed(5)}` : `E${filament.toFixed(5)}`;
  };
  for (let index = 0; index < layers; index++) {
    const z = firstLayerMm + index * layerMm;
    const height = index === 0 ? firstLayerMm : layerMm;
    out.push(options.opens(index, z), ...(options.extra?.(index) ?? []));
    if (index === 1) out.push("M106 S255");
    out.push(`G1 ${feedWord(-3)} F2100`, `G0 Z${(z + 0.3).toFixed(2)} F600`);
    const outer = options.radius(index / layers);
    const rings = [outer, outer - 0.45, 8, 8.45];
    rings.forEach((radius, ring) => {
      out.push(`G0 X${(CENTRE + radius).toFixed(3)} Y${CENTRE} F7200`);
      if (ring === 0) out.push(`G0 Z${z.toFixed(2)} F600`, `G1 ${feedWord(3)} F2100`);
      const corners = 72;
      for (let corner = 1; corner <= corners; corner++) {
        const angle = (2 * Math.PI * corner) / corners;
        const wobble = ring < 2 ? 1.2 * Math.cos(6 * angle) - 1.2 : 0;
        const length = (2 * Math.PI * radius) / corners;
        const feed = corner === 1 ? ` F${index === 0 ? 1200 : 2400}` : "";
        const x = CENTRE + (radius + wobble) * Math.cos(angle);
        const y = CENTRE + (radius + wobble) * Math.sin(angle);
        out.push(`G1 X${x.toFixed(3)} Y${y.toFixed(3)} ${feedWord((length * 0.43 * height) / FILAMENT_AREA)}${feed}`);
      }
    });
    out.push("; fill");
    for (let line = 0; line < 24; line++) {
      const angle = ((line + (index % 2) * 0.5) / 24) * 2 * Math.PI;
      const ends = line % 2 === 0 ? [8.9, outer - 3] : [outer - 3, 8.9];
      const [a, b] = ends.map(
        (radius) =>
          `X${(CENTRE + radius * Math.cos(angle)).toFixed(3)} Y${(CENTRE + radius * Math.sin(angle)).toFixed(3)}`,
      );
      out.push(`G0 ${a} F7200`, `G1 ${b} ${feedWord(((outer - 11.9) * 0.45 * height) / FILAMENT_AREA)} F3000`);
    }
  }
  out.push("M104 S0", "M140 S0", "M107", "G91", "G0 Z10 F600", "G90", "M84", "");
  return { name: options.name, bytes: new TextEncoder().encode(out.join(lineEnd)) };
}

/** Two tiles: layers counted from 0 in one's comments, from 1 in the other's, which has a thicker first layer too. */
export function demoFiles(): { name: string; bytes: Uint8Array }[] {
  return [
    tile({
      name: "marble-tile-funnel.gcode",
      layers: 140,
      firstLayerMm: 0.2,
      layerMm: 0.2,
      radius: (share) => 14 + 9 * Math.sqrt(share),
      opens: (index) => `; sheet no. ${index}`,
      relativeFilament: false,
      lineEnd: "\n",
    }),
    tile({
      name: "marble-tile-switch.gcode",
      layers: 180,
      firstLayerMm: 0.3,
      layerMm: 0.15,
      radius: (share) => 17 + 4 * Math.cos(share * 2 * Math.PI),
      opens: (index, z) => `; level ${index + 1}/180 (z=${z.toFixed(2)})`,
      relativeFilament: true,
      lineEnd: "\r\n",
      // A change left behind by hand, and an earlier plan that was never lifted out.
      extra: (index) =>
        index === 4
          ? ["M104 S205"]
          : index === 60
            ? ["M104 S200 ; cuchara: band 1/2 nozzle 200 from 9.15 mm"]
            : index === 120
              ? ["M104 S195 ; cuchara: band 2/2 nozzle 195 from 18.15 mm"]
              : [],
    }),
  ];
}
