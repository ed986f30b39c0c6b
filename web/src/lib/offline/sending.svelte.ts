// Writes that wait to be sent, one after the other. They are kept on the device until the server has said
// yes; each has a key, so none is done twice, and a person, so none is sent in another's name.
import { Offline, Refused, SignedOut, speaksFor, writeKey } from "../api/client";
import { Box } from "./box.svelte";
import { reach } from "./reach.svelte";

const RETRY_MS = 4000;
/** A server that has not said yes by then may have done it: it is asked again, under the same key. */
const PATIENCE_MS = 20_000;
/** One that the server breaks at keeps back those of its layer, for their order; not for ever. */
const TRIES = 5;
/** Whether what was asked is not refused for what it says: the server was busy, or broke. */
const passes = (status: number) => status >= 500 || status === 429 || status === 408;

export type Sent = { key: string; layer: number; problem?: string };
type How<T, A> = {
  /** What the box is called on the device. */
  name: string;
  send: (one: T, signal: AbortSignal) => Promise<A>;
  /** Before it is dropped here: broken off after that, it is sent and answered once more. */
  arrived?: (one: T, answer: A) => Promise<unknown>;
  /** One that was refused is sent in another's place. */
  replaced?: (mended: string, key: string) => Promise<unknown>;
  /** Whether it may go yet. */
  ready?: (one: T) => boolean;
};

export class Sending<T extends Sent, A> {
  readonly box: Box<T>;
  #sending = false;
  /** How often there was no answer for one. */
  #tried: Record<string, number> = {};
  #retry = 0;
  #sent: ((answer: A) => void) | null = null;

  constructor(readonly how: How<T, A>) {
    this.box = new Box<T>(how.name);
    window.addEventListener("online", () => void this.send());
    reach.onback(() => void this.send());
    window.addEventListener("beforeunload", (event) => {
      if (this.box.unkept.length) event.preventDefault();
    });
  }

  get waiting(): T[] {
    return this.box.waiting;
  }

  /** Somebody has signed in: what they left here is sent. */
  async begin(person: string) {
    await this.box.open(person);
    void this.send();
  }
  onsent(told: (answer: A) => void) {
    this.#sent = told;
  }

  /** Keep one and send it; `mended` is the one that the server refused and that this one replaces. */
  async add(one: Omit<T, "key" | "problem">, mended?: string) {
    await this.#stored(one, mended);
    return this.send();
  }
  /** Keep one on this device; it is sent while others come. */
  async keep(one: Omit<T, "key" | "problem">) {
    await this.#stored(one);
    void this.send();
  }
  async #stored(one: Omit<T, "key" | "problem">, mended?: string) {
    const key = writeKey();
    await this.box.add({ key, ...one } as T);
    if (mended) {
      await this.how.replaced?.(mended, key);
      await this.box.drop(mended);
    }
  }

  /** Whether something is under way right now. */
  get sending(): boolean {
    return this.#sending;
  }
  async send() {
    if (this.#sending || !this.box.person) return;
    this.#sending = true;
    const person = this.box.person;
    const later: T[] = []; // no answer for these now
    try {
      // What is added while another is under way is sent too.
      for (let next = this.#next(later); next; next = this.#next(later)) {
        if (person !== this.box.person || !speaksFor(person)) return;
        try {
          const answer = await this.how.send(next, AbortSignal.timeout(PATIENCE_MS));
          delete this.#tried[next.key];
          await this.how.arrived?.(next, answer);
          this.#sent?.(answer); // before it leaves the device: it is never in neither place
          await this.box.drop(next.key);
        } catch (error) {
          if (error instanceof SignedOut) return;
          if (error instanceof Offline) {
            this.#again();
            return;
          }
          if (!(error instanceof Refused)) throw error;
          if (passes(error.status)) {
            this.#tried[next.key] = (this.#tried[next.key] ?? 0) + 1;
            later.push(next);
          } else await this.box.change(next.key, { problem: error.message } as Partial<T>);
        }
      }
      if (later.length) this.#again();
    } finally {
      this.#sending = false;
      if (person !== this.box.person) void this.send();
    }
  }
  /** The next that may go: behind none of its layer that the server had no answer for. */
  #next(later: T[]) {
    const held = later.filter((one) => this.#tried[one.key]! < TRIES).map((one) => one.layer);
    return this.box.waiting.find(
      (one) =>
        !one.problem &&
        (this.how.ready?.(one) ?? true) &&
        !held.includes(one.layer) &&
        !later.some((other) => other.key === one.key),
    );
  }
  #again() {
    window.clearTimeout(this.#retry);
    this.#retry = window.setTimeout(() => void this.send(), RETRY_MS);
  }
}
