/** Stretches of layers that follow one change: what stands as bands on an opened file's log. */

export interface Stretch {
  firstLayer: number;
  lastLayer: number;
  value: number;
}

/** @param values in force per layer @param who index of the change a layer follows, -1 where it follows none */
export function stretchesOf(values: ArrayLike<number>, who: ArrayLike<number>): Stretch[] {
  const stretches: Stretch[] = [];
  for (let layer = 0; layer < who.length; layer++) {
    if (who[layer] < 0) continue;
    const open = stretches.at(-1);
    if (open && open.lastLayer === layer - 1 && who[layer - 1] === who[layer]) open.lastLayer = layer;
    else stretches.push({ firstLayer: layer, lastLayer: layer, value: values[layer] });
  }
  return stretches;
}
