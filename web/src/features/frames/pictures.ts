// Pictures of exposures, decoded once and kept while they are near: play and onion skin draw from here.
const KEPT = 240;
const AT_ONCE = 4;

export const addressOf = (exposure: number, width: number) => `/api/exposures/${exposure}.jpg?width=${width}`;

async function decoded(address: string): Promise<ImageBitmap | null> {
  try {
    const answer = await fetch(address);
    return answer.ok ? await createImageBitmap(await answer.blob()) : null;
  } catch {
    return null;
  }
}

export class Pictures {
  #kept = new Map<string, ImageBitmap>();
  #waiting: string[] = [];
  #going = 0;
  #closed = false;

  /** `came` is called when a picture that was asked for is there. */
  constructor(readonly came: () => void) {}

  /** The picture at an address, if it is there; asked for where it is not. */
  at(address: string): ImageBitmap | null {
    const kept = this.#kept.get(address);
    if (kept !== undefined) {
      this.#kept.delete(address);
      this.#kept.set(address, kept);
      return kept;
    }
    if (!this.#waiting.includes(address)) this.#waiting.push(address);
    this.#fetch();
    return null;
  }
  /** The best that is there of an exposure: large where it was read, else small. */
  best(exposure: number, large: number, small: number): ImageBitmap | null {
    return this.at(addressOf(exposure, large)) ?? this.at(addressOf(exposure, small));
  }
  close() {
    this.#closed = true;
    for (const one of this.#kept.values()) one.close();
    this.#kept.clear();
  }
  #fetch() {
    while (this.#going < AT_ONCE && this.#waiting.length) {
      const address = this.#waiting.pop()!; // the newest is the one that is wanted
      if (this.#kept.has(address)) continue;
      this.#going++;
      void this.#read(address).finally(() => {
        this.#going--;
        this.#fetch();
      });
    }
  }
  async #read(address: string) {
    const picture = await decoded(address);
    if (!picture) return; // asked for again when it is wanted again
    if (this.#closed) return picture.close();
    this.#kept.set(address, picture);
    for (const old of [...this.#kept.keys()].slice(0, Math.max(this.#kept.size - KEPT, 0))) {
      this.#kept.get(old)?.close();
      this.#kept.delete(old);
    }
    this.came();
  }
}
