// What can be said of a shot's rows: label, unit, limits and choices, read once from the server.
import { answered, client, Offline, type Schemas } from "../api/client";

export type FieldSets = Schemas["FieldsOut"];

class FieldBook {
  sets = $state.raw<FieldSets | null>(null);
  #asked = false;

  async read() {
    if (this.#asked) return;
    this.#asked = true;
    try {
      this.sets = await answered(client.GET("/api/fields"));
    } catch (error) {
      this.#asked = false;
      if (!(error instanceof Offline)) throw error;
    }
  }

  /** The named fields of one kind, in the order of the names. */
  of(kind: keyof FieldSets, names: readonly string[]): Schemas["CardField"][] {
    const known = new Map((this.sets?.[kind] ?? []).map((field) => [field.name, field]));
    return names.flatMap((name) => known.get(name) ?? []);
  }
}

export const fieldBook = new FieldBook();
