/** What is done with photos: checked, made smaller, freed of everything but the picture itself. */
import sharp from "sharp";
import { firstPlace, Photo, Side } from "@/core/reading/photo";
import type { Run } from "@/core/trials/run";
import { photos } from "../db/photos";
import { needRoom } from "../db/room";
import { missing, Refused } from "../refused";

// What the library keeps of one picture is no use to the next, and is much.
sharp.cache(false);

export const MOST_PHOTO_BYTES = 25_000_000;
const MOST_PHOTOS = 40;
/** As large as a piece needs to be to be marked by eye. */
const LONGEST_SIDE_PX = 2000;
/** A picture of more than this is no photo: it would fill the memory when it is unpacked. */
const MOST_PIXELS = 120_000_000;
const known = { jpeg: "JPEG", png: "PNG", webp: "WebP" };

/** Stores a photo of a run; refused with a sentence if the bytes are no picture that can be read whole. */
export async function addPhoto(run: Run, side: Side, bytes: Uint8Array): Promise<Photo> {
  needRoom(bytes.length);
  refuseMany(run);
  const picture = await oneAtATime(() => readyPicture(bytes));
  // Others came in while it was made ready.
  refuseMany(run);
  return photos.add(run.id, side, picture, firstPlace(picture));
}

function refuseMany(run: Run): void {
  if (photos.ofRun(run.id).length < MOST_PHOTOS) return;
  throw new Refused("too-large", `A piece has at most ${MOST_PHOTOS} photos. Remove one first.`);
}

// An unpacked picture takes hundreds of megabytes: one is open at a time. Route handlers are loaded apart from one another.
const shared = globalThis as { cucharaPhoto?: Promise<unknown>; cucharaPhotosWaiting?: number };
/** Photos that may wait for their turn; each holds its bytes. */
const MOST_WAITING = 40;

async function oneAtATime<T>(act: () => Promise<T>): Promise<T> {
  const waiting = shared.cucharaPhotosWaiting ?? 0;
  if (waiting >= MOST_WAITING) throw new Refused("busy", "Many photos are being taken in. Try again in a moment.");
  shared.cucharaPhotosWaiting = waiting + 1;
  const turn = (shared.cucharaPhoto ?? Promise.resolve()).then(act, act);
  shared.cucharaPhoto = turn.catch(() => undefined);
  try {
    return await turn;
  } finally {
    shared.cucharaPhotosWaiting = (shared.cucharaPhotosWaiting ?? 1) - 1;
  }
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
