/** The small picture of a trial's piece: from the front, or from above where it is flat. */
import { aboveThumbnail, frontThumbnail, Thumbnail } from "../laid/thumbnail";
import { frontView } from "../printing/front-view";
import type { BuiltTrial } from "./build";
import { primaryKey } from "./shown";
import type { TrialInput } from "./trial";

/** A piece this much wider than it is high shows nothing from the front. */
const FLAT_SHARE = 0.12;
/** Steps of round shapes that are smaller than this are not seen in a small picture, mm. */
const FINEST_MM = 0.3;

/** The picture of a built trial's piece, its bands with the values they try. */
export function thumbnailOf(
  { trial, printer }: TrialInput,
  built: Pick<BuiltTrial, "shape" | "slices" | "bands">,
): Thumbnail {
  const { shape, slices } = built;
  const key = primaryKey(trial, printer);
  const bands = built.bands.map(({ fromMm, toMm, settings }) => ({ fromMm, toMm, value: settings[key] ?? null }));
  const { widthMm, depthMm } = shape;
  const heightMm = slices.at(-1)?.zTopMm ?? 0;
  if (heightMm >= FLAT_SHARE * widthMm) {
    return frontThumbnail({ rectangles: frontView(slices), widthMm, heightMm, bands, finestMm: FINEST_MM });
  }
  const cuts = built.bands.map(({ lastLayer }, band) => ({ band, ...ringsOf(slices[lastLayer]) }));
  const below = slices[Math.max(0, (built.bands[0]?.firstLayer ?? slices.length) - 1)];
  const all = [{ band: -1, ...ringsOf(below) }, ...cuts];
  return aboveThumbnail({ cuts: all, widthMm, depthMm, bands });
}

const ringsOf = (slice: BuiltTrial["slices"][number] | undefined) => ({
  rings: slice ? slice.drawn.islands.flatMap(({ region }) => region) : [],
});
