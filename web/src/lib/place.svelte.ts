// The production and the shot that are open, remembered from screen to screen and from visit to visit.
import { answered, client, type Schemas } from "./api/client";
import { prefer, preferred } from "./offline/preferences";
import { reach } from "./offline/reach.svelte";

class Place {
  productions = $state<Schemas["ProductionOut"][] | null>(null);
  production = $state<number | null>(null);
  shots = $state.raw<Schemas["WallLine"][] | null>(null);
  wall = $state.raw<Schemas["WallOut"] | null>(null);
  #turn = 0;
  #shot = $state<number | null>(Number(preferred("shot")) || null);

  /**
   * The shot that is open, or the first one while none is; one that was removed meanwhile is open no longer.
   */
  get shot() {
    const gone = this.wall?.removed.some((one) => one.id === this.#shot);
    return (gone ? null : this.#shot) ?? this.shots?.[0]?.id ?? null;
  }
  set shot(id: number | null) {
    this.#shot = id;
    if (id) prefer("shot", String(id));
  }

  /** Productions that are being made, or the one that is open. */
  get current() {
    return (this.productions ?? []).filter((one) => !one.put_away || one.id === this.production);
  }

  /** The production's own version, for what is added to it. */
  get version() {
    return this.productions?.find((one) => one.id === this.production)?.version ?? 0;
  }
  /** The productions anew: somebody has changed this one, or one did oneself. */
  async readProductions() {
    this.productions = await answered(client.GET("/api/productions"));
  }
  /** The same for whoever asks before they are known. */
  #first: Promise<void> | null = null;

  get role() {
    return this.productions?.find((one) => one.id === this.production)?.role ?? null;
  }

  /** Another production is open, from its first shot on. */
  open(production: number) {
    if (production === this.production) return;
    this.opened(production);
    this.#shot = null;
    prefer("shot", null);
  }
  /** The production of the shot that is open is open. */
  opened(production: number) {
    if (production === this.production) return;
    this.production = production;
    this.shots = this.wall = null;
    prefer("production", String(production));
  }
  /** One has left a production. */
  async left(production: number) {
    if (production === this.production) this.forget();
    await this.choose();
  }
  /** The productions, and which of them is open: the one that was last, else the first. */
  async choose() {
    if (!this.productions) await (this.#first ??= this.readProductions().finally(() => (this.#first = null)));
    const all = this.productions!;
    if (all.some((one) => one.id === this.production)) return;
    const last = all.find((one) => one.id === Number(preferred("production")));
    this.production = (last ?? all.find((one) => !one.put_away) ?? all[0])?.id ?? null;
  }

  /** As whoever reads judges and measures. */
  async readShots({ school, units }: Pick<Schemas["PersonOut"], "school" | "units">) {
    await this.choose();
    if (!this.production) {
      this.shots = [];
      return;
    }
    const path = { production_id: this.production };
    const turn = ++this.#turn;
    // What takes long is worked out a piece at a time: what is known already is shown meanwhile.
    do {
      const found = await answered(
        client.GET("/api/productions/{production_id}/wall", { params: { path, query: { school, units } } }),
      );
      if (turn !== this.#turn) return;
      this.wall = found;
      this.productions = this.productions!.map((one) =>
        one.id === this.production ? { ...one, version: found.version } : one,
      );
      this.shots = found.shots;
    } while (this.wall.pending && !reach.away);
  }

  forget() {
    this.productions = this.shots = this.wall = this.production = null;
    this.#shot = null;
    prefer("shot", null);
    prefer("production", null);
  }
}

export const place = new Place();
