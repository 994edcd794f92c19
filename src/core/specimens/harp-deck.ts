/** Where the harp's decks lie: known to its kind too, which sets every layer of a deck by itself. */
import { firstLayerAbove } from "../heightplan/layer-grid";

/** Layers a deck is thick: the three that are laid over air or on what was. */
export const DECK_LAYERS = 3;

/** Height at which the deck of a storey begins, mm. */
export function deckFromMm(topMm: number, layerHeightMm: number): number {
  return topMm - DECK_LAYERS * layerHeightMm;
}

/** Index of the first layer of the deck below `topMm`: a layer is deck if its middle lies in it. */
export function deckFirstLayer(topMm: number, tops: ArrayLike<number>, layerHeightMm: number): number {
  return firstLayerAbove(tops, deckFromMm(topMm, layerHeightMm) + layerHeightMm / 2 - 1e-4);
}
