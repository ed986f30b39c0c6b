// A slate that a camera can read: a random id for the take that is about to be filmed, kept on this device
// until that take is logged, and its code.
import qrcode from "qrcode-generator";
import { prefer, preferred } from "../../lib/offline/preferences";

/** A take that a slate was shown for: its id, and what it was called. */
export type Opened = { code: string; number: number };

/** No letter or digit that is taken for another. */
const LETTERS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ";
const VERSION = 3;
export const MODULES = 17 + 4 * VERSION;
/** What must stay white around a code, modules. */
export const QUIET = 4;
/** The code's share of the width that it is shown in. */
export const SHARE = MODULES / (MODULES + 2 * QUIET);
/** How many pixels of a page a millimetre is, where nobody has measured: telephones, and screens. */
const USUAL_PX_A_MM = { coarse: 160 / 25.4, fine: 96 / 25.4 };

export function openedOf(layer: number): Opened | null {
  try {
    return JSON.parse(preferred(`slate.${layer}`) ?? "null") as Opened | null;
  } catch {
    return null;
  }
}
/** The take that is about to be filmed gets its id, once. */
export function open(layer: number, number: number): Opened {
  const before = openedOf(layer);
  if (before) return before;
  const bytes = crypto.getRandomValues(new Uint8Array(8));
  const opened = { code: [...bytes].map((byte) => LETTERS[byte % LETTERS.length]).join(""), number };
  prefer(`slate.${layer}`, JSON.stringify(opened));
  return opened;
}
/** It is logged. */
export const close = (layer: number) => prefer(`slate.${layer}`, null);

/** What the code says, by the house's own pattern. A shot's code that makes it too long is left out. */
export function textOf(says: string, of: Opened, shot: string, layer: number): string {
  const filled = (shown: string) =>
    says
      .replace("{code}", of.code)
      .replace("{shot}", shown)
      .replace("{layer}", String(layer))
      .replace("{take}", String(of.number));
  const plain = /^[\x20-\x39\x3b-\x7e]{0,14}$/.test(shot) ? shot : "";
  return filled(plain);
}

/** The code as a path of unit squares, `MODULES` wide. */
export function drawn(text: string): string {
  const code = qrcode(VERSION, "M");
  code.addData(text, /^[0-9A-Z $%*+\-./:]*$/.test(text) ? "Alphanumeric" : "Byte");
  code.make();
  const squares = [];
  for (let row = 0; row < MODULES; row++)
    for (let column = 0; column < MODULES; column++)
      if (code.isDark(row, column)) squares.push(`M${column} ${row}h1v1h-1z`);
  return squares.join("");
}

export function pxAMm(): number {
  const measured = Number(preferred("px a mm"));
  if (measured > 0) return measured;
  return window.matchMedia("(pointer: coarse)").matches ? USUAL_PX_A_MM.coarse : USUAL_PX_A_MM.fine;
}
/** Somebody has measured something that is so many pixels wide on this screen. */
export const measured = (px: number, mm: number) => prefer("px a mm", String(px / mm));

/**
 * A clap that is heard and seen at one moment: the tone starts when `flash` is called, as far as this device
 * knows how late its loudspeaker is.
 */
export async function clap(flash: () => void) {
  const sound = new AudioContext();
  await sound.resume();
  const tone = sound.createOscillator();
  tone.frequency.value = 1000;
  tone.connect(sound.destination);
  const at = sound.currentTime + 0.1;
  tone.start(at);
  tone.stop(at + 0.1);
  window.setTimeout(flash, (at - sound.currentTime + (sound.outputLatency || sound.baseLatency)) * 1000);
  tone.onended = () => void sound.close();
}
