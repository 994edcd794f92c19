/** What is done with photos: checked, made smaller, freed of everything but the picture itself. */
import sharp from "sharp";
import { firstPlace, Photo, Side } from "@/core/reading/photo";
import type { Run } from "@/core/trials/run";
import { photos } from "../db/photos";
import { missing, Refused } from "../refused";

export const MOST_PHOTO_BYTES = 25_000_000;
const MOST_PHOTOS = 40;
/** As large as a piece needs to be to be marked by eye. */
const LONGEST_SIDE_PX = 2000;
/** A picture of more than this is no photo: it would fill the memory when it is unpacked. */
const MOST_PIXELS = 120_000_000;
const known = { jpeg: "JPEG", png: "PNG", webp: "WebP" };

/** Stores a photo of a run; refused with a sentence if the bytes are no picture that can be read whole. */
export async function addPhoto(run: Run, side: Side, bytes: Uint8Array): Promise<Photo> {
  if (photos.ofRun(run.id).length >= MOST_PHOTOS) {
    throw new Refused("too-large", `A piece has at most ${MOST_PHOTOS} photos. Remove one first.`);
  }
  const picture = await readyPicture(bytes);
  return photos.add(run.id, side, picture, firstPlace(picture));
}

async function readyPicture(bytes: Uint8Array) {
  const refuse = (why: string) =>
    new Refused("unreadable", `This is no photo that can be read: ${why}. JPEG, PNG and WebP can be.`);
  try {
    const read = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: "error" });
    const { format } = await read.metadata();
    if (!Object.hasOwn(known, format)) throw refuse(`it is ${format.toUpperCase()}`);
    // Turned as the camera was held, then stored without what the camera wrote beside the picture: place, time, device.
    const { data, info } = await read
      .rotate()
      .resize({ width: LONGEST_SIDE_PX, height: LONGEST_SIDE_PX, fit: "inside", withoutEnlargement: true })
      .flatten({ background: "#ffffff" })
      .jpeg({ quality: 85 })
      .toBuffer({ resolveWithObject: true });
    return { bytes: data, type: "image/jpeg", widthPx: info.width, heightPx: info.height };
  } catch (error) {
    if (error instanceof Refused) throw error;
    const tooLarge = error instanceof Error && /pixel limit/i.test(error.message);
    throw refuse(tooLarge ? "it has more than 120 million pixels" : "it is broken, or no picture at all");
  }
}

/** The photo of a path's id; a 404 with a sentence if the run has none such. */
export function photoOf(run: Run, id: number): Photo {
  const photo = photos.get(id);
  if (photo?.runId !== run.id) throw missing(`Run ${run.id} has no photo ${id}.`);
  return photo;
}
