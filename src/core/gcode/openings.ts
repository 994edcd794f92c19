/**
 * Which comments open layers, judged by where each stands: a new height begins behind it, and nothing of that height was laid since the
 * one before it. How many comments there are says nothing: some makers say where layers end, some speak of every object of a layer, and
 * within a layer walls, supports and smoothed tops may lie at heights of their own.
 */
import { HEIGHT_TOLERANCE_MM, roundTo } from "../units";
import type { MarkerPlace, MarkerSeries } from "./markers";
import { laysMaterial, MoveTable } from "./moves";

/** Two moves lie in one layer if their heights differ by less, mm. */
export const SAME_LAYER_MM = HEIGHT_TOLERANCE_MM;

/** A stretch of moves at one height, or one turn of what climbs. */
export interface Stretch {
  zMm: number;
  firstPrintMove: number;
  lastPrintMove: number;
  climbs: boolean;
}

/** Nobody slices thinner layers: what lies less above the rest was smoothed. mm, common practice, no source. */
const THINNEST_MM = 0.03;
/** A turn may be taken for two where its rise is not known yet. */
const TURNS_IN_DOUBT = 2;
/** Of so many comments at most one may stand where no layer opens, and one layer may hold heights that follow one another. */
const BELIEVED_SHARE = 0.1;
/** So many heights at most are laid within a layer. */
const MOST_HEIGHTS = 6;
/** Series of each kind that are looked at: of counted ones those that count furthest, of the others those that begin first. */
const MOST_SERIES = 50;

/**
 * How well a series opens layers: at how many places it does (at some of them only by where most of a layer lies), at how many not, and
 * how many layers it passes over.
 */
interface Standing {
  opens: number;
  byMost: number;
  others: number;
  passedOver: number;
}

const worth = ({ opens, others, passedOver }: Standing) => opens - others - passedOver;

/**
 * The series of comments that opens the layers; null where none does.
 *
 * @param counted series whose numbers count up @param plain comments that say the same, or uncounted figures, again and again
 * @param byHeight the layers that the heights alone make: comments without numbers are only asked where that is another count
 */
export function chooseOpenings(
  counted: readonly MarkerSeries[],
  plain: readonly MarkerSeries[],
  stretches: readonly Stretch[],
  moves: MoveTable,
  byHeight: readonly Stretch[],
): MarkerSeries | null {
  if (stretches.length === 0) return null;
  let best: { series: MarkerSeries; standing: Standing } | null = null;
  const consider = (series: MarkerSeries) => {
    const standing = isInOrder(series.places) ? standingOf(series.places, stretches, moves) : null;
    if (standing && (!best || isBetter(series, standing, best))) best = { series, standing };
  };
  const looked = counted.slice(0, MOST_SERIES).filter(({ places }) => places.length > 1);
  for (const series of looked) consider(series);
  // Comments of every object: a layer opens at whichever comes first.
  const first = best as { series: MarkerSeries } | null;
  if (first) for (const other of looked) if (other !== first.series) consider(withEarlier(first.series, other));
  const found = best as { series: MarkerSeries; standing: Standing } | null;
  if (found && isBelieved(found.series, found.standing)) return found.series;
  best = null;
  const enough = plain.filter(({ places }) => places.length * MOST_HEIGHTS >= byHeight.length);
  for (const series of enough.slice(0, MOST_SERIES)) {
    if (series.places.length === byHeight.length || series.places[0].move > byHeight[0].firstPrintMove) continue;
    consider(series);
  }
  const uncounted = best as { series: MarkerSeries; standing: Standing } | null;
  const isSure =
    uncounted !== null &&
    uncounted.standing.others + uncounted.standing.byMost === 0 &&
    isBelieved(uncounted.series, uncounted.standing);
  return isSure ? uncounted.series : null;
}

/** Of two that open as many layers, that one opens them which stands in front. */
function isBetter({ places }: MarkerSeries, standing: Standing, best: { series: MarkerSeries; standing: Standing }) {
  const more = worth(standing) - worth(best.standing);
  const surer = best.standing.byMost - standing.byMost;
  return more > 0 || (more === 0 && (surer > 0 || (surer === 0 && places[1]?.move < best.series.places[1]?.move)));
}

