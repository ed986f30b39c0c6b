// Recordings beside the sheet and beneath the picture: the live plate, a stand-in's performance, each at the
// frame of the shot that is looked at.
import type { Schemas } from "../../lib/api/client";

export type Clip = Schemas["SheetClipOut"];
export const proxyOf = (clip: Clip) => `/api/recordings/${clip.recording_id}/proxy`;
export const stripOf = (clip: Clip) => `/api/recordings/${clip.recording_id}/strip`;

const ROUNDS = 1e-6;
const OF_A_FRAME = 0.01;

/** The frame of a recording, from 0, at a frame of the shot, from 1; its last where it is over. */
export function frameAt(clip: Clip, frame: number, rate: number): number {
  const gone = Math.floor(((frame - 1) * clip.rate_fps) / rate + ROUNDS);
  return Math.min(Math.max(clip.first_frame - 1 + gone, 0), Math.max(clip.frames - 1, 0));
}

/** Where a picture of its strip begins, shares of the strip, for a frame of the recording. */
export function pictureOfStrip(clip: Clip, frame: number): { at: number; of: number } {
  const of = Math.max(1, Math.ceil(clip.frames / clip.strip_every));
  return { at: Math.min(Math.floor(frame / clip.strip_every), of - 1), of };
}

/** A film that follows the frame that is wanted, one seek at a time. */
export class Film {
  #wanted = 0;
  readonly #stops = new AbortController();

  constructor(
    readonly video: HTMLVideoElement,
    came: () => void,
  ) {
    const { signal } = this.#stops;
    video.muted = video.playsInline = true;
    video.preload = "auto";
    const sought = () => {
      came();
      this.#seek();
    };
    for (const name of ["seeked", "loadeddata"]) video.addEventListener(name, sought, { signal });
  }
  /** Go to the middle of a frame of it. */
  go(frame: number, rate: number) {
    this.#wanted = (frame + 0.5) / rate;
    this.#seek(OF_A_FRAME / rate);
  }
  close() {
    this.#stops.abort();
    this.video.removeAttribute("src");
    this.video.load();
  }
  #seek(near = 0) {
    if (this.video.seeking || !this.video.readyState) return;
    if (Math.abs(this.video.currentTime - this.#wanted) > near + ROUNDS)
      this.video.currentTime = this.#wanted;
  }
}

export class Clips {
  /** The frame of the shot that is looked at. */
  frame = $state(1);
  /** The live plate is seen beneath. */
  beneath = $state(false);
  /** What is animated is added to it, as fire on black is; else it is mixed. */
  adds = $state(false);
  amount = $state(0.6);
  /** Counts up when a frame of the plate has come. */
  came = $state(0);
  #plate: { film: Film; clip: Clip } | null = null;
  #rate = 0;

  /** The plate, ready to be drawn. */
  get plate(): HTMLVideoElement | null {
    const video = this.#plate?.film.video;
    return this.beneath && video && video.readyState > 1 ? video : null;
  }
  lay(clip: Clip | null) {
    if (this.#plate?.clip.recording_id !== clip?.recording_id || !clip) {
      this.#plate?.film.close();
      this.#plate = null;
    }
    if (!clip) return;
    if (this.#plate) this.#plate.clip = clip;
    else {
      const film = new Film(document.createElement("video"), () => this.came++);
      film.video.src = proxyOf(clip);
      this.#plate = { film, clip };
    }
    if (this.#rate) this.go(this.frame, this.#rate); // it may begin elsewhere now
  }
  go(frame: number, rate: number) {
    this.frame = frame;
    this.#rate = rate;
    if (this.#plate && this.beneath)
      this.#plate.film.go(frameAt(this.#plate.clip, frame, rate), this.#plate.clip.rate_fps);
  }
  close() {
    this.lay(null);
  }
}
