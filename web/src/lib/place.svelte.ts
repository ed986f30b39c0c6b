// The production and the shot that are open, remembered from screen to screen and from visit to visit.
import { answered, client, type Schemas } from "./api/client";
import { prefer, preferred } from "./offline/preferences";

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

  /** The production's own version, for what is added to it. */
  get version() {
    return this.productions?.find((one) => one.id === this.production)?.version ?? 0;
  }
  /** The productions anew: somebody has changed this one, or one did oneself. */
  async readProductions() {
    this.productions = await answered(client.GET("/api/productions"));
  }

  get role() {
    return this.productions?.find((one) => one.id === this.production)?.role ?? null;
  }

  /** The production of the shot that is open is open. */
  opened(production: number) {
    if (production === this.production) return;
    this.production = production;
    this.shots = this.wall = null;
  }

  async readShots(school: Schemas["PersonOut"]["school"]) {
    if (!this.productions) await this.readProductions();
    this.production ??= this.productions?.[0]?.id ?? null;
    if (!this.production) {
      this.shots = [];
      return;
    }
    const path = { production_id: this.production };
    const turn = ++this.#turn;
    // What takes long is worked out a piece at a time: what is known already is shown meanwhile.
    do {
      const found = await answered(
        client.GET("/api/productions/{production_id}/wall", { params: { path, query: { school } } }),
      );
      if (turn !== this.#turn) return;
      this.wall = found;
      this.productions = this.productions!.map((one) =>
        one.id === this.production ? { ...one, version: found.version } : one,
      );
      this.shots = found.shots;
    } while (this.wall.pending);
  }

  forget() {
    this.productions = this.shots = this.wall = this.production = null;
    this.#shot = null;
    prefer("shot", null);
  }
}

export const place = new Place();
