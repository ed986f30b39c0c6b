// Whether the server can be reached: one answer for the whole page, told by whatever asks it.
const LOOK_AGAIN_MS = 4000;
/** A server that has not answered by then is not there. */
const PATIENCE_MS = 3000;

class Reach {
  away = $state(false);
  /** When it was missed first. */
  since = $state(0);
  /** When the oldest of what the page shows in its stead was read; 0 while nothing is. */
  asOf = $state(0);
  #looking = 0;
  #back = new Set<() => void>();

  constructor() {
    window.addEventListener("online", () => void this.#look());
  }

  /** It did not answer: look for it until it does. */
  missed() {
    if (!this.away) {
      this.away = true;
      this.since = Date.now();
    }
    this.#looking ||= window.setTimeout(() => void this.#look(), LOOK_AGAIN_MS);
  }
  /** Something that was read at `at` is shown in place of its answer. */
  shows(at: number) {
    this.asOf = this.asOf ? Math.min(this.asOf, at) : at;
  }
  answered() {
    window.clearTimeout(this.#looking);
    this.#looking = 0;
    if (!this.away) return;
    this.away = false;
    this.asOf = 0;
    for (const told of this.#back) told();
  }
  /** Called when it is back; returns how to stop that. */
  onback(told: () => void): () => void {
    this.#back.add(told);
    return () => this.#back.delete(told);
  }

  async #look() {
    if (!this.away) return;
    this.#looking = 0;
    try {
      const answer = await fetch(new Request(new URL("/health/ready", window.location.origin)), {
        signal: AbortSignal.timeout(PATIENCE_MS),
        cache: "no-store",
      });
      if (answer.ok) return this.answered();
    } catch {
      // still away
    }
    this.missed();
  }
}

export const reach = new Reach();
