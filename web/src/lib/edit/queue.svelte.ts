// What waits to be sent, kept in the browser until the server has said yes or no.
import { Offline } from "../api/client";
import type { Waiting } from "./changes";

const RETRY_MS = 3000;

type Sends = {
  send: (next: Waiting) => Promise<void>;
  /** The server cannot be reached: it will be tried again. */
  offline: () => void;
  /** The server said no. Says whether what waits behind it waits for a person. */
  refused: (error: unknown, next: Waiting) => boolean;
};

export class Queue {
  waiting = $state<Waiting[]>([]);
  sending = false;

  constructor(
    readonly name: string,
    readonly how: Sends,
  ) {
    this.waiting = JSON.parse(localStorage.getItem(name) ?? "[]");
  }

  add(one: Waiting) {
    this.waiting.push(one);
    this.#keep();
  }
  #keep() {
    if (this.waiting.length) localStorage.setItem(this.name, JSON.stringify(this.waiting));
    else localStorage.removeItem(this.name);
  }
  #done() {
    this.waiting.shift();
    this.#keep();
  }

  /** Send all of it, one after the other. */
  async flush() {
    if (this.sending) return;
    this.sending = true;
    try {
      while (this.waiting.length) {
        const next = $state.snapshot(this.waiting[0]!) as Waiting;
        try {
          await this.how.send(next);
          this.#done();
        } catch (error) {
          if (error instanceof Offline) {
            this.how.offline();
            window.setTimeout(() => void this.flush(), RETRY_MS);
            return;
          }
          this.#done();
          if (this.how.refused(error, next)) return;
        }
      }
    } finally {
      this.sending = false;
    }
  }
}
