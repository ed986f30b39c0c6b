// The view through the lens: coarse at once, fine when the hand rests; asked again only when the last one is
// there.
import { Offline, Refused, type Schemas } from "../api/client";
import { room } from "../draw/pace";
import { look } from "../api/shot";
import { Latest } from "./latest";

const SETTLE_MS = 350;
const COARSE_PX = 640;
const FINE_PX = 1280;
const BUSY = 429; // others are being served
const BUSY_MS = 1500;

export class LensPicture {
  /** The address of the newest picture. */
  url = $state<string | null>(null);
  #settling = 0;
  #closed = false;

  constructor(
    readonly shot: number,
    readonly wanted: () => Omit<Schemas["PictureIn"], "width_px">,
  ) {}

  async look() {
    this.rest();
    await this.#latest.ask(COARSE_PX);
    if (this.#closed) return;
    this.#settle(FINE_PX, SETTLE_MS);
  }
  #settle(width_px: number, after_ms: number) {
    if (this.#closed) return;
    this.rest();
    this.#settling = window.setTimeout(() => void this.#latest.ask(width_px), after_ms);
  }
  /** Nothing finer is asked for what was looked at last. */
  rest() {
    window.clearTimeout(this.#settling);
  }
  close() {
    this.#closed = true;
    this.rest();
    if (this.url) URL.revokeObjectURL(this.url);
    this.url = null;
  }

  readonly #latest = new Latest<number>((width_px) => this.#draw(width_px), room);

  async #draw(width_px: number) {
    if (this.#closed) return;
    try {
      const seen = await look(this.shot, { ...this.wanted(), width_px } as Schemas["PictureIn"]);
      if (this.#closed) return; // nobody would put its address away again
      if (this.url) URL.revokeObjectURL(this.url);
      this.url = URL.createObjectURL(seen);
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      if (error instanceof Refused && error.status === BUSY) this.#settle(width_px, BUSY_MS);
    }
  }
}
