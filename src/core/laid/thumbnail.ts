/**
 * A small picture of a piece: what is seen of it from the front or from above, as outlines that a page fills in its own colours. It is
 * made once and kept, so that lists of pieces need not build them.
 */
import type { Layer } from "../gcode/layers";
import { laysMaterial, MoveTable } from "../gcode/moves";
import type { Point, Ring } from "../geometry/polygons";
import { roundTo } from "../units";

/** How many shades there are from the foremost to what stands far behind. */
export const THUMBNAIL_SHADES = 6;
/** Depth at which a surface has the last shade, mm. */
const PALEST_MM = 18;

export interface ThumbnailPart {
  /** Index of the band it belongs to; -1 for the base and what lies above the last band. */
  band: number;
  /** 0 for what is foremost up to THUMBNAIL_SHADES - 1 for what stands far behind. */
  shade: number;
  /** Digits and the like, which stand out on their band. */
  raised: boolean;
  /** SVG path data (W3C SVG 1.1, 8.3): mm, X to the right, Y down from the top left. */
  path: string;
  /** Where the path is a line and no outline: its width, mm. */
  strokeMm?: number;
}

/** A band with the value it tries, for its colour and for what is marked beside it; null where it has none. */
export interface ThumbnailBand {
  fromMm: number;
  toMm: number;
  value: number | null;
}

/** A piece as it is drawn small. Parts are in the order they are painted, the far ones first. */
export interface Thumbnail {
  seenFrom: "front" | "above";
  widthMm: number;
  /** Of the picture: the piece's height, or its depth where it is seen from above. */
  heightMm: number;
  parts: ThumbnailPart[];
  bands: ThumbnailBand[];
}

/** Rectangles of six figures: from X, to X (from the middle), from Z, to Z, how far behind the foremost (mm), and 1 where raised. */
export type FrontRectangles = ArrayLike<number>;
const STRIDE = 6;

interface Asked {
  rectangles: FrontRectangles;
  widthMm: number;
  heightMm: number;
  bands: readonly ThumbnailBand[];
  /** Rectangles that are both lower and narrower than this are left out, mm; 0 keeps all. */
  finestMm?: number;
}

/** What is seen of a piece from the front, from its rectangles. */
export function frontThumbnail({ rectangles, widthMm, heightMm, bands, finestMm = 0 }: Asked): Thumbnail {
  const paths = new Map<string, { part: ThumbnailPart; strokes: string[] }>();
  const paint = (band: number, shade: number, raised: boolean, box: Box) => {
    const key = `${shade} ${raised ? 1 : 0} ${band}`;
    let known = paths.get(key);
    if (!known) paths.set(key, (known = { part: { band, shade, raised, path: "" }, strokes: [] }));
    // What rounds to nothing is not seen.
    if (roundTo(box.width, 2) > 0 && roundTo(box.height, 2) > 0) known.strokes.push(boxPath(box));
  };
  for (let at = 0; at + STRIDE <= rectangles.length; at += STRIDE) {
    const [fromX, toX, fromZ, toZ, depthMm, raised] = [0, 1, 2, 3, 4, 5].map((k) => rectangles[at + k]);
    if (toX - fromX < finestMm && toZ - fromZ < finestMm) continue;
    const shade = Math.min(THUMBNAIL_SHADES - 1, Math.round((depthMm / PALEST_MM) * (THUMBNAIL_SHADES - 1)));
    const box = (low: number, high: number): Box => ({
      x: fromX + widthMm / 2,
      y: heightMm - high,
      width: toX - fromX,
      height: high - low,
    });
    let low = fromZ;
    bands.forEach(({ fromMm, toMm }, band) => {
      if (toMm <= low || fromMm >= toZ) return;
      if (fromMm > low) paint(-1, shade, false, box(low, fromMm));
      const from = Math.max(low, fromMm);
      low = Math.min(toZ, toMm);
      paint(band, shade, raised === 1, box(from, low));
    });
    if (low < toZ) paint(-1, shade, false, box(low, toZ));
  }
  const parts = [...paths.values()].map(({ part, strokes }) => ({ ...part, path: strokes.join("") }));
  const seen = parts.filter(({ path }) => path !== "");
  seen.sort((a, b) => b.shade - a.shade || Number(a.raised) - Number(b.raised) || a.band - b.band);
  return { seenFrom: "front", widthMm, heightMm, parts: seen, bands: [...bands] };
}

interface FromAbove {
  /** What each band covers at its top, bottom first, as rings that are filled by the even-odd rule; X and Y from the middle. */
  cuts: readonly { band: number; rings: readonly Ring[] }[];
  widthMm: number;
  depthMm: number;
  bands: readonly ThumbnailBand[];
}

