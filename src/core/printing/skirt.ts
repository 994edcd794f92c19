/** What is laid round the first layer. */
import { MoveKind } from "../gcode/moves";
import { offset, ringAreaMm2, union } from "../geometry/polygons";
import { Stroke } from "./island";
import { Process, spacingMm } from "./process";
import { Slice } from "./slices";

/** Brim rings from outside in, or one skirt ring at a distance. */
export function strokesAround(slice: Slice, process: Process): Stroke[] {
  const region = union(...slice.drawn.islands.map(({ region }) => region));
  const spacing = spacingMm(process, slice.heightMm);
  const distances =
    process.brimRings > 0
      ? Array.from({ length: process.brimRings }, (_, i) => spacing * (process.brimRings - i - 0.5))
      : [process.skirtGapMm];
  return distances.flatMap((distance) =>
    offset(region, distance)
      .filter((ring) => ringAreaMm2(ring) > 0)
      .map((ring) => ({
        points: [...ring, ring[0]],
        kinds: ring.map(() => MoveKind.skirt as number),
        closed: true,
      })),
  );
}
