// Asked as often as it answers, and no oftener than there is room for: while one is under way only the newest
// waits behind it.

export class Latest<T = void> {
  #asking = false;
  #next: { wanted: T } | null = null;

  constructor(
    readonly work: (wanted: T) => Promise<void>,
    /** What is waited for before something is asked; null where nothing is. */
    readonly room: (wanted: T) => Promise<void> | null = () => null,
  ) {}

  get busy() {
    return this.#asking;
  }
  /** Whether something newer waits already. */
  get overtaken() {
    return this.#next !== null;
  }

  async ask(wanted: T): Promise<void> {
    if (this.#asking) {
      this.#next = { wanted };
      return;
    }
    this.#asking = true;
    try {
      const room = this.room(wanted);
      if (room) {
        await room;
        wanted = this.#next?.wanted ?? wanted;
        this.#next = null;
      }
      await this.work(wanted);
    } finally {
      this.#asking = false;
      const next = this.#next;
      this.#next = null;
      if (next) void this.ask(next.wanted);
    }
  }
}
