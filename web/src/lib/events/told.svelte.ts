// What happens in the production that is open, told by the server as it happens. Where it is not heard,
// whoever needs it asks.
import { onDestroy } from "svelte";
import { reach } from "../offline/reach.svelte";
import { keyNumber, Offline, Refused, type Schemas } from "../api/client";

/**
 * A write by somebody (of a shot, or of the whole production), a job that moves on, or that something may
 * have been missed.
 */
export type Told = {
  shot?: number | null;
  write?: number;
  key?: string;
  job?: number;
  state?: Schemas["JobOut"]["state"];
  progress?: number;
  missed?: true;
};
type Hears = (told: Told) => void;

// after the server has closed the line; a line that broke is taken up by the browser itself
const AGAIN_MS = 10_000;
const GATHERED_MS = 150; // what is told in one go is read once

class Stream {
  /** Whether what happens is heard. */
  heard = $state(false);
  #source: EventSource | null = null;
  #address = "";
  #again = 0;
  #hearing = new Set<Hears>();

  /** Listen to this production, and to no other. */
  follow(events: string | null, production: number | null) {
    const address = events && production ? `${events}/events/${production}` : "";
    if (address === this.#address) return;
    this.#address = address;
    this.#open();
  }
  listen(hears: Hears): () => void {
    this.#hearing.add(hears);
    return () => this.#hearing.delete(hears);
  }

  #open() {
    window.clearTimeout(this.#again);
    this.#source?.close();
    this.heard = false;
    if (!this.#address) return;
    const source = new EventSource(this.#address, { withCredentials: true });
    this.#source = source;
    source.addEventListener("listening", () => {
      this.heard = true;
      this.#tell({ missed: true }); // between what the page read and now, or while the line was broken
    });
    source.onmessage = (message) => this.#tell(JSON.parse(message.data as string) as Told);
    source.onerror = () => {
      this.heard = false;
      if (source.readyState === EventSource.CLOSED)
        this.#again = window.setTimeout(() => this.#open(), AGAIN_MS);
    };
  }
  #tell(told: Told) {
    for (const hears of this.#hearing) hears(told);
  }
}

export const stream = new Stream();

/** Whether it is a write of another page, or may have been one. */
export const byAnother = (told: Told) => Boolean(told.missed || (told.write && !keyNumber(told.key ?? "")));

/**
 * In a component: look again when another page has written what it shows. What cannot be read now says so
 * when it is asked for.
 */
export function whenOthersWrite(
  look: () => Promise<unknown>,
  concerns: (told: Told) => boolean = () => true,
) {
  let gathering = 0;
  const soon = () => {
    gathering ||= window.setTimeout(() => {
      gathering = 0;
      look().catch((error: unknown) => {
        if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
      });
    }, GATHERED_MS);
  };
  const deaf = stream.listen((told) => {
    if (byAnother(told) && (told.missed || concerns(told))) soon();
  });
  const left = reach.onback(soon);
  onDestroy(() => {
    deaf();
    left();
    window.clearTimeout(gathering);
  });
}
