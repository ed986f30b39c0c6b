// Who is signed in, and how they like to read: units, theme, school, single-letter keys.
import { answered, client, type Schemas } from "./api/client";
import { place } from "./place.svelte";
import { vocabulary } from "./vocabulary.svelte";

export type Person = Schemas["PersonOut"];
type Preferences = Partial<Pick<Person, "units" | "theme" | "school" | "single_keys">>;

const THEME_KEY = "jungoptic.theme";

class Session {
  person = $state<Person | null>(null);
  known = $state(false);
  /** Where it is told what happens, if anywhere. */
  events = $state<string | null>(null);

  get school(): Person["school"] {
    return this.person?.school ?? "measured";
  }
  get units(): Person["units"] {
    return this.person?.units ?? "metric";
  }

  constructor() {
    document.documentElement.dataset.theme = localStorage.getItem(THEME_KEY) ?? "stage";
  }

  #take({ person, events }: Schemas["SessionOut"]) {
    this.person = person;
    this.events = events ?? null;
    this.known = true;
    if (person) this.#show(person.theme);
  }

  #show(theme: string) {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem(THEME_KEY, theme);
  }

  /** Whoever is signed in, once the house's words are there to speak with. */
  async #begin(found: Schemas["SessionOut"]) {
    if (found.person) await vocabulary.read();
    this.#take(found);
  }

  async read() {
    await this.#begin(await answered(client.GET("/api/session")));
  }

  async signIn(username: string, password: string) {
    await this.#begin(await answered(client.POST("/api/session", { body: { username, password } })));
  }

  async signOut() {
    await answered(client.DELETE("/api/session"));
    place.forget();
    this.#take({ person: null });
  }

  /** Shown at once; the server is told, and the wish stays for this visit when it cannot be reached. */
  async prefer(wish: Preferences) {
    if (!this.person) return;
    Object.assign(this.person, wish);
    if (wish.theme) this.#show(wish.theme);
    try {
      await answered(client.PATCH("/api/session", { body: wish }));
    } catch {
      /* a preference is not worth a message */
    }
  }
}

export const session = new Session();
