/** Which share of every band tells about its own temperature, and how much earlier the nozzle should be told. */
import { ResolvedBand } from "../heightplan/plan";
import { Followed } from "../heightplan/planned";
import { HeatProfile } from "./report";

/**
 * Share (0–1) of each band's height in which the nozzle is settled at the band's own value. Layers that are not read on the piece do
 * not count; layers in which the nozzle is already sent elsewhere count as unsettled. 1 for bands without a temperature of their own.
 */
export function settledShares(
  bands: readonly ResolvedBand[],
  { planned, judged }: Followed,
  heat: HeatProfile,
  heightsMm: ArrayLike<number>,
): number[] {
  const wanted = planned.nozzleTemperature;
  return bands.map(({ firstLayer, lastLayer, settings }) => {
    const own = settings.nozzleTemperature;
    let settled = 0;
    let all = 0;
    for (let layer = firstLayer; layer <= lastLayer && layer < heightsMm.length; layer++) {
      if (judged && !judged[layer]) continue;
      all += heightsMm[layer];
      const sentElsewhere = own !== undefined && wanted !== undefined && !judged && wanted[layer] !== own;
      if (!sentElsewhere) settled += heat.settledShare[layer] * heightsMm[layer];
    }
    return all > 0 ? settled / all : 1;
  });
}

/** Tried at most: more layers would take the band below its own end. */
const MOST_TRIED = 24;

/**
 * The number of layers by which the nozzle should be told earlier, so that the worst band is settled for as much of its height as it
 * can be; the smallest of those that do about equally well.
 *
 * @param sharesWith settled shares of all bands if the nozzle is told so many layers earlier
 */
export function bestLeadLayers(sharesWith: (layers: number) => number[]): { layers: number; share: number } {
  let best = { layers: 0, share: -1 };
  for (let layers = 0; layers <= MOST_TRIED; layers++) {
    const share = Math.min(...sharesWith(layers));
    if (share > best.share + 0.01) best = { layers, share };
  }
  return best;
}
