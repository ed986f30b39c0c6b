// One measurement of one's own kit: read, said, filmed, taken into the kit, each write with its way back.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { Followed } from "../../lib/events/job.svelte";
import { place } from "../../lib/place.svelte";
import { session } from "../../lib/session.svelte";

const PAIR = 2;
const STILL = /^image\//;

export class Measured {
  known = $state.raw<Schemas["MeasurementOut"] | null>(null);
  guide = $state.raw<Schemas["GuideOut"] | null>(null);
  effects = $state.raw<Schemas["EffectsOut"] | null>(null);
  missing = $state("");
  /** How many pictures of those that were chosen are sent, of how many; what was wrong with the others. */
  sending = $state.raw<{ done: number; of: number } | null>(null);
  refused = $state.raw<string[]>([]);
  readonly asking = new Asking();
  readonly film = new Followed(this.asking);
  readonly back = new WayBack(
    this.asking,
    () => place.production,
    () => this.fresh(),
  );

  constructor(readonly id: () => number) {}

  get #path() {
    return { path: { measurement_id: this.id() } };
  }
  async read() {
    const asked = new Asking();
    await asked.read(async () => {
      await this.fresh();
      if (!place.production || this.guide) return;
      const path = { production_id: place.production };
      const all = await answered(
        client.GET("/api/productions/{production_id}/measuring", { params: { path } }),
      );
      this.guide = all.guides.find((each) => each.key === this.known?.kind) ?? null;
    });
    this.missing = this.known ? "" : asked.said;
  }
  async fresh() {
    this.known = await answered(client.GET("/api/measurements/{measurement_id}", { params: this.#path }));
    const query = { school: session.school, units: session.units };
    this.effects = this.known.values.length
      ? await answered(
          client.GET("/api/measurements/{measurement_id}/effects", { params: { ...this.#path, query } }),
        )
      : null;
  }
  #write<T>(label: string, send: (key: string, version: number) => Promise<T>) {
    return this.back.do(label, async (key) => {
      const answer = await send(key, this.known!.version);
      await this.fresh();
      return answer;
    });
  }

  say(name: string, value: unknown) {
    return this.#write("Say it otherwise", (key, version) =>
      answered(
        client.PATCH("/api/measurements/{measurement_id}", {
          params: this.#path,
          headers: { "Idempotency-Key": key },
          body: { version, asked: { [name]: value } },
        }),
      ),
    );
  }
  /** Pictures one after the other; of a pair two at once. ``stops`` says of each which step it is. */
  async send(files: readonly File[], stops: (number: number) => number | null) {
    const pairs = this.guide?.frames === PAIR;
    const parts: File[][] = [];
    for (const file of files) {
      const last = parts.at(-1);
      if (pairs && STILL.test(file.type) && last && last.length < PAIR && STILL.test(last[0]!.type))
        last.push(file);
      else parts.push([file]);
    }
    this.refused = [];
    for (const [number, part] of parts.entries()) {
      this.sending = { done: number, of: parts.length };
      const came = await this.#picture(part, stops(number));
      if (came === undefined) {
        const why = this.asking.said || this.asking.at("file");
        this.refused = [...this.refused, `${part[0]!.name}: ${why}`];
      }
    }
    this.sending = null;
  }
  #picture(files: readonly File[], stops: number | null) {
    const form = new FormData();
    for (const file of files) form.append("files", file);
    if (stops !== null) form.append("stops", String(stops));
    return this.#write(`Picture ${files[0]!.name}`, (key, version) => {
      form.set("version", String(version));
      return answered(
        client.POST("/api/measurements/{measurement_id}/pictures", {
          params: this.#path,
          headers: { "Idempotency-Key": key },
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      );
    });
  }
  change(picture: number, body: { dropped?: boolean; stops?: number | null }) {
    return this.#write(body.dropped ? "Drop a picture" : "Say its stops", (key, version) =>
      answered(
        client.PATCH("/api/measurements/{measurement_id}/pictures/{measured_picture_id}", {
          params: { path: { measurement_id: this.id(), measured_picture_id: picture } },
          headers: { "Idempotency-Key": key },
          body: { version, dropped: body.dropped ?? false, stops: body.stops ?? null },
        }),
      ),
    );
  }
  simulate() {
    return this.film.ask((key) =>
      answered(
        client.POST("/api/measurements/{measurement_id}/simulated", {
          params: this.#path,
          headers: { "Idempotency-Key": key },
          body: { version: this.known!.version },
        }),
      ),
    );
  }
  accept() {
    return this.#write("Into the kit", (key, version) =>
      answered(
        client.POST("/api/measurements/{measurement_id}/accept", {
          params: this.#path,
          headers: { "Idempotency-Key": key },
          body: { version },
        }),
      ),
    );
  }
  discard(discarded: boolean) {
    return this.#write(discarded ? "Discard the measurement" : "Bring it back", (key, version) =>
      answered(
        client.POST("/api/measurements/{measurement_id}/discard", {
          params: this.#path,
          headers: { "Idempotency-Key": key },
          body: { version, discarded },
        }),
      ),
    );
  }
}
