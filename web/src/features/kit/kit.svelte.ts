// The production's kit: read, written one change after the other, each with its way back.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { place } from "../../lib/place.svelte";

export type Row = Schemas["KitRow"];
export type Field = Schemas["CardField"];
export type KindName = "camera" | "mode" | "lens" | "lamp" | "support" | "filter" | "gear";
export type Values = Record<string, unknown>;

export class Kit {
  known = $state.raw<Schemas["KitOut"] | null>(null);
  readonly asking = new Asking();
  /** Where what was refused last was said: a row, or a kind for something new. */
  failed = $state<string>("");
  readonly back = new WayBack(
    this.asking,
    () => place.production,
    () => this.fresh(),
  );

  constructor(readonly production: () => number) {}

  async fresh() {
    const path = { production_id: this.production() };
    this.known = await answered(client.GET("/api/productions/{production_id}/kit", { params: { path } }));
  }
  get version() {
    return this.known?.version ?? 0;
  }
  rows(kind: KindName): Row[] {
    return (this.known?.rows[kind] ?? []).filter((row) => !row.removed);
  }
  retired(kind: KindName): Row[] {
    return (this.known?.rows[kind] ?? []).filter((row) => row.removed);
  }
  field(kind: KindName, name: string): Field | undefined {
    return this.known?.fields[kind]?.find((one) => one.name === name);
  }
  name(row: Row): string {
    return String(row.values.name);
  }
  at(where: string, field: string): string {
    return this.failed === where ? this.asking.at(field) : "";
  }

  /** A write, and the kit as it is then. */
  async #do<T>(label: string, where: string, send: (key: string) => Promise<T>): Promise<T | undefined> {
    this.failed = where;
    const done = await this.back.do(label, async (key) => {
      const answer = await send(key);
      await this.fresh();
      return answer;
    });
    if (done !== undefined) this.failed = "";
    return done;
  }
  change(kind: KindName, row: Row, changes: Values, label = `Change ${this.name(row)}`) {
    return this.#do(label, `${kind}${row.id}`, (key) => {
      const now = this.known?.rows[kind]?.find((one) => one.id === row.id) ?? row;
      return answered(
        client.PATCH("/api/productions/{production_id}/kit/{kind}/{row_id}", {
          params: { path: { production_id: this.production(), kind, row_id: row.id } },
          headers: { "Idempotency-Key": key },
          body: { version: now.version, changes },
        }),
      );
    });
  }
  add(kind: KindName, fields: Values, where: string = kind) {
    return this.#do(`Add ${String(fields.name || "a lens")}`, where, (key) =>
      answered(
        client.POST("/api/productions/{production_id}/kit/{kind}", {
          params: { path: { production_id: this.production(), kind } },
          headers: { "Idempotency-Key": key },
          body: { version: this.version, fields },
        }),
      ),
    );
  }
  start(start: string) {
    return this.#do("Begin the kit", "start", (key) =>
      answered(
        client.POST("/api/productions/{production_id}/kit-start", {
          params: { path: { production_id: this.production() } },
          headers: { "Idempotency-Key": key },
          body: { version: this.version, start },
        }),
      ),
    );
  }
  takeIn(text: string) {
    return this.#do("Take in a table", "table", (key) =>
      answered(
        client.POST("/api/productions/{production_id}/kit-table", {
          params: { path: { production_id: this.production() } },
          headers: { "Idempotency-Key": key },
          body: { version: this.version, text },
        }),
      ),
    );
  }
}

/** What is shown of each kind in its line; the rest opens under it. */
export const COLUMNS: Record<KindName, readonly (readonly [string, string])[]> = {
  camera: [
    ["name", "Name"],
    ["base_iso", "Base ISO"],
    ["lowest_iso", "from"],
    ["highest_iso", "to"],
  ],
  mode: [
    ["name", "Records"],
    ["recorded_width_px", "Width"],
    ["recorded_height_px", "Height"],
    ["gate_width_mm", "Gate"],
    ["gate_height_mm", "by"],
    ["highest_fps", "up to"],
    ["bit_depth", "Depth"],
    ["readout_ms", "Readout"],
  ],
  lens: [
    ["name", "Name"],
    ["focal_length_mm", "Focal length"],
    ["longest_mm", "to"],
    ["widest_f_number", "Widest"],
    ["widest_long_f_number", "long end"],
    ["smallest_f_number", "Smallest"],
    ["closest_focus_m", "Closest"],
    ["closest_long_m", "long end"],
  ],
  lamp: [
    ["name", "Name"],
    ["reading_lx", "Measured"],
    ["reading_m", "at"],
    ["intensity_cd", "Intensity"],
    ["beam_deg", "Beam"],
    ["warmest_k", "Colour from"],
    ["coolest_k", "to"],
  ],
  support: [
    ["name", "Name"],
    ["lowest_lens_m", "Lens from"],
    ["highest_lens_m", "up to"],
    ["travel_m", "Travel"],
    ["mm_a_turn", "A turn"],
  ],
  filter: [
    ["name", "Name"],
    ["stops", "Takes"],
  ],
  gear: [
    ["name", "Name"],
    ["kind", "What it is"],
    ["width_m", "Width"],
    ["height_m", "Height"],
    ["colour", "Colour"],
    ["reflectance", "Reflectance"],
  ],
};
