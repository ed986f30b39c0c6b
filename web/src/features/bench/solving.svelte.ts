// Settings searched for the layer that is selected: what is locked, what was found, the scales side by side.
import { answered, client, Offline, Refused, type Answer, type Schemas } from "../../lib/api/client";
import type { BenchState } from "../../lib/edit/shot.svelte";
import { noChanges } from "../../lib/edit/changes";
import { session } from "../../lib/session.svelte";

type Found = { busy: boolean; answers: Answer[]; problem: string };

export class Solving {
  found = $state.raw<Found | null>(null);
  scales = $state.raw<Schemas["ScaleRowOut"][] | "asked" | null>(null);
  #locked = $state<Record<number, string[]>>({});
  #asking: AbortController | null = null;

  constructor(readonly bench: BenchState) {}

  get #layer() {
    return this.bench.bench?.layers.find((one) => one.id === this.bench.looking.selected) ?? null;
  }
  get #set() {
    return this.bench.bench?.selected ?? null;
  }
  get #how(): Schemas["SolveIn"] {
    const school = session.school;
    const units = session.units;
    return { ...this.bench.unsaved, locked: [...this.locks], school, units };
  }
  /** The fields of the selected layer that keep their value. */
  get locks(): string[] {
    return this.#set ? (this.#locked[this.#set.layer_id] ?? []) : [];
  }
  toggle(field: string) {
    if (!this.#set) return;
    const now = this.locks;
    this.#locked[this.#set.layer_id] = now.includes(field)
      ? now.filter((one) => one !== field)
      : [...now, field];
  }
  close() {
    this.#asking?.abort();
    this.found = this.scales = null;
  }
  /** Look no further: the server stops searching. What was found before stays. */
  stop() {
    this.#asking?.abort();
    this.scales = null;
    if (this.found?.busy) this.found = null;
  }

  async solve() {
    const layer = this.#layer;
    if (!layer) return;
    this.found = { busy: true, answers: [], problem: "" };
    this.scales = null;
    await this.#asked(async (signal) => {
      const params = { path: { layer_id: layer.id } };
      const { answers } = await answered(
        client.POST("/api/layers/{layer_id}/solve", { params, body: this.#how, signal }),
      );
      this.found = { busy: false, answers, problem: "" };
    });
  }
  /** The common scales side by side; once more puts them away. */
  async chooseScale() {
    if (this.scales) {
      this.scales = null;
      return;
    }
    const layer = this.#layer;
    if (!layer) return;
    this.scales = "asked";
    await this.#asked(async (signal) => {
      const params = { path: { layer_id: layer.id } };
      const asked = { params, body: this.#how, signal };
      this.scales = (await answered(client.POST("/api/layers/{layer_id}/scales", asked))).rows;
    });
  }
  async useScale(scale: number) {
    const layer = this.#layer;
    if (!layer) return;
    await this.bench.set(`Scale 1:${scale}`, "layers", layer.id, { scale });
    await this.solve();
  }
  use(answer: Answer) {
    const set = this.#set;
    if (!set) return;
    const changes = noChanges();
    if (Object.keys(answer.set_up).length) changes.set_ups[set.set_up_id] = answer.set_up;
    Object.assign(changes.layers, answer.layers);
    this.found = null;
    this.bench.looking.basis = "planned";
    void this.bench.apply("Solve", changes);
  }

  async #asked(work: (signal: AbortSignal) => Promise<void>) {
    this.#asking?.abort();
    const { signal } = (this.#asking = new AbortController());
    try {
      await work(signal);
    } catch (error) {
      if (signal.aborted) return; // and nobody waits for it
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      this.scales = null;
      this.found = { busy: false, answers: [], problem: error.message };
    }
  }
}
