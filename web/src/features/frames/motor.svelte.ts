// A rig's crank turned by its motor, one at a time: asked for, followed, stopped.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { Followed, isGoing } from "../../lib/events/job.svelte";

type Rig = Schemas["RigOut"];

export class Motor {
  /** The rig that is turned, or was turned last. */
  rig = $state<number | null>(null);
  readonly asking = new Asking();
  readonly #turning = new Followed(this.asking);

  get job() {
    return this.#turning.job;
  }
  get goes(): boolean {
    return isGoing(this.job);
  }
  get stops() {
    return this.#turning.stops;
  }
  /** Turn a rig to where the next pose wants it. */
  async turn({ id, version, next }: Rig) {
    if (!next || this.goes) return;
    this.rig = id;
    await this.#turning.ask((key) =>
      answered(
        client.POST("/api/rigs/{rig_id}/turns", {
          params: { path: { rig_id: id } },
          headers: { "Idempotency-Key": key },
          body: { version, to: next.to },
        }),
      ),
    );
  }
  /** What somebody had turned before: it may turn still. */
  follow({ id, turn }: Rig) {
    if (!turn || this.job?.id === turn.id) return;
    this.rig = id;
    this.#turning.follow(turn);
  }
  stop() {
    return this.#turning.stop();
  }
  close() {
    this.#turning.close();
  }
}
