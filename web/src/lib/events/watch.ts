// Whether somebody else has changed a shot: told as it happens, asked every few seconds where nothing is
// told.
import { byAnother, stream } from "./told.svelte";

const WATCH_MS = 4000;

export class Watch {
  #deaf: () => void;
  #asking: number;
  #unlooked = false;

  /**
   * `look` says whether it looked: where a hand is on something it does not, and is asked again. `lost`: the
   * server was away.
   */
  constructor(
    shot: number,
    readonly look: () => boolean,
    lost: () => boolean,
  ) {
    this.#deaf = stream.listen((told) => {
      if (byAnother(told) && (told.missed || told.shot === shot || told.shot === null)) this.#look();
    });
    this.#asking = window.setInterval(() => {
      if (!stream.heard || this.#unlooked || lost()) this.#look();
    }, WATCH_MS);
  }
  #look() {
    this.#unlooked = !this.look();
  }
  close() {
    this.#deaf();
    window.clearInterval(this.#asking);
  }
}
