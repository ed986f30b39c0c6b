// What follows from a hand: asked again and again while the hand moves, and once more when it rests. The
// server gets as long a pause as its last answer took: where it has much to do, less waits in its line, so
// that every answer is sooner there and newer.
import { Latest } from "./latest";

const REST_MS = 150; // a hand that has not moved for so long, rests
const LONGEST_PAUSE_MS = 500;

export class Moving {
  readonly #latest: Latest<boolean>;
  #rests: ReturnType<typeof setTimeout> | undefined;
  #pauseEnds = 0;

  constructor(
    /** Asked with `true` while a hand moves: what takes a search waits then. */
    work: (moving: boolean) => Promise<void>,
    room: () => Promise<void> | null,
    /** Whether the hand still holds something when it rests. */
    readonly holds: () => boolean,
  ) {
    this.#latest = new Latest<boolean>(
      async (moving) => {
        const begun = performance.now();
        await work(moving);
        const now = performance.now();
        this.#pauseEnds = now + Math.min(now - begun, LONGEST_PAUSE_MS);
        if (moving && !this.overtaken) this.#rests = setTimeout(() => this.#rest(), REST_MS);
      },
      (moving) => (moving && this.#pauseEnds > performance.now() ? this.#pause(room) : room()),
    );
  }

  get busy() {
    return this.#latest.busy;
  }
  get overtaken() {
    return this.#latest.overtaken;
  }

  ask(moving = false) {
    this.close();
    return this.#latest.ask(moving);
  }
  async #pause(room: () => Promise<void> | null) {
    await new Promise((over) => setTimeout(over, this.#pauseEnds - performance.now()));
    await room();
  }
  #rest() {
    if (this.holds()) void this.ask();
  }
  /** Nobody asks any more when a hand rests. */
  close() {
    clearTimeout(this.#rests);
  }
}
