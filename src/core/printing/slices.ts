/** A specimen cut into layers, and every layer into islands. Equal cuts share one object and one number. */
import { Box, boundingBox, islandsOf, Region, Ring, union } from "../geometry/polygons";
import { PieceShape } from "./piece";
import { Track, trackOutline } from "./track";

export interface Island {
  /** Equal islands have equal numbers. */
  id: number;
  region: Region;
  box: Box;
}

/** A cut through the piece. Equal cuts are one object with one number. */
export interface Section {
  id: number;
  islands: Island[];
}

export interface Slice {
  zTopMm: number;
  heightMm: number;
  section: Section;
  /** Single beads laid along a line, besides what is solid. */
  tracks: Track[];
  /** All that is seen of the layer: what is solid, and the tracks in their own width. */
  drawn: Section;
}

const MOST_KEPT = 20_000;
const sections = new Map<string, Section>();
const islandIds = new Map<string, Island>();
let nextId = 1;

/** A text that is equal for rings that are equal to the micrometre. */
function keyOf(rings: Ring[]): string {
  let key = "";
  for (const ring of rings) {
    for (const { x, y } of ring) key += `${Math.round(x * 1000)},${Math.round(y * 1000)} `;
    key += "|";
  }
  return key;
}

function cut(rings: Ring[]): Section {
  const key = keyOf(rings);
  let section = sections.get(key);
  if (!section) {
    const islands = islandsOf(union(rings)).map((region) => {
      const islandKey = keyOf(region);
      let island = islandIds.get(islandKey);
      if (!island) {
        island = { id: nextId++, region, box: boundingBox(region) };
        islandIds.set(islandKey, island);
      }
      return island;
    });
    if (sections.size > MOST_KEPT) {
      sections.clear();
      islandIds.clear();
    }
    section = { id: nextId++, islands };
    sections.set(key, section);
  }
  return section;
}

/** The layers of the piece, each cut at half its height. */
export function slice(shape: PieceShape, tops: ArrayLike<number>): Slice[] {
  const slices: Slice[] = [];
  for (let i = 0; i < tops.length; i++) {
    const bottom = i === 0 ? 0 : tops[i - 1];
    const middle = Math.min((bottom + tops[i]) / 2, shape.heightMm - 1e-4);
    const rings = shape.solidAt(middle);
    const section = cut(rings);
    const tracks = shape.tracksAt?.(middle) ?? [];
    const drawn = tracks.length === 0 ? section : cut([...rings, ...tracks.flatMap(trackOutline)]);
    slices.push({ zTopMm: tops[i], heightMm: tops[i] - bottom, section, tracks, drawn });
  }
  return slices;
}
