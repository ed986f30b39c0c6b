// The photographs of a shot at the camera: those that have arrived, and those that wait on this device.
import { answered, client, Offline, Refused, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { photographed, photographs } from "../../lib/offline/outbox.svelte";
import { pictureOf } from "../../lib/offline/pictures";
import { place } from "../../lib/place.svelte";
import { session } from "../../lib/session.svelte";
import { now } from "../../lib/ui/when";
import { smaller } from "../../lib/smaller";

type Still = Schemas["StillOut"];
type Of = { take: number | null; takeKey?: string; of?: Still["of"] };
/** What is shown of one: `url` to look at, `still` once it has arrived. */
export type Shown = { key: string; url: string; still: Still | null; problem?: string };

const SOON_MS = 8000;

export class ShotStills {
  list = $state.raw<Still[]>([]);
  choices = $state.raw<Schemas["StillOfOut"][]>([]);
  /** Addresses of pictures in this page, by number or key. */
  urls = $state.raw<Record<string, string>>({});
  readonly asking = new Asking();
  readonly way = new WayBack(
    this.asking,
    () => place.production,
    () => this.read(),
  );

  #soon = 0;

  constructor(readonly shot: number) {}

  /** In a while: somebody has written something of the shot, and as a rule that was no photograph. */
  readSoon() {
    this.#soon ||= window.setTimeout(() => {
      this.#soon = 0;
      void this.read();
    }, SOON_MS);
  }

  async read() {
    try {
      const path = { shot_id: this.shot };
      const found = await answered(client.GET("/api/shots/{shot_id}/stills", { params: { path } }));
      this.list = found.stills;
      this.choices = found.choices;
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
    for (const one of this.list) void this.#open(one);
  }
  async #open(one: Still) {
    if (this.urls[one.id]) return;
    const found = await pictureOf(session.person?.username ?? "", one.id);
    if (found) this.#show(String(one.id), found);
  }
  #show(key: string, picture: Blob) {
    if (!this.urls[key]) this.urls = { ...this.urls, [key]: URL.createObjectURL(picture) };
  }
  close() {
    window.clearTimeout(this.#soon);
    for (const url of Object.values(this.urls)) URL.revokeObjectURL(url);
    this.urls = {};
  }

  /** Those of a take; of one that waits, by its key. */
  of({ take, takeKey }: Of): Shown[] {
    const waits = photographs.waiting
      .filter((one) => (take !== null && one.take === take) || (takeKey && one.takeKey === takeKey))
      .map((one) => ({ key: one.key, url: this.urls[one.key] ?? "", still: null, problem: one.problem }));
    const here = this.list
      .filter((one) => take !== null && one.take_id === take)
      .map((one) => ({ key: String(one.id), url: this.urls[one.id] ?? "", still: one }));
    return [...waits, ...here];
  }
  /** The newest of a layer's lit sheet: one that waits on this device, else one that has arrived. */
  ofSheet(layer: number): Shown | null {
    const waits = photographs.waiting.filter((one) => one.layer === layer && one.of === "sheet").at(-1);
    if (waits)
      return { key: waits.key, url: this.urls[waits.key] ?? "", still: null, problem: waits.problem };
    const still = this.list.find((one) => one.layer_id === layer && one.of === "sheet");
    return still ? { key: String(still.id), url: this.urls[still.id] ?? "", still } : null;
  }
  /** The newest of each kind of a layer: what the next take is to be like. */
  toMatch(layer: number): Still[] {
    const newest: Partial<Record<string, Still>> = {};
    for (const one of this.list) if (one.layer_id === layer && one.of !== "sheet") newest[one.of] ??= one;
    return this.list.filter((one) => newest[one.of]?.id === one.id);
  }

  async add(layer: number, of: Of, file: File) {
    const picture = await smaller(file);
    const sent = photographed({ shot: this.shot, layer, ...of }, picture, now());
    this.showWaiting();
    await sent;
  }
  /** Those that wait since the page was opened before. */
  showWaiting() {
    for (const one of photographs.waiting) if (one.shot === this.shot) this.#show(one.key, one.photograph);
  }
  /** Say what one is of, write a note to it, take it away. */
  change(one: Still, values: { of?: Still["of"]; note?: string; removed?: boolean }) {
    const label = values.removed ? "Photograph taken away" : "Photograph’s words";
    return this.way.do(label, async (key) => {
      const done = await answered(
        client.PATCH("/api/stills/{still_id}", {
          params: { path: { still_id: one.id } },
          headers: { "Idempotency-Key": key },
          body: { version: one.version, ...values },
        }),
      );
      await this.read();
      return done;
    });
  }
}
