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
} from "../api/client";
import { Box } from "./box.svelte";

const RETRY_MS = 4000;
/** Whether what was asked is not refused for what it says: the server was busy, or broke. */
const passes = (status: number) => status >= 500 || status === 429 || status === 408;

export type Kept = {
  key: string;
  layer: number;
  shot: number;
  name: string;
  body: Schemas["TakeIn"];
  problem?: string;
};

class Outbox {
  readonly box = new Box<Kept>("takes");
  offline = $state(false);
  #sending = false;
  #retry = 0;
  #sent: ((take: Schemas["TakeOut"]) => void) | null = null;

  constructor() {
    window.addEventListener("online", () => void this.send());
    window.addEventListener("beforeunload", (event) => {
      if (this.box.unkept.length) event.preventDefault();
    });
  }

  get waiting(): Kept[] {
    return this.box.waiting;
  }

  /** Somebody has signed in: what they left here is sent. */
  async begin(person: string) {
    this.offline = false;
    await this.box.open(person);
    void this.send();
  }
  onsent(told: (take: Schemas["TakeOut"]) => void) {
    this.#sent = told;
  }

  /** Keep one and send it; `mended` is the one that the server refused and that this one replaces. */
  async add(shot: number, layer: number, name: string, body: Schemas["TakeIn"], mended?: string) {
    await this.box.add({ key: writeKey(), shot, layer, name, body });
    if (mended) await this.box.drop(mended);
    return this.send();
  }

  async send() {
    if (this.#sending || !this.box.person) return;
    this.#sending = true;
    const person = this.box.person;
    const later: string[] = []; // no answer for these now; they keep nothing back that stands behind them
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
            }),
          );
          this.offline = false;
          await this.box.drop(next.key);
          this.#sent?.(take);
        } catch (error) {
          if (error instanceof SignedOut) return;
          if (error instanceof Offline) {
            this.offline = true;
            this.#again();
            return;
          }
          if (!(error instanceof Refused)) throw error;
          if (passes(error.status)) later.push(next.key);
          else await this.box.change(next.key, { problem: error.message });
        }
      }
      if (later.length) this.#again();
    } finally {
      this.#sending = false;
      if (person !== this.box.person) void this.send();
    }
  }
  #next(later: string[]) {
    return this.box.waiting.find((one) => !one.problem && !later.includes(one.key));
  }
  #again() {
    window.clearTimeout(this.#retry);
    this.#retry = window.setTimeout(() => void this.send(), RETRY_MS);
  }
}

export const outbox = new Outbox();
