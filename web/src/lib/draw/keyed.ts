// A picture without its green or blue sheet, fast enough to be played: to see how it sits, not to deliver.
// What is purest of the sheet's colour is nothing, and what has no more of it than of the others stays: the
// difference of the channels, between the two, is what is seen through.
export type Sheet = "green" | "blue";

const OF_A_PIXEL = 4; // bytes
const OF_SHEET = { green: [1, 0, 2], blue: [2, 0, 1] } as const;
const LEAST = 24; // codes over the other channels: less is no sheet
const SOLID = 0.12; // of a sheet's difference that is still the subject
const CLEAR = 0.75; // of it that is nothing
const PUREST = 0.02; // share of the pixels that are purer: a sheet is large
const EVERY = 7; // of its pixels tell how pure it is

/** How much purer than the others the channel of the sheet is, codes; 0 where there is no sheet. */
export function purityOf(pixels: Uint8ClampedArray, sheet: Sheet): number {
  const counts = new Uint32Array(256);
  const [own, one, other] = OF_SHEET[sheet];
  let all = 0;
  for (let i = 0; i < pixels.length; i += OF_A_PIXEL * EVERY, all++)
    counts[Math.max(0, pixels[i + own]! - Math.max(pixels[i + one]!, pixels[i + other]!))]!++;
  let purer = 0;
  for (let code = 255; code >= LEAST; code--) {
    purer += counts[code]!;
    if (purer > PUREST * all) return code;
  }
  return 0;
}

/** Take the sheet out of pixels: alpha where it is seen through, and none of its colour on what is left. */
export function keyOut(pixels: Uint8ClampedArray, sheet: Sheet, purity: number) {
  const [own, one, other] = OF_SHEET[sheet];
  const solid = SOLID * purity;
  const range = (CLEAR - SOLID) * purity;
  for (let i = 0; i < pixels.length; i += OF_A_PIXEL) {
    const others = Math.max(pixels[i + one]!, pixels[i + other]!);
    const over = pixels[i + own]! - others;
    if (over <= 0) continue;
    pixels[i + own] = others;
    if (over > solid) pixels[i + 3] = 255 * Math.max(0, 1 - (over - solid) / range);
  }
}

/** Left, top, width, height. */
export type Four = readonly [number, number, number, number];

/** Takes sheets out of pictures, each once as long as it is kept. */
export class Keyer {
  #known = new WeakMap<ImageBitmap, HTMLCanvasElement | null>();
  #moving = document.createElement("canvas"); // what moves is drawn before the next is keyed

  /**
   * The picture, or what `of` it is shown, its own px, without its sheet, so many px wide and high; null
   * where no sheet is seen in it. What is given of a film is another once the next is asked for.
   */
  keyed(
    picture: CanvasImageSource,
    sheet: Sheet,
    [wide, high]: readonly [number, number],
    of?: Four,
  ): HTMLCanvasElement | null {
    const still = picture instanceof ImageBitmap ? picture : null;
    const kept = still && this.#known.get(still);
    if (still && kept !== undefined) return kept;
    const canvas = still ? document.createElement("canvas") : this.#moving;
    [canvas.width, canvas.height] = [wide, high];
    const on = canvas.getContext("2d", { willReadFrequently: true })!;
    if (of) on.drawImage(picture, ...of, 0, 0, wide, high);
    else on.drawImage(picture, 0, 0, wide, high);
    const seen = on.getImageData(0, 0, wide, high);
    const purity = purityOf(seen.data, sheet);
    if (purity) {
      keyOut(seen.data, sheet, purity);
      on.putImageData(seen, 0, 0);
    }
    const made = purity ? canvas : null;
    if (still) this.#known.set(still, made);
    return made;
  }
}
