/** Photos: laid on the height axis by a similarity, and stored as pictures alone. */
import sharp from "sharp";
import { firstPlace, layMatrix, Pixel } from "@/core/reading/photo";
import { photoPlaceSchema } from "@/core/reading/photo-schema";

/** x' = a·x + c·y + e, y' = b·x + d·y + f (CSS Transforms Module Level 1, W3C, section 12). */
const apply = ([a, b, c, d, e, f]: number[], [x, y]: Pixel): Pixel => [a * x + c * y + e, b * x + d * y + f];

test("bottom and top of the piece come to their heights, whatever way the photo was held; angles and shares stay", () => {
  const place = { bottom: [310, 700] as Pixel, top: [420, 130] as Pixel };
  const matrix = layMatrix(place, { x: 100, bottom: 400, top: 20 });
  const near = ([x, y]: Pixel, to: Pixel) => {
    expect(x).toBeCloseTo(to[0], 6);
    expect(y).toBeCloseTo(to[1], 6);
  };
  near(apply(matrix, place.bottom), [100, 400]);
  near(apply(matrix, place.top), [100, 20]);
  const middle: Pixel = [(310 + 420) / 2, (700 + 130) / 2];
  near(apply(matrix, middle), [100, 210]);
  // A turn and a scale: the two columns stand upright on one another, are equally long, and nothing is mirrored.
  const [a, b, c, d] = matrix;
  expect(a * c + b * d).toBeCloseTo(0, 9);
  expect(Math.hypot(a, b)).toBeCloseTo(Math.hypot(c, d), 9);
  expect(a * d - b * c).toBeGreaterThan(0);
});

test("an upright photo is neither turned nor mirrored", () => {
  const matrix = layMatrix({ bottom: [50, 200], top: [50, 0] }, { x: 50, bottom: 200, top: 0 });
  matrix.forEach((one, i) => expect(one).toBeCloseTo([1, 0, 0, 1, 0, 0][i], 9));
});

test("two edges in one place are refused with a sentence beside the field", () => {
  const parsed = photoPlaceSchema.safeParse({ bottom: [10, 10], top: [12, 10] });
  expect(parsed.error?.issues[0]).toMatchObject({ path: ["top"], message: expect.stringContaining("move them apart") });
  expect(photoPlaceSchema.safeParse(firstPlace({ widthPx: 800, heightPx: 600 })).success).toBe(true);
});

test("the library that stores photos keeps nothing of what a camera writes beside the picture", async () => {
  const withPlace = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#c08040" } })
    .withExif({ IFD0: { Make: "Madeup" }, IFD3: { GPSLatitudeRef: "N", GPSLatitude: "51/1 30/1 0/1" } })
    .jpeg()
    .toBuffer();
  expect((await sharp(withPlace).metadata()).exif).toBeDefined();
  const stored = await sharp(withPlace).rotate().jpeg().toBuffer();
  expect((await sharp(stored).metadata()).exif).toBeUndefined();
});
