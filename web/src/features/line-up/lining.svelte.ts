// One line-up: where the live picture comes from, what it is held against, and what was measured last. Films
// and measures side by side, each as quickly as it can, a dozen times a second.
import { answered, client, Offline, Refused, type Bench, type Schemas } from "../../lib/api/client";
import { add, look, readBench, save } from "../../lib/api/shot";
import { keepStill, type More } from "../../lib/api/stills";
import type { Point } from "../../lib/draw/lines";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { rows } from "../../lib/edit/changes";
import { session } from "../../lib/session.svelte";
import { vocabulary } from "../../lib/vocabulary.svelte";
import * as sources from "./sources";
import { AS_PLANNED, SIMULATED, type Device, type Measured, type Off } from "./sources";

const EVERY_MS = 70;
/** Pictures on their way to be measured: one is sent while another is looked at. */
const AT_ONCE = 2;
const REST_MS = 1000; // after the server could not be reached
const RATE_OVER = 20;
const SEEN_PX = 1280;

export type LineUp = Schemas["LineUpOut"];
type Still = Schemas["StillOut"];
export type Recording = Schemas["FromFileOut"];
export type Laid = { url: string; box: number[] };
export const DRAWN = "drawn";

const rest = (ms: number) => new Promise<void>((done) => window.setTimeout(done, ms));

export class Lining {
  known = $state.raw<LineUp | null>(null);
  bench = $state.raw<Bench | null>(null);
  stills = $state.raw<Still[]>([]);
  /** Files of cards that were filed to takes of the shot, those of this layer first. */
  recordings = $state.raw<Recording[]>([]);
  missing = $state("");
  /** "" for none, a device's id, or the simulated camera. */
  source = $state("");
  devices = $state.raw<Device[]>([]);
  problem = $state("");
  stream = $state.raw<MediaStream | null>(null);
  /** The newest picture of the simulated camera. */
  shown = $state("");
  away = $state(false);
  /** A picture has come. */
  films = $state(false);
  measured = $state.raw<Measured | null>(null);
  /** How many pictures a second are measured. */
  rate = $state(0);
  off = $state<Off>({ ...AS_PLANNED });
  faults = $state<string[]>([]);
  /** What lies over the live picture: a still's number, or the shot as it is drawn. */
  over = $state(DRAWN);
  laid = $state.raw<Laid | null>(null);
  /** Whether the live picture is moved as the composite moves it, or lies with its middle in the middle. */
  moved = $state(true);
  /** The next touch of the picture is where somebody stands. */
  setting = $state(false);

  readonly asking = new Asking();
  readonly way: WayBack;
  #video: HTMLVideoElement | null = null;
  #canvas = document.createElement("canvas");
  #frame: Blob | null = null;
  /** The numbers of the picture that was asked for last, and of the newest that came. */
  #asked = 0;
  #frames = 0;
  #fresh = 0;
  /** The number of the picture that was measured last. */
  #last = 0;
  #going: AbortController | null = null;
  #times: number[] = [];
  #url = "";
  #others: Record<number, LineUp> = {};