function isBelieved({ places }: MarkerSeries, { opens, others, passedOver }: Standing): boolean {
  const most = BELIEVED_SHARE * places.length;
  return opens > 1 && others <= most && passedOver <= Math.max(1, most);
}

/** Numbers that two kinds of comment share need not stand in the order they count in. */
const isInOrder = (places: readonly MarkerPlace[]) =>
  places.every(({ move }, k) => k === 0 || move >= places[k - 1].move);

/** Null where the series says where layers end, or opens hardly any of what is laid. */
function standingOf(places: readonly MarkerPlace[], stretches: readonly Stretch[], moves: MoveTable): Standing | null {
  const before = stretches.filter(({ lastPrintMove }) => lastPrintMove < places[0].move).length;
  const behind = stretches.length - before;
  // At least a good part of the program must lie behind the first of them.
  if (behind < stretches.length * 0.8 && before > 2) return null;
  const isEmptyAtLast = stretches[stretches.length - 1].lastPrintMove < places[places.length - 1].move;
  if (isEmptyAtLast && before > 0) return null;
  const standing: Standing = { opens: 0, byMost: 0, others: 0, passedOver: 0 };
  let from = before;
  // What is laid next behind a place; it goes along, for thousands of comments may stand in front of one move.
  let laidNext = 0;
  places.forEach((place, k) => {
    const end = places[k + 1]?.move ?? Infinity;
    laidNext = Math.max(laidNext, place.move);
    while (laidNext < moves.count && !laysMaterial(moves.kind[laidNext])) laidNext++;
    const height = laidNext < moves.count ? moves.z[laidNext] : NaN;
    let to = from;
    while (to < stretches.length && stretches[to].firstPrintMove < end) to++;
    const isEmpty = !stretches.slice(from, to).some(({ lastPrintMove }) => lastPrintMove >= place.move);
    if (isEmpty || Number.isNaN(height)) standing.others++;
    else {
      const below = k === 0 ? [] : placeBefore(places[k - 1], place, stretches, from);
      const isAtMost = () =>
        Math.abs(mostAt(stretches.slice(from, to), place.move, end) - height) <= SAME_LAYER_MM &&
        mostAt(below, places[k - 1].move, place.move) < height - SAME_LAYER_MM;
      if (k === 0 || isNew(height, below, place, moves)) standing.opens++;
      else if (isAtMost()) {
        // A wall of half the height may end where the next, thinner layer lies.
        standing.opens++;
        standing.byMost++;
      } else standing.others++;
      // What goes on behind the next comment is that layer's, with a ramp in front of it.
      const own = stretches
        .slice(from, to)
        .filter(({ lastPrintMove }) => lastPrintMove >= place.move && lastPrintMove < end);
      const turns = own.reduce((sum, { climbs }) => sum + Number(climbs), 0);
      standing.passedOver += Math.max(0, stepsUp(own) - 1) + Math.max(0, turns - TURNS_IN_DOUBT);
    }
    // One that goes on behind the next comment belongs to both.
    from = to > 0 && stretches[to - 1].lastPrintMove >= end ? to - 1 : to;
  });
  return standing;
}

/** What was laid between two comments, as far as it begins in front of the second. */
function placeBefore(
  { move }: MarkerPlace,
  next: MarkerPlace,
  stretches: readonly Stretch[],
  from: number,
): readonly Stretch[] {
  let first = Math.min(from, stretches.length - 1);
  while (first > 0 && stretches[first - 1].lastPrintMove >= move) first--;
  let end = first;
  while (end < stretches.length && stretches[end].firstPrintMove < next.move) end++;
  return stretches.slice(first, end);
}

/** Whether nothing of a height was laid in the layer before; what climbs goes on where it was. */
function isNew(heightMm: number, before: readonly Stretch[], place: MarkerPlace, moves: MoveTable): boolean {
  const last = before[before.length - 1];
  if (last?.climbs) {
    let i = Math.min(place.move - 1, moves.count - 1);
    while (i > 0 && !laysMaterial(moves.kind[i])) i--;
    if (heightMm < moves.z[i] - SAME_LAYER_MM && heightMm > last.zMm - SAME_LAYER_MM) return false;
  }
  return !before.some(({ zMm, climbs, firstPrintMove, lastPrintMove }) => {
    if (climbs || Math.abs(zMm - heightMm) > SAME_LAYER_MM) return false;
    // What climbs to the next layer's height was taken for its beginning.
    return lastPrintMove < place.move || laysAt(heightMm, firstPrintMove, place.move, moves);
  });
}

