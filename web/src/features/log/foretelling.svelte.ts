// What likely takes of a shot would be given, asked for once its plan rests: for when there is no server to
// ask.
import { answered, client, Offline, Refused, type Schemas } from "../../lib/api/client";
import { plannedOf } from "../../lib/offline/planned";
import { session } from "../../lib/session.svelte";

/** After this long a plan that was read is asked more of. */
const RESTS_MS = 1000;

export class Foretelling {
  tables = $state.raw<Record<number, Schemas["ForetoldOut"]>>({});
  #of = "";
  #resting = 0;

  /** Once the plan rests and is another than the one that was foretold: takes do not move it. */
  later(log: Schemas["LogOut"]) {
    const planned = plannedOf(log, session);
    if (planned === this.#of) return;
    window.clearTimeout(this.#resting);
    this.#resting = window.setTimeout(() => {
      void this.#ask(log.layers.map((one) => one.id)).then((all) => (this.#of = all ? planned : ""));
    }, RESTS_MS);
  }
  stop() {
    window.clearTimeout(this.#resting);
  }
  async #ask(layers: number[]): Promise<boolean> {
    let all = true;
    const query = { units: session.units, school: session.school } as const;
    for (const id of layers) {
      try {
        const path = { layer_id: id };
        const found = await answered(
          client.GET("/api/layers/{layer_id}/foretold", { params: { path, query } }),
        );
        this.tables = { ...this.tables, [id]: found };
      } catch (error) {
        if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
        all = false;
      }
    }
    return all;
  }
}
