// Takes that wait to be sent. They are kept on the phone until the server has said yes; each has a key, so
// none is logged twice.
import { answered, client, Offline, Refused, writeKey, type Schemas } from "../api/client";

const STORE = "jungoptic.outbox";
const RETRY_MS = 4000;

export type Kept = {
  key: string;
  who: string;
  layer: number;
  shot: number;
  name: string;
  body: Schemas["TakeIn"];
  problem?: string;
};

class Outbox {
  waiting = $state<Kept[]>(JSON.parse(localStorage.getItem(STORE) ?? "[]"));
  offline = $state(false);
  #sending = false;
  #sent: ((take: Schemas["TakeOut"]) => void) | null = null;

  constructor() {
    window.addEventListener("online", () => void this.send());
    if (this.waiting.length) void this.send();
  }

  onsent(told: (take: Schemas["TakeOut"]) => void) {
    this.#sent = told;
  }

  #keep() {
    localStorage.setItem(STORE, JSON.stringify(this.waiting));
  }

  add(who: string, shot: number, layer: number, name: string, body: Schemas["TakeIn"]) {
    this.waiting.push({ key: writeKey(), who, shot, layer, name, body });
    this.#keep();
    return this.send();
  }

  /** Give up one that the server refused, after its values were put back on the screen. */
  drop(key: string) {
    this.waiting = this.waiting.filter((one) => one.key !== key);
    this.#keep();
  }

  async send() {
    if (this.#sending) return;
    this.#sending = true;
    try {
      for (const one of [...this.waiting]) {
        if (one.problem) continue;
        try {
          const take = await answered(
            client.POST("/api/layers/{layer_id}/takes", {
              params: { path: { layer_id: one.layer } },
              headers: { "Idempotency-Key": one.key },
              body: $state.snapshot(one.body) as Schemas["TakeIn"],
            }),
          );
          this.offline = false;
          this.drop(one.key);
          this.#sent?.(take);
        } catch (error) {
          if (error instanceof Offline) {
            this.offline = true;
            window.setTimeout(() => void this.send(), RETRY_MS);
            return;
          }
          if (!(error instanceof Refused)) throw error;
          const stays = this.waiting.find((other) => other.key === one.key);
          if (stays) stays.problem = error.message;
          this.#keep();
        }
      }
    } finally {
      this.#sending = false;
    }
  }
}

export const outbox = new Outbox();