/** The height at which most moves from one to another lie, mm. */
function mostAt(stretches: readonly Stretch[], from: number, to: number): number {
  const movesAt = new Map<number, number>();
  for (const { zMm, firstPrintMove, lastPrintMove } of stretches) {
    const count = Math.min(lastPrintMove + 1, to) - Math.max(firstPrintMove, from);
    if (count > 0) movesAt.set(zMm, (movesAt.get(zMm) ?? 0) + count);
  }
  let [height, most] = [NaN, 0];
  for (const [zMm, count] of movesAt) if (count > most) [height, most] = [zMm, count];
  return height;
}

function laysAt(heightMm: number, from: number, to: number, moves: MoveTable): boolean {
  for (let i = from; i < to; i++) {
    if (laysMaterial(moves.kind[i]) && Math.abs(moves.z[i] - heightMm) <= SAME_LAYER_MM) return true;
  }
  return false;
}

/** How often everything that follows lies above everything before: layers that no comment opened. */
function stepsUp(stretches: readonly Stretch[]): number {
  const level = stretches.filter(({ climbs }) => !climbs);
  const lowestBehind = new Float64Array(level.length + 1).fill(Infinity);
  for (let i = level.length - 1; i >= 0; i--) lowestBehind[i] = Math.min(lowestBehind[i + 1], level[i].zMm);
  let highest = -Infinity;
  let steps = 0;
  for (let i = 0; i + 1 < level.length; i++) {
    highest = Math.max(highest, level[i].zMm);
    if (lowestBehind[i + 1] > highest + THINNEST_MM) steps++;
  }
  return steps;
}

/** A series whose layers open at another's comments where those stand earlier, or where it has none. */
function withEarlier(series: MarkerSeries, other: MarkerSeries): MarkerSeries {
  const byValue = new Map(series.places.map((place) => [place.value, place]));
  for (const place of other.places) {
    const own = byValue.get(place.value);
    if (!own || place.move < own.move) byValue.set(place.value, place);
  }
  return { ...series, places: [...byValue.values()].sort((a, b) => a.value - b.value || a.move - b.move) };
}

/** What is laid between two openings. */
export interface OpenedLayer {
  place: MarkerPlace;
  firstPrintMove: number;
  lastPrintMove: number;
  zMm: number;
}

/** The layers that comments open; one behind which nothing is laid opens none. */
export function openedLayers({ places }: MarkerSeries, moves: MoveTable): OpenedLayer[] {
  const layers: OpenedLayer[] = [];
  places.forEach((place, k) => {
    const layer = between(place, places[k + 1]?.move ?? moves.count, moves);
    if (layer) layers.push(layer);
  });
  return layers;
}

/** A layer lies where most of its material does; one that climbs, as high as it comes. */
function between(place: MarkerPlace, end: number, moves: MoveTable): OpenedLayer | null {
  let [firstPrintMove, lastPrintMove] = [-1, -1];
  const byHeight = new Map<number, number>();
  let [climbing, level, topMm] = [0, 0, -Infinity];
  for (let i = place.move; i < end; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    if (firstPrintMove < 0) firstPrintMove = i;
    lastPrintMove = i;
    const [z, fed] = [moves.z[i], moves.filamentMm[i]];
    topMm = Math.max(topMm, z);
    if (Math.abs(z - (i > 0 ? moves.z[i - 1] : 0)) > 1e-4) climbing += fed;
    else {
      level += fed;
      const height = roundTo(z, 4);
      byHeight.set(height, (byHeight.get(height) ?? 0) + fed);
    }
  }
  if (firstPrintMove < 0) return null;
  let [zMm, most] = [roundTo(topMm, 4), 0];
  if (level >= climbing) {
    for (const [height, fed] of byHeight) {
      if (fed > most || (fed === most && height > zMm)) [zMm, most] = [height, fed];
    }
  }
  return { place, firstPrintMove, lastPrintMove, zMm };
}
