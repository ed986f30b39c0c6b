// What waits to be sent, kept in the browser until the server has said yes or no.
import { Offline, SignedOut, speaksFor } from "../api/client";
import { Box } from "../offline/box.svelte";
import type { Versions, Waiting } from "./changes";

const RETRY_MS = 3000;

type Sends = {
  send: (next: Waiting) => Promise<void>;
  /** The server cannot be reached: it will be tried again. */
  offline: () => void;
  /** The server said no. Says whether what waits behind it waits for a person. */
  refused: (error: unknown, next: Waiting) => boolean;
};

export class Queue {
  readonly #box: Box<Waiting>;
  sending = false;

  constructor(
    readonly name: string,
    readonly how: Sends,
  ) {
    this.#box = new Box(name, "relaxed");
  }

  get waiting(): Waiting[] {
    return this.#box.waiting;
  }
  /** What this person left here before is sent first. */
  async open(person: string) {
    await this.#box.open(person);
    if (this.waiting.length) void this.flush();
  }
  add(one: Waiting) {
    return this.#box.add(one);
  }

  /** What waits behind the one that was sent has seen what became of it, after a reload too. */
  async see(since: (seen: Versions) => Versions) {
    for (const later of this.waiting.slice(1)) {
      const before = $state.snapshot(later.seen) as Versions;
      const seen = since(before);
      if (JSON.stringify(seen) !== JSON.stringify(before)) await this.#box.change(later.key, { seen });
    }
  }

  /** Send all of it, one after the other, while its person is the one whom this page asks for. */
  async flush() {
    if (this.sending) return;
    this.sending = true;
    try {
      while (this.waiting.length && speaksFor(this.#box.person)) {
        const next = $state.snapshot(this.waiting[0]!) as Waiting;
        try {
          await this.how.send(next);
          await this.#box.drop(next.key);
        } catch (error) {
          if (error instanceof Offline) {
            this.how.offline();
            if (!(error instanceof SignedOut)) window.setTimeout(() => void this.flush(), RETRY_MS);
            return;
          }
          await this.#box.drop(next.key);
          if (this.how.refused(error, next)) return;
        }
      }
    } finally {
      this.sending = false;
    }
  }
}
