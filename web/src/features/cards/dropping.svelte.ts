// Files dropped on the page, sent in pieces: stopped, and gone on with from where the server has them.
import { answered, client, Offline, Refused } from "../../lib/api/client";

const PIECE_BYTES = 4_000_000;
const AGAIN_MS = 3000;

export class Dropping {
  files = $state.raw<File[]>([]);
  /** Which file is under way, and how much of it has come. */
  at = $state(0);
  have = $state(0);
  going = $state(false);
  /** There is no connection now: it is tried again by itself. */
  away = $state(false);
  refused = $state<string[]>([]);
  /** The folder in which everything lies that came. */
  place = $state("");
  #stopped = false;

  get total() {
    return this.files.reduce((sum, file) => sum + file.size, 0);
  }
  get done() {
    return this.files.slice(0, this.at).reduce((sum, file) => sum + file.size, 0) + this.have;
  }
  get current() {
    return this.files[this.at];
  }

  /** Send files; resolves when all have come, or were refused, or it was stopped. */
  async send(production: number, files: File[]) {
    this.files = files;
    this.refused = [];
    this.at = this.have = 0;
    this.going = true;
    this.#stopped = false;
    for (; this.at < files.length && !this.#stopped; this.at += 1) {
      this.have = 0;
      try {
        await this.#file(production, files[this.at]!);
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        this.refused = [...this.refused, error.message];
      }
    }
    this.going = false;
    return !this.#stopped;
  }
  stop() {
    this.#stopped = true;
  }

  async #file(production: number, file: File) {
    const path = { production_id: production };
    if (!file.size) {
      this.refused = [...this.refused, `“${file.name}” has nothing in it.`];
      return;
    }
    const modified = Math.max(0, Math.round(file.lastModified));
    const query = { name: file.name, size: file.size, modified };
    const asked = () =>
      answered(client.GET("/api/productions/{production_id}/dropped", { params: { path, query } }));
    let next = await this.#kept(asked);
    while (next && next.have < file.size && !this.#stopped) {
      this.have = next.have;
      this.place = next.place;
      const body = new FormData();
      body.append("name", file.name);
      body.append("size", String(file.size));
      body.append("modified", String(modified));
      body.append("begins", String(next.have));
      body.append("file", file.slice(next.have, next.have + PIECE_BYTES), "piece");
      next = await this.#kept(() =>
        answered(
          client.POST("/api/productions/{production_id}/dropped", {
            params: { path },
            body: body as never,
            bodySerializer: (form) => form as never,
          }),
        ),
      );
    }
    if (next) {
      this.have = next.have;
      this.place = next.place;
    }
  }
  /** The same again and again while there is no connection; nothing once it is stopped. */
  async #kept<T>(ask: () => Promise<T>): Promise<T | undefined> {
    while (!this.#stopped) {
      try {
        const found = await ask();
        this.away = false;
        return found;
      } catch (error) {
        if (!(error instanceof Offline)) throw error;
        this.away = true;
        await new Promise((gone) => window.setTimeout(gone, AGAIN_MS));
      }
    }
  }
}
