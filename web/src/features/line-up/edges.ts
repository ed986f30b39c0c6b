// The edges of a picture as white on nothing, drawn once: a filter would be worked out anew for every live
// picture under it.
const WIDE_PX = 960;
const STRENGTH = 5;
const GREY = [0.21, 0.72, 0.07] as const;
const OF_A_PIXEL = 4; // bytes

/**
 * The address of a picture of the edges of another, "" where that cannot be read; whoever asks lets it go
 * (`URL.revokeObjectURL`).
 */
export async function edgesOf(url: string): Promise<string> {
  const image = new Image();
  image.src = url;
  try {
    await image.decode();
  } catch {
    return "";
  }
  const canvas = document.createElement("canvas");
  canvas.width = Math.min(WIDE_PX, image.naturalWidth);
  canvas.height = Math.round((canvas.width * image.naturalHeight) / image.naturalWidth);
  const drawn = canvas.getContext("2d", { willReadFrequently: true })!;
  drawn.drawImage(image, 0, 0, canvas.width, canvas.height);
  const picture = drawn.getImageData(0, 0, canvas.width, canvas.height);
  whiten(picture.data, edges(greys(picture.data), canvas.width, canvas.height));
  drawn.putImageData(picture, 0, 0);
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done));
  return blob ? URL.createObjectURL(blob) : "";
}

function greys(pixels: Uint8ClampedArray): Float32Array {
  const grey = new Float32Array(pixels.length / OF_A_PIXEL);
  for (let i = 0; i < grey.length; i++)
    grey[i] = GREY.reduce((sum, share, plane) => sum + share * pixels[OF_A_PIXEL * i + plane]!, 0);
  return grey;
}
/** How steep a picture is at every pixel, by the differences over two pixels across and down. */
export function edges(grey: Float32Array, width: number, height: number): Float32Array {
  const steep = new Float32Array(grey.length);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      steep[i] = Math.hypot(grey[i + 1]! - grey[i - 1]!, grey[i + width]! - grey[i - width]!);
    }
  return steep;
}
function whiten(pixels: Uint8ClampedArray, steep: Float32Array) {
  for (let i = 0; i < steep.length; i++) {
    pixels.fill(255, OF_A_PIXEL * i, OF_A_PIXEL * i + 3);
    pixels[OF_A_PIXEL * i + 3] = STRENGTH * steep[i]!;
  }
}
