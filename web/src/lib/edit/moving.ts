// What follows from a hand: asked as often as it answers while the hand moves, and once more when it rests.
import { Latest } from "./latest";

const REST_MS = 150; // a hand that has not moved for so long, rests

export class Moving {
  readonly #latest: Latest<boolean>;
  #rests: ReturnType<typeof setTimeout> | undefined;

  constructor(
    /** Asked with `true` while a hand moves: what takes a search waits then. */
    work: (moving: boolean) => Promise<void>,
    room: () => Promise<void> | null,
    /** Whether the hand still holds something when it rests. */
    readonly holds: () => boolean,
  ) {
    this.#latest = new Latest<boolean>(async (moving) => {
      await work(moving);
      if (moving && !this.overtaken) this.#rests = setTimeout(() => this.#rest(), REST_MS);
    }, room);
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
  #rest() {
    if (this.holds()) void this.ask();
  }
  /** Nobody asks any more when a hand rests. */
  close() {
    clearTimeout(this.#rests);
  }
}
