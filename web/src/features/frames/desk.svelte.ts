// The animator's desk: what the camera sees, what was taken of each pose, and what is to be said before the
// next move. A frame that was taken stands on this device until the server has it.
import { answered, client, Offline, Refused, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { Newest } from "../../lib/edit/newest";
import { frames, type KeptFrame } from "../../lib/offline/outbox.svelte";
import { now } from "../../lib/ui/when";
import * as sources from "../line-up/sources";
import * as folders from "./folder";
import { averaged } from "./average";
import { Building } from "./building.svelte";
import { follow, restOf } from "./live";
import { Motor } from "./motor.svelte";
import { Pedal } from "./pedal.svelte";
import { Points } from "./points.svelte";
import { NO_FAULTS, photograph, type Faults } from "./simulated";
import { Sound } from "./sound";
import type { Exposure, Pose } from "./strip";
import { dueOf, newestOf, playedOf, saysMore, shownOf, withExposure } from "./strip";
import { SheetWrites } from "./writes";

export const FOLDER = "folder";
export type Sheet = Schemas["ExposureSheetOut"];
export type Warned = Schemas["WarnedOut"];
export const LOOKS = [
  ["mix", "Onion"],
  ["difference", "Difference"],
  ["edges", "Edges"],
  ["live", "Plain"],
] as const;
export type Look = (typeof LOOKS)[number][0];

const LIVE_PX = 960;
const TAKEN_PX = 1920;
const QUALITY = 0.95;
const EVERY_MS = 250;
const REST_MS = 1000;
const SLOWEST_FPS = 5;

const rest = (ms: number) => new Promise<void>((done) => window.setTimeout(done, ms));

export class Desk {
  sheet = $state.raw<Sheet | null>(null);
  missing = $state("");
  /** The pose that is looked at; null: the live picture. */
  looked = $state<number | null>(null);
  /** Which pass of what is looked at. */
  passLooked = $state(0);
  /** Where lines were begun to be chosen, to the one that is looked at. */
  from = $state<number | null>(null);
  /** A piece of the set is being marked: its box is drawn over the picture. */
  marking = $state(false);
  source = $state("");
  devices = $state.raw<sources.Device[]>([]);
  problem = $state("");
  faults = $state<Faults>({ ...NO_FAULTS });
  look = $state<Look>("mix");
  mixed = $state(0.5);
  before = $state(1);
  after = $state(0);
  playing = $state(false);
  /** Held down: the block's first frame in place of the live picture. */
  blinks = $state(false);
  /** So many seconds are played; 0 for everything. */
  seconds = $state(2);
  plays = $derived.by(() => {
    const many = this.from !== null && this.span[0] !== this.span[1];
    return playedOf(this.poses, this.last, many ? this.span : null, this.seconds, this.sheet?.rate_fps ?? 0);
  });
  /** Counts up when a live picture has come. */
  came = $state(0);
  /** How long the last one took to draw, ms. */
  drawing = 0;
  live = $state.raw<ImageBitmap | HTMLVideoElement | null>(null);
  sounds = $state(true);
  /** The next turn of a rig is spoken. */
  speaks = $state(false);
  /** So many photographs make one: noise of low light goes down by their root. */
  averaged = $state(1);
  /** A folder that is looked into: its name, and what lay in it before. */
  folder = $state.raw<{ name: string; before: File[] } | null>(null);
  /** What the next picture of a folder is of, where it is not the one that is due. */
  anew = $state.raw<{ place: number; pass: number } | null>(null);
  readonly sound = new Sound();
  readonly pedal = new Pedal();
  readonly asking = new Asking();
  readonly motor = new Motor();
  readonly way: WayBack;
  readonly writes = new SheetWrites(this);
  readonly points = new Points(this);
  readonly building = new Building({
    glance: (canvas, signal) => this.#glance(canvas, signal),
    holds: () => this.sounds && this.sound.taken(),
  });
  #stream: MediaStream | null = null;
  #going: AbortController | null = null;
  #taking = 0;
  #newest = new Newest();
  #canvas = document.createElement("canvas");

  constructor(readonly id: number) {
    this.way = new WayBack(
      this.asking,
      () => this.sheet?.production_id ?? null,
      () => this.read(),
    );
    frames.onsent((exposure) => void this.#arrived(exposure));
  }

  async read() {
    const asked = this.#newest.ask();
    try {
      const params = { path: { sheet_id: this.id } };
      const sheet = await answered(client.GET("/api/exposure-sheets/{sheet_id}", { params }));
      if (!this.#newest.counts(asked)) return;
      this.sheet = sheet;
      this.missing = "";
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      if (!this.sheet) this.missing = error.message;
    }
  }
  get takes(): boolean {
    return this.sheet?.role === "supervisor" || this.sheet?.role === "crew";
  }
  get poses(): Pose[] {
    return this.sheet?.poses ?? [];
  }
  /** The pass that is looked at, where a pose has more than one: of the live picture the one that is due. */
  pass = $derived.by(() => (this.looked === null && this.live ? this.due.pass : this.passLooked));
  shown = $derived(shownOf(this.sheet?.exposures ?? [], this.pass));
  /** What stands in the strip: always of one pass, whichever is due. */
  inStrip = $derived(shownOf(this.sheet?.exposures ?? [], this.passLooked));
  /** Frames that wait on this device, by pose. */
  waits = $derived.by(() => {
    const found: Record<number, KeptFrame[]> = {};
    for (const one of frames.waiting) if (one.sheet === this.id) (found[one.pose] ??= []).push(one);
    return found;
  });
  /** The place and the pass that the next photograph is of. */
  due = $derived.by(() => {
    const there: Record<string, true> = {};
    for (const one of this.sheet?.exposures ?? [])
      if (one.chosen) there[`${one.pose_id} ${one.light_pass}`] = true;
    for (const one of frames.waiting) if (one.sheet === this.id) there[`${one.pose} ${one.pass ?? 0}`] = true;
    const { passes = [], passes_alternate: alternate = false } = this.sheet ?? {};
    return dueOf(this.poses, passes.length, alternate, (pose, pass) => !!there[`${pose.id} ${pass}`]);
  });
  /** Where the next photograph goes. */
  next = $derived(this.due.place);
  /** The pose that was photographed last in this pass. */
  last = $derived(this.poses.findLastIndex((one) => this.shown[one.id]));
  get at(): number {
    return this.looked ?? this.next;
  }
  /** The lines that are chosen: the one that is looked at, or all from where they were begun. */
  get span(): [number, number] {
    const from = Math.min(this.from ?? this.at, this.poses.length - 1);
    return [Math.min(from, this.at), Math.max(from, this.at)];
  }
  /** What is looked at, or what was taken last. */
  get exposure(): Exposure | null {
    const { place = -1, pass = 0 } = this.seen ?? {};
    const pose = this.poses[place];
    return (pose && this.exposuresOf(pose).find((one) => one.chosen && one.light_pass === pass)) ?? null;
  }
  get told(): Warned[] {
    return this.exposure?.watched?.warnings ?? [];
  }
  exposuresOf(pose: Pose): Exposure[] {
    return (this.sheet?.exposures ?? []).filter((one) => one.pose_id === pose.id);
  }

  /** Look at a pose, or at the live picture; `on` chooses all the lines on the way there. */
  go(place: number | null, on = false) {
    this.from = on ? (this.from ?? this.at) : null;
    this.playing = false;
    this.looked = place === null ? null : Math.min(Math.max(place, 0), this.poses.length - 1);
  }
  step(by: number, on = false) {
    const to = this.at + by;
    if (on) this.go(to, true);
    else if (to === this.next || (to > this.next && by === 1 && this.looked === null)) this.go(null);
    else this.go(to);
  }
  play() {
    this.playing = !this.playing && this.plays.ends > this.plays.begins;
  }

  // --- the camera

  async begin(source: string) {
    this.stop();
    this.problem = "";
    this.source = source;
    if (!source) return;
    this.#going = new AbortController();
    const { signal } = this.#going;
    if (source === FOLDER) return this.#look(signal);
    if (source === sources.SIMULATED) return void this.#again(signal, () => this.#simulate(signal));
    try {
      const stream = await sources.opened(source);
      if (signal.aborted) {
        for (const track of stream.getTracks()) track.stop();
        return;
      }
      this.#stream = stream;
      this.devices = await sources.devices();
      const [track] = stream.getVideoTracks();
      this.source = track?.getSettings().deviceId ?? source;
      track?.addEventListener("ended", () => {
        this.stop();
        this.problem = sources.GONE;
      });
      const video = document.createElement("video");
      video.muted = video.playsInline = true;
      video.srcObject = stream;
      await video.play();
      this.live = video;
      const rest = () => restOf(this.drawing, !!this.#taking || frames.sending);
      follow(video, signal, rest, () => this.came++);
    } catch (error) {
      if (signal.aborted) return;
      this.stop();
      this.problem = sources.whyNot(error);
    }
  }
  async #look(signal: AbortSignal) {
    try {
      const folder = await folders.chosen();
      if (!folder || signal.aborted) return this.stop();
      const there = (before: File[]) => (this.folder = { name: folder.name, before });
      await folders.watch(folder, signal, there, (file) => this.#came(file));
    } catch (error) {
      if (signal.aborted) return;
      this.stop();
      this.problem = "The folder cannot be read any more: choose it again.";
      if (!(error instanceof DOMException)) throw error;
    }
  }
  /** Take pictures in that lie there already, in the order of their names. */
  async takeIn(files: readonly File[]) {
    for (const file of folders.inOrder(files)) await this.#came(file);
    if (this.folder) this.folder = { ...this.folder, before: [] };
  }
  async #came(file: File) {
    const { place, pass } = this.anew ?? this.due;
    const is = this.anew !== null;
    this.anew = null;
    const pose = this.poses[place];
    if (!pose) return;
    if (!is && this.isThere(pose, pass)) {
      this.problem = `${file.name}: every line is photographed. Add a line, then take it in again.`;
      return;
    }
    await this.#keep(pose, pass, file);
  }
  stop() {
    this.building.stop();
    this.folder = null;
    this.anew = null;
    this.#going?.abort();
    this.#going = null;
    for (const track of this.#stream?.getTracks() ?? []) track.stop();
    this.#stream = null;
    if (this.live instanceof ImageBitmap) this.live.close();
    this.live = null;
    this.source = "";
    this.came++;
  }
  close() {
    this.stop();
    this.sound.stop();
    this.motor.close();
    frames.onsent(() => undefined);
  }
  async #again(signal: AbortSignal, once: () => Promise<void>) {
    while (!signal.aborted) {
      try {
        if (!document.hidden && !this.#taking) await once();
        await rest(EVERY_MS);
      } catch (error) {
        if (signal.aborted) return;
        if (!(error instanceof Error)) throw error;
        this.problem = error.message;
        await rest(REST_MS);
      }
    }
  }
  async #simulate(signal: AbortSignal) {
    const picture = await createImageBitmap(await this.#photograph(LIVE_PX, this.next, signal));
    if (signal.aborted) return picture.close();
    if (this.live instanceof ImageBitmap) this.live.close();
    this.live = picture;
    this.problem = "";
    this.came++;
  }
  #photograph(width: number, place: number, signal?: AbortSignal): Promise<Blob> {
    return photograph(this.id, this.poses[place]?.frame ?? 1, width, this.faults, signal);
  }
  /** What the camera sees now, whole: the middle of it that has the gate's shape. */
  async #picture(place: number): Promise<Blob | null> {
    if (this.source === sources.SIMULATED) return this.#photograph(TAKEN_PX, place);
    const video = this.live;
    if (!(video instanceof HTMLVideoElement) || !video.videoWidth) return null;
    return sources.still(video, this.#canvas, this.sheet!.aspect, Infinity, QUALITY);
  }

  /** The same, to be measured and not kept. */
  async #glance(canvas: HTMLCanvasElement, signal: AbortSignal): Promise<Blob | null> {
    // the simulated set is painted anew for each width: only pictures of one width show the same
    if (this.source === sources.SIMULATED) return this.#photograph(TAKEN_PX, this.next, signal);
    const video = this.live;
    if (!(video instanceof HTMLVideoElement) || !video.videoWidth) return null;
    return sources.still(video, canvas, this.sheet!.aspect, LIVE_PX, QUALITY);
  }

  // --- what is taken

  /** Photograph the next pose, or a pose once more. */
  async take({ place, pass } = this.due) {
    const pose = this.poses[place];
    if (!pose || !this.takes || this.#taking) return;
    if (this.folder) {
      this.anew = place === this.next && pass === this.due.pass ? null : { place, pass };
      return;
    }
    if (!this.source) {
      this.problem = "No camera is chosen: choose one, then take.";
      return;
    }
    this.#taking++;
    this.playing = false;
    try {
      const photograph = await this.#average(place).finally(() => this.#taking--);
      if (photograph) await this.#keep(pose, pass, photograph);
      else this.problem = "The camera shows nothing yet: wait for its picture, then take.";
    } catch (error) {
      if (!(error instanceof Error)) throw error;
      this.problem = error.message;
    }
  }
  /** On this device until the server has it; that it waits is known at once: the next can be taken. */
  async #keep(pose: Pose, pass: number, photograph: Blob) {
    if (this.sounds) this.sound.taken();
    this.looked = null;
    const { place } = pose;
    const { code, layer_id: layer } = this.sheet!;
    const name = `${code} frame ${place + 1}${this.passName(pass)}`;
    await frames.keep({ layer, sheet: this.id, pose: pose.id, place, pass, name, photograph, at: now() });
  }
  #average(place: number): Promise<Blob | null> {
    const waits = () => (this.source === sources.SIMULATED ? Promise.resolve() : rest(this.#frameMs()));
    return averaged(this.averaged, () => this.#picture(place), waits, QUALITY);
  }
  /** From one picture of the camera to the next: the same is not averaged with itself. */
  #frameMs(): number {
    const rate = this.#stream?.getVideoTracks()[0]?.getSettings().frameRate ?? 0;
    return 1000 / Math.max(rate, SLOWEST_FPS);
  }
  /** Once more what is looked at: the pose that was stepped to, or the last that was taken. */
  again() {
    const once = this.once;
    return once ? this.take(once) : Promise.resolve();
  }
  /** What `again` takes: what was taken last may still be on its way. */
  once = $derived.by(() => {
    const last = this.looked === null && frames.waiting.findLast((one) => one.sheet === this.id);
    const place = last ? this.poses.findIndex((one) => one.id === last.pose) : -1;
    return last && place >= 0 ? { place, pass: last.pass ?? 0 } : this.seen;
  });
  /** The pose and the pass that are looked at, or the last that the server has. */
  seen = $derived.by(() => {
    if (this.looked !== null) return { place: this.looked, pass: this.passLooked };
    const taken = newestOf(this.sheet?.exposures ?? []);
    const place = this.poses.findIndex((one) => one.id === taken?.pose_id);
    return taken && place >= 0 ? { place, pass: taken.light_pass } : null;
  });
  passName(pass: number): string {
    const name = this.sheet?.passes[pass];
    return name ? `, ${name}` : "";
  }
  isThere(pose: Pose, pass: number): boolean {
    return (
      this.exposuresOf(pose).some((one) => one.chosen && one.light_pass === pass) ||
      !!this.waits[pose.id]?.some((one) => (one.pass ?? 0) === pass)
    );
  }
  async #arrived(exposure: Exposure) {
    const { sheet } = this;
    if (!sheet || !this.poses.some((one) => one.id === exposure.pose_id)) return;
    this.sheet = { ...sheet, exposures: withExposure(sheet.exposures, exposure) };
    this.#newest.passed();
    const before = this.poses[this.poses.findIndex((one) => one.id === exposure.pose_id) - 1];
    if (this.sounds && saysMore(exposure, before && this.shown[before.id])) this.sound.warning();
    await this.way.pick({ shot: sheet.shot_id, kinds: "exposure" });
    await this.read();
  }
}
