// A photograph as it is kept: made smaller on the device, so that many fit there and few bytes are sent.
const LONGEST_PX = 1920; // what the server keeps of it
const QUALITY = 0.88;

/** The photograph not larger than it is kept, upright; as it came where the browser cannot open it. */
export async function smaller(file: Blob): Promise<Blob> {
  try {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const share = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(picture.width * share);
    canvas.height = Math.round(picture.height * share);
    canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
    return made ?? file;
  } catch {
    return file; // the server says what is wrong with it
  }
}
