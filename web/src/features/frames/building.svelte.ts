// A set that is built up again: the live picture is held against the frame by which it was left, over and
// over, until all of it holds.
import { answered, client, type Schemas } from "../../lib/api/client";
import type { Exposure } from "./strip";

export type BuiltUp = Schemas["BuiltUpOut"];
const REST_MS = 300;
const LONGER_MS = 2000;

type Shows = {
  /** What the camera sees now; null where it shows nothing yet. */
  glance(canvas: HTMLCanvasElement, signal: AbortSignal): Promise<Blob | null>;
  holds(): void;
};
const rest = (ms: number) => new Promise<void>((done) => window.setTimeout(done, ms));

export class Building {
  /** The place of the pose by which the set is built up; null: it is not. */
  place = $state<number | null>(null);
  told = $state.raw<BuiltUp | null>(null);
  problem = $state("");
  #going: AbortController | null = null;
  #canvas = document.createElement("canvas");

  constructor(readonly shows: Shows) {}

  begin(place: number, exposure: Exposure) {
    this.stop();
    this.place = place;
    this.#going = new AbortController();
    void this.#again(exposure.id, this.#going.signal);
  }
  stop() {
    this.#going?.abort();
    this.#going = null;
    this.place = null;
    this.told = null;
    this.problem = "";
  }
  async #again(exposure: number, signal: AbortSignal) {
    while (!signal.aborted) {
      try {
        const picture = document.hidden ? null : await this.shows.glance(this.#canvas, signal);
        if (picture) await this.#measure(exposure, picture, signal);
        await rest(REST_MS);
      } catch (error) {
        if (signal.aborted) return;
        if (!(error instanceof Error)) throw error;
        this.problem = error.message;
        await rest(LONGER_MS);
      }
    }
  }
  async #measure(exposure: number, picture: Blob, signal: AbortSignal) {
    const form = new FormData();
    form.append("file", picture, "live.jpg");
    const told = await answered(
      client.POST("/api/exposures/{exposure_id}/built-up", {
        params: { path: { exposure_id: exposure } },
        body: form as never,
        bodySerializer: (body) => body as never,
        signal,
      }),
    );
    if (signal.aborted) return;
    if (told.holds && this.told && !this.told.holds) this.shows.holds();
    this.told = told;
    this.problem = "";
  }
}
