// Several photographs of one pose as one: their mean, code by code, rounded once.
export const AVERAGED = [
  ["1", "1"],
  ["4", "4"],
  ["8", "8"],
  ["16", "16"],
] as const;

/** The mean of rows of codes (red, green, blue, how opaque), each as long as the first. */
export function meanOf(rows: readonly Uint8ClampedArray[]): Uint8ClampedArray<ArrayBuffer> {
  const mean = new Uint8ClampedArray(rows[0]!.length);
  for (let i = 0; i < mean.length; i++) {
    let sum = 0;
    for (const row of rows) sum += row[i]!;
    mean[i] = sum / rows.length; // a clamped array rounds
  }
  return mean;
}

/** One photograph of several of one size. */
export async function averageOf(pictures: readonly Blob[], quality: number): Promise<Blob | null> {
  const rows: Uint8ClampedArray[] = [];
  const canvas = document.createElement("canvas");
  const on = canvas.getContext("2d", { willReadFrequently: true })!;
  for (const one of pictures) {
    const picture = await createImageBitmap(one);
    canvas.width = picture.width;
    canvas.height = picture.height;
    on.drawImage(picture, 0, 0);
    rows.push(on.getImageData(0, 0, canvas.width, canvas.height).data);
    picture.close();
  }
  on.putImageData(new ImageData(meanOf(rows), canvas.width, canvas.height), 0, 0);
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", quality));
}

/** So many pictures of a camera as one, `waits` between them; null where it shows nothing. */
export async function averaged(
  count: number,
  picture: () => Promise<Blob | null>,
  waits: () => Promise<void>,
  quality: number,
): Promise<Blob | null> {
  if (count === 1) return picture();
  const pictures: Blob[] = [];
  for (let i = 0; i < count; i++) {
    const one = await picture();
    if (!one) return null;
    pictures.push(one);
    await waits();
  }
  return averageOf(pictures, quality);
}
