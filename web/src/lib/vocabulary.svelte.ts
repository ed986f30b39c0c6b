// What the house calls things: said once in core, read from the server when somebody signs in.
import { answered, client, type Schemas } from "./api/client";
import type { Quantity, Units } from "./units";

type Words = Schemas["VocabularyOut"];
export type LineWords = Words["lines"][number];
export type MarkWords = Words["marks"][number];

const byKey = <T extends { key: string }>(rows: T[]) => new Map(rows.map((row) => [row.key, row]));

class Vocabulary {
  #words = $state.raw<Words | null>(null);
  #kinds = $derived(byKey(this.#words?.kinds ?? []));
  #combines = $derived(byKey(this.#words?.combines ?? []));
  #choices = $derived(byKey(this.#words?.choices ?? []));
  #lines = $derived(byKey(this.#words?.lines ?? []));
  #marks = $derived(byKey(this.#words?.marks ?? []));
  #verdicts = $derived(byKey(this.#words?.verdicts ?? []));
  #schools = $derived(byKey(this.#words?.schools ?? []));

  get kinds() {
    return this.#words?.kinds ?? [];
  }
  get lines() {
    return this.#words?.lines ?? [];
  }
  get marks() {
    return this.#words?.marks ?? [];
  }
  get schools() {
    return this.#words?.schools ?? [];
  }

  async read() {
    this.#words ??= await answered(client.GET("/api/vocabulary"));
  }
  /** Words that were read before, or by whom else. */
  take(words: Words) {
    this.#words = words;
  }

  kind(key: string): string {
    return this.#kinds.get(key)?.name ?? key;
  }
  combine(key: string, colour = ""): string {
    return (this.#combines.get(key)?.name ?? key) + (colour ? `, ${colour}` : "");
  }
  /** A choice as people say it. */
  choice(key: string): string {
    const named = this.#choices.get(key) ?? this.#kinds.get(key) ?? this.#combines.get(key);
    return named?.name ?? key.replaceAll("_", " ");
  }
  line(kind: string): LineWords {
    const found = this.#lines.get(kind);
    if (!found) throw new Error(`There is no line called ${kind}.`);
    return found;
  }
  mark(kind: string): MarkWords {
    const found = this.#marks.get(kind);
    if (!found) throw new Error(`There is no mark called ${kind}.`);
    return found;
  }
  verdict(key: string) {
    return this.#verdicts.get(key) ?? { key, single: key, title: key, several: key, serves: key };
  }
  school(key: string): string {
    return this.#schools.get(key)?.name ?? key;
  }
  unit(quantity: Quantity, units: Units): { sign: string; per_kept: number } | undefined {
    return this.#words?.units.find((one) => one.quantity === quantity && one.units === units);
  }
}

export const vocabulary = new Vocabulary();
