/** Where a piece lies on a photo, as it comes over a border. */
import { z } from "zod";
import { LEAST_APART_PX } from "./photo";

const where = "A place is [x, y] in pixels of the picture, from its top left corner";
const along = z.number(where).min(-20_000, where).max(20_000, where);
const pixel = z.tuple([along, along], where);

export const photoPlaceSchema = z
  .object({ bottom: pixel, top: pixel })
  .refine(({ bottom, top }) => Math.hypot(top[0] - bottom[0], top[1] - bottom[1]) >= LEAST_APART_PX, {
    path: ["top"],
    message: "The bottom and the top of the piece are in the same place: move them apart",
  });