/** What is seen of a flat piece from above, the front at the bottom. */
export function aboveThumbnail({ cuts, widthMm, depthMm, bands }: FromAbove): Thumbnail {
  const place = ({ x, y }: Point) => `${short(x + widthMm / 2)} ${short(depthMm / 2 - y)}`;
  const ringPath = (ring: Ring) => `M${ring.map(place).join("L")}z`;
  const parts = cuts.map(({ band, rings }) => ({ band, shade: 0, raised: false, path: rings.map(ringPath).join("") }));
  return {
    seenFrom: "above",
    widthMm,
    heightMm: depthMm,
    parts: parts.filter(({ path }) => path !== ""),
    bands: [...bands],
  };
}

/** Of a print's layers so many are drawn at most, and so many points of them. */
const MOST_LAYERS = 12;
const MOST_POINTS = 8000;
/** Points closer than this share of the picture are one. */
const SAME_SHARE = 1 / 160;
/** A line is as wide as a usual bead, mm. */
const BEAD_MM = 0.45;
/** Lines are at least so wide, as a share of the picture. */
const THINNEST_SHARE = 1 / 220;

/** A print this much shallower than it is wide shows more from the front. */
const SHALLOW_SHARE = 0.2;

/**
 * What a print lays, as lines: from above, or from the front where it is a thin wall. Some of its layers are drawn, each a band of its own,
 * so that what is higher has another colour.
 */
export function strokesThumbnail({ moves, layers }: { moves: MoveTable; layers: readonly Layer[] }): Thumbnail {
  const [x, y, z] = [moves.x, moves.y, moves.z].map((column) => laidRange(column, moves));
  const isWall = y.size < SHALLOW_SHARE * x.size && z.size > y.size;
  const up = isWall ? { column: moves.z, ...z } : { column: moves.y, ...y };
  const [widthMm, heightMm] = [x, up].map(({ size }) => Math.max(1, roundTo(size, 2)));
  const size = Math.max(widthMm, heightMm);
  const sameMm = size * SAME_SHARE;
  const strokeMm = Math.max(BEAD_MM, size * THINNEST_SHARE);
  const shown = someLayers(layers);
  const parts = shown.map((layer, band) => ({ band, shade: 0, raised: false, path: linesOf(layer), strokeMm }));
  const bands = shown.map(({ zMm, heightMm: ownMm }) => ({ fromMm: zMm - ownMm, toMm: zMm, value: zMm }));
  const seenFrom = isWall ? "front" : "above";
  return { seenFrom, widthMm, heightMm, parts: parts.filter(({ path }) => path !== ""), bands };

  /** What a layer lays as lines; points that come too soon after the last one are left out. */
  function linesOf({ firstPrintMove, lastMove }: Layer): string {
    let path = "";
    let [drawnX, drawnUp] = [NaN, NaN];
    const draw = (how: "M" | "L", at: number) => {
      [drawnX, drawnUp] = [moves.x[at], up.column[at]];
      path += `${how}${short(drawnX - x.low)} ${short(up.low + up.size - drawnUp)}`;
    };
    const isNear = (at: number) => Math.hypot(moves.x[at] - drawnX, up.column[at] - drawnUp) < sameMm;
    const isLaid = (at: number) => laysMaterial(moves.kind[at]);
    for (let i = Math.max(1, firstPrintMove); i <= lastMove; i++) {
      if (!isLaid(i)) continue;
      if ((i === firstPrintMove || !isLaid(i - 1)) && !isNear(i - 1)) draw("M", i - 1);
      const ends = i === lastMove || !isLaid(i + 1);
      if (ends || !isNear(i)) draw("L", i);
    }
    return path;
  }
}

/** As many layers as can be drawn, spread from the first to the last. */
function someLayers(layers: readonly Layer[]): Layer[] {
  for (let count = Math.min(MOST_LAYERS, layers.length); count > 0; count--) {
    const some = Array.from(
      { length: count },
      (_, k) => layers[count === 1 ? layers.length - 1 : Math.round((k * (layers.length - 1)) / (count - 1))],
    );
    const points = some.reduce((sum, { firstPrintMove, lastMove }) => sum + lastMove - firstPrintMove + 1, 0);
    if (points <= MOST_POINTS || count === 1) return some;
  }
  return [];
}

/** From where to where material is laid along one axis, mm. */
function laidRange(column: ArrayLike<number>, moves: MoveTable): { low: number; size: number } {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    low = Math.min(low, column[i - 1], column[i]);
    high = Math.max(high, column[i - 1], column[i]);
  }
  return low > high ? { low: 0, size: 0 } : { low, size: high - low };
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** So many decimals are drawn: a hundredth of a millimetre is finer than a pixel of any small picture. */
const short = (mm: number) => String(roundTo(mm, 2));

const boxPath = ({ x, y, width, height }: Box) =>
  `M${short(x)} ${short(y)}h${short(width)}v${short(height)}h-${short(width)}z`;
