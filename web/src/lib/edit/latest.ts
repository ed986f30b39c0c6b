// Asked as often as it answers: while one is under way only the newest waits behind it.

export class Latest<T = void> {
  #asking = false;
  #next: { wanted: T } | null = null;

  constructor(readonly work: (wanted: T) => Promise<void>) {}

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
      await this.work(wanted);
    } finally {
      this.#asking = false;
      const next = this.#next;
      this.#next = null;
      if (next) void this.ask(next.wanted);
    }
  }
}
