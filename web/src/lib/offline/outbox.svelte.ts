// Takes that wait to be sent. They are kept on the phone until the server has said yes; each has a key, so
// none is logged twice, and a person, so none is sent in another's name.
import {
  answered,
  client,
  Offline,
  Refused,
  SignedOut,
  speaksFor,
  writeKey,
  type Schemas,
  type Verdict,
} from "../api/client";
import { Box } from "./box.svelte";
import { reach } from "./reach.svelte";

const RETRY_MS = 4000;
/** A server that has not said yes by then may have done it: it is asked again, under the same key. */
const PATIENCE_MS = 20_000;
/** One that the server breaks at keeps back those of its layer, for their order; not for ever. */
const TRIES = 5;
/** Whether what was asked is not refused for what it says: the server was busy, or broke. */
const passes = (status: number) => status >= 500 || status === 429 || status === 408;

export type Kept = {
  key: string;
  layer: number;
  shot: number;
  name: string;
  body: Schemas["TakeIn"];
  /** Of its shot, and which take of the layer it is here: the server numbers it when it comes. */
  code?: string;
  number?: number;
  /** What it would be given, as far as it was worked out before. */
  told?: { verdict: Verdict; sure: string } | null;
  problem?: string;
};

class Outbox {
  readonly box = new Box<Kept>("takes");
  #sending = false;
  /** How often there was no answer for one. */
  #tried: Record<string, number> = {};
  #retry = 0;
  #sent: ((take: Schemas["TakeOut"]) => void) | null = null;

  constructor() {
    window.addEventListener("online", () => void this.send());
    reach.onback(() => void this.send());
    window.addEventListener("beforeunload", (event) => {
      if (this.box.unkept.length) event.preventDefault();
    });
  }

  get waiting(): Kept[] {
    return this.box.waiting;
  }

  /** Somebody has signed in: what they left here is sent. */
  async begin(person: string) {
    await this.box.open(person);
    void this.send();
  }
  onsent(told: (take: Schemas["TakeOut"]) => void) {
    this.#sent = told;
  }

  /** Keep one and send it; `mended` is the one that the server refused and that this one replaces. */
  async add(take: Omit<Kept, "key" | "problem">, mended?: string) {
    await this.box.add({ key: writeKey(), ...take });
    if (mended) await this.box.drop(mended);
    return this.send();
  }

  async send() {
    if (this.#sending || !this.box.person) return;
    this.#sending = true;
    const person = this.box.person;
    const later: Kept[] = []; // no answer for these now
    try {
      // What is added while another is under way is sent too.
      for (let next = this.#next(later); next; next = this.#next(later)) {
        if (person !== this.box.person || !speaksFor(person)) return;
        try {
          const take = await answered(
            client.POST("/api/layers/{layer_id}/takes", {
              params: { path: { layer_id: next.layer } },
              headers: { "Idempotency-Key": next.key },
              body: $state.snapshot(next.body) as Schemas["TakeIn"],
              signal: AbortSignal.timeout(PATIENCE_MS),
            }),
          );
          delete this.#tried[next.key];
          await this.box.drop(next.key);
          this.#sent?.(take);
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
          } else await this.box.change(next.key, { problem: error.message });
        }
      }
      if (later.length) this.#again();
    } finally {
      this.#sending = false;
      if (person !== this.box.person) void this.send();
    }
  }
  /** The next that may go: behind none of its layer that the server had no answer for. */
  #next(later: Kept[]) {
    const held = later.filter((one) => this.#tried[one.key]! < TRIES).map((one) => one.layer);
    return this.box.waiting.find(
      (one) => !one.problem && !held.includes(one.layer) && !later.some((other) => other.key === one.key),
    );
  }
  #again() {
    window.clearTimeout(this.#retry);
    this.#retry = window.setTimeout(() => void this.send(), RETRY_MS);
  }
}

export const outbox = new Outbox();
