// What is said of a film, and what follows from it.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { Latest } from "../../lib/edit/latest";

export type Values = Record<string, unknown>;
export type Follows = Schemas["Follows"][];

class Choices {
  known = $state.raw<Schemas["FilmChoices"] | null>(null);
  async read() {
    this.known ??= await answered(client.GET("/api/films/choices"));
  }
}
export const choices = new Choices();

/** A film that nobody has begun yet: what is wrong and what follows is asked for as one goes along. */
export class NewFilm {
  values = $state.raw<Values>({
    title: "",
    delivery_width_px: 1920,
    delivery_height_px: 1080,
    frame_rate_fps: 24,
    mains_hz: 50,
    time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC",
    latitude_deg: null,
    longitude_deg: null,
  });
  follows = $state.raw<Follows>([]);
  readonly asking = new Asking();
  #look = new Latest(() => this.#ask());

  set(changes: Values) {
    this.values = { ...this.values, ...changes };
    return this.look();
  }
  look() {
    return this.#look.ask();
  }
  async #ask() {
    const asked = this.values;
    const values = { ...this.values, title: this.values.title || "–" };
    const said = await this.asking.run(() => answered(client.POST("/api/films/asked", { body: { values } })));
    if (!said) return;
    if (asked !== this.values) return; // something newer is asked next
    this.follows = said.follows;
    // as it was understood: 23.98 is 24000/1001
    const understood = Object.entries(said.values).filter(
      ([name]) => name !== "title" && name in this.values,
    );
    this.values = { ...this.values, ...Object.fromEntries(understood) };
  }
}
