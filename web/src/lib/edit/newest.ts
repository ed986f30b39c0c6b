// Answers may come in another order than they were asked for: an older one never takes a newer one's place.

export class Newest {
  #asked = 0;
  #came = 0;

  /** The number of what is asked now. */
  ask(): number {
    return ++this.#asked;
  }
  /** Whether an answer counts: none that was asked for later has come. */
  counts(asked: number): boolean {
    if (asked < this.#came) return false;
    this.#came = asked;
    return true;
  }
  /** What was asked for until now knows nothing of what has just happened here. */
  passed() {
    this.#came = this.#asked + 1;
  }
}
