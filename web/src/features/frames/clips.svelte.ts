// Recordings beside the sheet, beneath the picture and over it: the live plate, a stand-in's performance, the
// shot's other layers, each at the frame of the shot that is looked at.
import type { Schemas } from "../../lib/api/client";

export type Clip = Schemas["SheetClipOut"];
/** What of a recording tells which of its frames is seen. */
export type Filmed = Pick<Clip, "recording_id" | "first_frame" | "frames" | "rate_fps">;
type Beside = { layer_id: number; clip: Filmed | null };
export const proxyOf = (clip: Filmed) => `/api/recordings/${clip.recording_id}/proxy`;
export const stripOf = (clip: Clip) => `/api/recordings/${clip.recording_id}/strip`;

const ROUNDS = 1e-6;
const OF_A_FRAME = 0.01;

/** The frame of a recording, from 0, at a frame of the shot, from 1; its last where it is over. */
export function frameAt(clip: Filmed, frame: number, rate: number): number {
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

/** A film that lies somewhere, at the frame of the shot that is looked at. */
type Lying = { film: Film; clip: Filmed };
const READY = 1; // a video's own word for: not a frame of it yet

export class Clips {
  /** The frame of the shot that is looked at. */
  frame = $state(1);
  /** The live plate is seen beneath. */
  beneath = $state(false);
  /** Which other layers of the shot are seen. */
  seen = $state<Record<number, boolean>>({});
  /** How what is animated is laid over what is beneath it. */
  how = $state<"mixed" | "added" | "keyed">("mixed");
  amount = $state(0.6);
  /** It is to be keyed, and no sheet is seen in it. */
  noSheet = $state(false);
  /** Counts up when a frame of a film has come. */
  came = $state(0);
  #plate: Lying | null = null;
  #others: Record<number, Lying> = {};
  #rate = 0;

  /** The plate, ready to be drawn. */
  get plate(): HTMLVideoElement | null {
    return this.beneath ? ready(this.#plate) : null;
  }
  /** The film of another layer, ready to be drawn. */
  filmOf(layer: number): HTMLVideoElement | null {
    return this.seen[layer] ? ready(this.#others[layer] ?? null) : null;
  }
  lay(plate: Filmed | null, others: readonly Beside[] = []) {
    this.#plate = this.#lying(this.#plate, plate);
    const before = this.#others;
    this.#others = {};
    for (const one of others) {
      if (!this.seen[one.layer_id]) continue; // nothing is fetched that is not looked at
      const { [one.layer_id]: was = null } = before;
      delete before[one.layer_id];
      const lies = this.#lying(was, one.clip);
      if (lies) this.#others[one.layer_id] = lies;
    }
    for (const gone of Object.values(before)) gone.film.close();
    if (this.#rate) this.go(this.frame, this.#rate); // it may begin elsewhere now
  }
  #lying(was: Lying | null, clip: Filmed | null): Lying | null {
    if (was && was.clip.recording_id === clip?.recording_id) return { film: was.film, clip };
    was?.film.close();
    if (!clip) return null;
    const film = new Film(document.createElement("video"), () => this.came++);
    film.video.src = proxyOf(clip);
    return { film, clip };
  }
  go(frame: number, rate: number) {
    this.frame = frame;
    this.#rate = rate;
    const go = ({ film, clip }: Lying) => film.go(frameAt(clip, frame, rate), clip.rate_fps);
    if (this.#plate && this.beneath) go(this.#plate);
    for (const [layer, lies] of Object.entries(this.#others)) if (this.seen[Number(layer)]) go(lies);
  }
  close() {
    this.lay(null);
  }
}

const ready = (lies: Lying | null) => {
  const video = lies?.film.video;
  return video && video.readyState > READY ? video : null;
};
