// Who is signed in, and how they like to read: units, theme, school, single-letter keys.
import { answered, client, speakFor, whenSignedOut, type Schemas } from "./api/client";
import { rememberSession } from "./offline/kept";
import { frames, outbox, photographs } from "./offline/outbox.svelte";
import { prefer, preferred } from "./offline/preferences";
import { forget } from "./offline/store";
import { place } from "./place.svelte";
import { vocabulary } from "./vocabulary.svelte";

export type Person = Schemas["PersonOut"];
type Preferences = Partial<
  Pick<Person, "units" | "theme" | "school" | "single_keys" | "dates" | "week_starts">
>;

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

  /** What an address carries that somebody opened who has an account and signs in first. */
  invited = $state("");

  /** Why nobody can go on here before signing in again; "" while all is well. */
  lost = $state("");

  constructor() {
    whenSignedOut((reason) => (this.lost = reason));
    document.documentElement.dataset.theme = preferred("theme") ?? "stage";
  }

  #take({ person, events }: Schemas["SessionOut"]) {
    this.person = person;
    this.lost = "";
    speakFor(person?.username ?? "");
    void outbox.begin(person?.username ?? "");
    void photographs.begin(person?.username ?? "");
    void frames.begin(person?.username ?? "");
    this.events = events ?? null;
    void rememberSession({ person, events: this.events });
    this.known = true;
    if (person) this.#show(person.theme);
  }

  #show(theme: string) {
    document.documentElement.dataset.theme = theme;
    prefer("theme", theme);
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

  /** An account made, or its password chosen anew, by an address that was given for it. */
  async comeIn(body: Schemas["AccountIn"]): Promise<true> {
    await this.#begin(await answered(client.POST("/api/invitation/account", { body })));
    return true;
  }

  /** What of oneself the others see. */
  async change(body: Pick<Schemas["Preferences"], "name">) {
    this.#take(await answered(client.PATCH("/api/session", { body: body as Schemas["Preferences"] })));
  }

  /** Nothing more is asked for whoever was signed in; what they left waits for them. */
  leave() {
    place.forget();
    this.#take({ person: null });
  }

  async signOut() {
    await answered(client.DELETE("/api/session"));
    await forget(this.person?.username ?? "");
    this.leave();
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