  constructor(readonly layer: number) {
    this.way = new WayBack(
      this.asking,
      () => this.known?.production_id ?? null,
      () => Promise.all([this.readStills(), this.#readBench()]),
    );
  }

  async read() {
    try {
      const path = { layer_id: this.layer };
      const query = this.#how;
      const first = !this.known;
      this.known = await answered(client.GET("/api/layers/{layer_id}/line-up", { params: { path, query } }));
      if (first) this.faults = this.known.faults.filter((one) => one.usual).map((one) => one.key);
      await this.#readBench();
      await this.readStills();
      await this.#readRecordings();
      if (first && this.frames[0]) this.over = String(this.frames[0].id);
      await this.lay();
    } catch (error) {
      if (error instanceof Refused || error instanceof Offline) this.missing = error.message;
      else throw error;
    }
  }
  get #reading() {
    return { ...this.#how, basis: "planned", selected: this.layer, frame: 0, after_finish: true } as const;
  }
  async #readBench() {
    if (this.known) this.bench = await readBench(this.known.shot_id, this.#reading);
  }
  async #readRecordings() {
    const params = { path: { shot_id: this.known!.shot_id }, query: { units: session.units } };
    const found = await answered(client.GET("/api/shots/{shot_id}/recordings", { params }));
    const own = (one: Recording) => Number(one.layer_id !== this.layer);
    this.recordings = found.sort((a, b) => own(a) - own(b));
  }
  async readStills() {
    if (!this.known) return;
    const path = { shot_id: this.known.shot_id };
    const found = await answered(client.GET("/api/shots/{shot_id}/stills", { params: { path } }));
    this.stills = found.stills;
    const gone = !this.frames.some((one) => String(one.id) === this.over);
    if (this.over !== DRAWN && gone) await this.choose(DRAWN);
  }
  /** Those through the taking camera, of this layer first. */
  get frames(): Still[] {
    const own = (one: Still) => Number(one.layer_id !== this.layer);
    return this.stills.filter((one) => one.of === "frame").sort((a, b) => own(a) - own(b));
  }
  get against(): number | null {
    return this.over === DRAWN ? null : Number(this.over);
  }

  async move(to: boolean) {
    this.moved = to;
    await this.lay();
  }
  async choose(over: string) {
    this.over = over;
    this.measured = null;
    await this.lay();
  }
  /** Lay what is chosen over the live picture, where it lies in the delivered frame. */
  async lay() {
    const { known, bench, over } = this;
    if (!known || !bench) return;
    const still = this.frames.find((one) => String(one.id) === over);
    try {
      if (still) {
        const whose = await this.#of(still.layer_id);
        if (this.over !== over) return;
        this.#drawn("");
        this.laid = { url: `/api/stills/${still.id}.jpg`, box: this.boxOf(whose) };
        return;
      }
      const how = { school: session.school, units: session.units, basis: "planned", frame: 0 } as const;
      const body = { ...how, width_px: SEEN_PX, after_finish: true } as Schemas["PictureIn"];
      const drawn = await look(known.shot_id, body);
      if (this.over !== over) return;
      const box = [0, 0, bench.delivery_width_px, bench.delivery_height_px];
      this.laid = { url: this.#drawn(URL.createObjectURL(drawn)), box };
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
      this.laid = null;
    }
  }
  /** The address of what is drawn; the one before is done with. */
  #drawn(url: string): string {
    if (this.#url) URL.revokeObjectURL(this.#url);
    return (this.#url = url);
  }
  async #of(layer: number): Promise<LineUp> {
    if (layer === this.layer) return this.known!;
    const path = { layer_id: layer };
    return (this.#others[layer] ??= await answered(
      client.GET("/api/layers/{layer_id}/line-up", { params: { path } }),
    ));
  }
  /** Where a layer's recorded picture lies in the delivered frame: left, top, width, height. */
  boxOf(one: LineUp): number[] {
    const [left, top, wide, high] = one.gate as [number, number, number, number];
    const [right, down] = this.moved ? (one.moved_px as [number, number]) : [0, 0];
    return [left + right, top + down, wide, high];
  }

  // --- the live picture

  async begin(source: string) {
    this.stop();
    this.problem = "";
    this.source = source;
    if (!source) return;
    if (source !== SIMULATED) {
      try {
        const stream = await sources.opened(source);
        if (this.source !== source) {
          for (const track of stream.getTracks()) track.stop(); // something else was chosen meanwhile
          return;
        }
        this.stream = stream;
        this.devices = await sources.devices();
        const [track] = stream.getVideoTracks();
        this.source = track?.getSettings().deviceId ?? source;
        track?.addEventListener("ended", () => {
          this.stop();
          this.problem = sources.GONE;
        });
      } catch (error) {
        this.problem = sources.whyNot(error);
        this.source = "";
        return;
      }
    }
    this.#going = new AbortController();
    const { signal } = this.#going;
    if (source !== SIMULATED) void this.#again(signal, EVERY_MS, () => this.#film(signal));
    for (let i = 0; i < AT_ONCE; i++)
      void (source === SIMULATED
        ? this.#again(signal, AT_ONCE * EVERY_MS, () => this.#simulate(signal))
        : this.#again(signal, 0, () => this.#measure(signal)));
  }
  stop() {
    this.#going?.abort();
    this.#going = null;
    this.stream?.getTracks().forEach((track) => track.stop());
    this.stream = null;
    this.#frame = null;
    this.films = this.away = false;
    this.measured = null;
    this.rate = 0;
    this.shown = "";
    this.source = "";
  }
  /** The video that shows the camera. */
  shows(video: HTMLVideoElement | null) {
    this.#video = video;
  }

  /** Do something again and again, every so often, for as long as somebody wants it and looks. */
  async #again(signal: AbortSignal, every: number, once: () => Promise<void>) {
    while (!signal.aborted) {
      const began = performance.now();
      try {
        await once();
        if (document.hidden) await rest(REST_MS); // nobody looks
      } catch (error) {
        if (signal.aborted) return;
        if (error instanceof Offline) this.away = true;
        else if (!(error instanceof Refused)) throw error;
        else if (error.status < 500 && error.status !== 429) this.problem = error.message;
        await rest(REST_MS);
      }
      await rest(Math.max(every - (performance.now() - began), 0));
    }
  }
  /** What a device shows now, as a picture. */
  async #film(signal: AbortSignal) {
    const { gate } = this.known!;
    if (!this.#video) return;
    const frame = await sources.still(this.#video, this.#canvas, gate[2]! / gate[3]!);
    if (frame && !signal.aborted) this.#came(++this.#asked, frame);
  }
  /** The newest picture of a device, measured on the server. */
  async #measure(signal: AbortSignal) {
    const { against } = this;
    if (against === null || !this.#frame || this.#fresh === this.#frames) return rest(EVERY_MS / 8);
    const number = (this.#fresh = this.#frames);
    const told = await sources.measured(this.layer, against, this.#frame, this.#how, signal);
    this.#answered();
    this.#told(number, against, told);
  }
  /** A picture of the simulated camera: filmed and measured in one go. */
  async #simulate(signal: AbortSignal) {
    const number = ++this.#asked;
    const { layer, off, faults, against } = this;
    const found = await sources.simulated(layer, off, number, faults, against, this.#how, signal);
    this.#answered();
    if (signal.aborted || number < this.#frames) return; // a later one was quicker
    this.#came(number, sources.fileOf(found.picture));
    this.shown = `data:image/jpeg;base64,${found.picture}`;
    if (found.measured) this.#told(number, against, found.measured);
  }
  get #how() {
    return { units: session.units, school: session.school } as const;
  }
  #answered() {
    this.away = false;
    this.problem = "";
  }
  #came(number: number, frame: Blob) {
    this.#frame = frame;
    this.#frames = number;
    this.films = true;
  }
  #told(number: number, against: number | null, told: Measured) {
    if (!this.#going || against !== this.against) return;
    this.#count();
    if (number < this.#last) return; // a later one was quicker
    this.#last = number;
    this.measured = told;
  }
  #count() {
    this.#times = [...this.#times.slice(1 - RATE_OVER), performance.now()];
    const span = this.#times.at(-1)! - this.#times[0]!;
    this.rate = span > 0 ? (1000 * (this.#times.length - 1)) / span : 0;
  }

  // --- what is kept

  /** Keep what is seen now, to be lined up with later. */
  hold() {
    const frame = this.#frame;
    return frame ? this.#keep(this.layer, frame) : Promise.resolve();
  }
  /** Keep a frame of a recording, to be lined up with. */
  holdOf(recording: Recording, second: number, frame: Blob) {
    const note = `take ${recording.take_number} at ${second.toFixed(1)} s`;
    return this.#keep(recording.layer_id, frame, { take_id: String(recording.take_id), note });
  }
  #keep(layer: number, frame: Blob, more: More = {}) {
    return this.way.do("Picture held", async (key) => {
      const made = await keepStill(layer, key, frame, { of: "frame", ...more });
      await this.readStills();
      await this.choose(String(made.id));
      return made;
    });
  }

  // --- where somebody stands

  get marks() {
    return (this.bench?.lines ?? [])
      .map((line, i) => ({ line, number: i + 1 }))
      .filter(({ line }) => vocabulary.line(line.kind).stands);
  }
  /** The next touch of the picture sets a mark; it is seen where the composite has it. */
  async beginToSet(to: boolean) {
    this.setting = to;
    if (to && !this.moved) await this.move(true);
  }
  /** An actor's mark at a place of the delivered frame. */
  setMark(point: Point) {
    this.setting = false;
    return this.way.do("An actor's mark set", async (key) => {
      const fields = { kind: "actor", points: [point], layer_id: this.layer };
      const { shot_id, version } = this.bench!;
      const body = { what: "line", fields, version, own_set_up: false, ...this.#reading } as const;
      const made = await add(shot_id, key, body);
      this.bench = made.bench;
      return made;
    });
  }
  removeMark(id: number, version: number) {
    return this.way.do("An actor's mark removed", async (key) => {
      const lines = { [id]: { version, changes: { removed: true } } };
      const body = { ...rows<Schemas["EditIn"]>(), lines, ...this.#reading };
      return (this.bench = await save(this.bench!.shot_id, key, body));
    });
  }
  /** Knock the simulated camera off its place by chance, so that there is something to line up. */
  knock() {
    const by = (most: number) => Number(((Math.random() * 2 - 1) * most).toFixed(3));
    const off = { ...AS_PLANNED, pan: by(1.5), tilt: by(1), roll: by(1.2) };
    if (this.known?.zooms) off.zoom = by(0.03);
    else off.forward = by(0.02 * (this.known?.distance_m ?? 1));
    this.off = off;
  }
}
