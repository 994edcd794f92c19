/** Heights and layers of an opened file, shown and converted either way. */
import type { Place } from "@/core/heightplan/change";
import { plainNumber, roundTo } from "@/core/units";

export type PlaceMode = "height" | "layer0" | "layer1";

export const placeModes: { value: PlaceMode; label: string }[] = [
  { value: "height", label: "Height, mm" },
  { value: "layer0", label: "Layer, from 0" },
  { value: "layer1", label: "Layer, from 1" },
];

interface LayerLike {
  zMm: number;
  heightMm: number;
}

/** Index of the first layer at or above a place. */
export function layerOf(place: Place, layers: readonly LayerLike[]): number {
  if ("layer" in place) return place.layer - place.countsFrom;
  const index = layers.findIndex(({ zMm }) => zMm > place.heightMm + 1e-6);
  return index < 0 ? layers.length : index;
}

/** The same place said in another way. */
export function convertPlace(place: Place, mode: PlaceMode, layers: readonly LayerLike[]): Place {
  const index = layerOf(place, layers);
  if (mode === "layer0") return "layer" in place && place.countsFrom === 0 ? place : { layer: index, countsFrom: 0 };
  if (mode === "layer1")
    return "layer" in place && place.countsFrom === 1 ? place : { layer: index + 1, countsFrom: 1 };
  if ("heightMm" in place) return place;
  return { heightMm: heightOfLayer(index, layers) };
}

/** Where a layer begins, mm. */
export function heightOfLayer(index: number, layers: readonly LayerLike[]): number {
  if (index >= layers.length) return layers[layers.length - 1]?.zMm ?? 0;
  const { zMm, heightMm } = layers[Math.max(0, index)];
  return roundTo(zMm - heightMm, 4);
}

/** The figure of a place in a mode, and back. */
export function placeFigure(place: Place): number {
  return "heightMm" in place ? place.heightMm : place.layer;
}

export function placeFrom(figure: number, mode: PlaceMode): Place {
  if (mode === "height") return { heightMm: figure };
  return { layer: Math.round(figure), countsFrom: mode === "layer0" ? 0 : 1 };
}

/** What the other counts call the same place: `layer 12 from 0, 13 from 1`. */
export function sayOtherCounts(place: Place, layers: readonly LayerLike[]): string {
  const index = layerOf(place, layers);
  if (index >= layers.length) return "above the piece";
  const height = `${plainNumber(heightOfLayer(index, layers))} mm`;
  if ("heightMm" in place) return `layer ${index} from 0, ${index + 1} from 1`;
  return place.countsFrom === 0 ? `${height}, layer ${index + 1} from 1` : `${height}, layer ${index} from 0`;
}
