// Writes of one person that wait to be sent, in order: in the page, and on the device before they are sent.
import { drop, keep, persist, waiting, type Row } from "./store";

export class Box<T extends { key: string }> {
  waiting = $state<T[]>([]);
  /** Those that this device could not keep: they are lost when the page is closed. */
  unkept = $state<string[]>([]);
  #person = "";
  /** Those on their way to the device. */
  #keeping: string[] = [];
  /** Of the people who were here before: what this device could not keep, or has not kept yet. */
  #aside: Record<string, T[]> = {};
  #row = (one: T): Row => ({
    key: one.key,
    person: this.#person,
    box: this.name,
    body: $state.snapshot(one),
  });

  /** A `strict` write is on the disk before it is sent, a `relaxed` one may still be on its way there. */
  constructor(
    readonly name: string,
    readonly durability: "strict" | "relaxed" = "strict",
  ) {}

  get person() {
    return this.#person;
  }

  /** What waits of this person; what waits of others is left alone. */
  async open(person: string) {
    const left = this.waiting.filter(
      (one) => this.unkept.includes(one.key) || this.#keeping.includes(one.key),
    );
    if (left.length) this.#aside[this.#person] = $state.snapshot(left) as T[];
    this.#person = person;
    this.waiting = this.#aside[person] ?? [];
    delete this.#aside[person];
    const found = person ? ((await waiting(person, this.name)).map((row) => row.body) as T[]) : [];
    if (person !== this.#person) return;
    this.waiting = [...found, ...this.waiting.filter((one) => !found.some((other) => other.key === one.key))];
  }

  /** Kept before it is sent: whatever happens to the page then, it is not lost. */
  async add(one: T) {
    this.waiting.push(one);
    this.#keeping.push(one.key);
    void persist();
    if (!(await keep(this.#row(one), this.durability))) this.unkept = [...this.unkept, one.key];
    this.#keeping = this.#keeping.filter((key) => key !== one.key);
  }
  async change(key: string, to: Partial<T>) {
    const one = this.waiting.find((other) => other.key === key);
    if (!one) return;
    Object.assign(one, to);
    await keep(this.#row(one), this.durability);
  }
  async drop(key: string) {
    this.waiting = this.waiting.filter((one) => one.key !== key);
    this.unkept = this.unkept.filter((other) => other !== key);
    await drop(key);
  }
}
