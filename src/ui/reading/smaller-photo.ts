/** Makes a photo smaller before it leaves the page; what the camera wrote beside the picture stays behind. */

/** As large as a piece needs to be to be marked by eye. */
const LONGEST_SIDE_PX = 2000;

/** The photo as a smaller JPEG; as it is where the browser cannot read it, so that the server says what is wrong. */
export async function smallerPhoto(file: Blob): Promise<Blob> {
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    return file;
  }
  const share = Math.min(1, LONGEST_SIDE_PX / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(picture.width * share));
  canvas.height = Math.max(1, Math.round(picture.height * share));
  const context = canvas.getContext("2d");
  if (!context) return file;
  // What can be seen through comes out white, not black.
  context.fillStyle = "#ffffff";
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  return new Promise((resolve) => canvas.toBlob((blob) => resolve(blob ?? file), "image/jpeg", 0.85));
}
