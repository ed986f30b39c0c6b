// The footage of a shot on the measuring table: which recording, which frame, what is measured and marked.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { Followed, isGoing } from "../../lib/events/job.svelte";
import { session } from "../../lib/session.svelte";
import { marked, MARK_NAMES, placesOf, type MarkKind, type Row, type What } from "./rows";

export type Line = Schemas["RushLineOut"];
export type Measured = Schemas["FramesMeasuredOut"];
export type Column = Schemas["ColumnOut"];

const keyOf = (one: Column) => `${one.what}.${one.amount}`;

export class Rushing {
  list = $state.raw<Schemas["RushesOut"] | null>(null);
  rush = $state.raw<Schemas["RushOut"] | null>(null);
  recording = $state(0);
  frame = $state(0);
  playing = $state(false);
  /** The row that is drawn over the picture. */
  shown = $state<What | null>(null);
  /** How what does not hold is mended, and what shooting again costs. */
  ways = $state.raw<Schemas["WaysOut"] | null>(null);
  missing = $state("");
  /** A line of the table, by its row and its amount. */
  chosen = $state("");
  marking = $state.raw<{ kind: MarkKind; places: number[][] } | null>(null);
  readonly asking = new Asking();
  readonly looking = new Followed(this.asking);
  readonly measuring = new Followed(this.asking);
  readonly way = new WayBack(
    this.asking,
    () => this.list?.production_id ?? null,
    () => this.read(),
  );
  measures = $state<What | null>(null);
  #turn = 0;

  constructor(readonly shot: number) {}

  close() {
    this.looking.close();
    this.measuring.close();
  }
  /** Every recording with its layer; those of a pass or a clean plate are not what is looked at first. */
  get lines(): (Line & { layer: string; cleans: number | null; aside: boolean })[] {
    return (this.list?.layers ?? []).flatMap((layer) => {
      const cleans = layer.kind === "clean_plate" ? layer.set_up_id : null;
      const aside = cleans !== null || layer.kind.endsWith("_pass");
      return layer.recordings.map((one) => ({ ...one, layer: layer.name, cleans, aside }));
    });
  }
  get line() {
    return this.lines.find((one) => one.recording_id === this.recording);
  }
  get writes() {
    return this.list?.role === "supervisor" || this.list?.role === "crew";
  }
  get frames() {
    return Math.max(1, this.rush?.frames ?? 1);
  }
  get clip() {
    return this.rush?.kind === "clip";
  }
  get drawn(): Measured | null {
    return this.rush?.measured.find((one) => one.what === this.shown) ?? null;
  }
  /** The line of the table that is looked at: the one that was chosen, else what shows most. */
  get picked(): Column | null {
    const columns = this.rush?.columns ?? [];
    return columns.find((one) => keyOf(one) === this.chosen) ?? columns[0] ?? null;
  }
  pick(column: Column) {
    this.chosen = keyOf(column);
    const there = this.rush?.measured.find((one) => one.what === column.what);
    this.shown = there?.overlays.length ? column.what : null;
    if (there?.frame != null) this.go(there.frame);
  }
  get busy() {
    return this.asking.busy || isGoing(this.measuring.job);
  }

  go(frame: number) {
    this.frame = Math.min(this.frames - 1, Math.max(0, Math.round(frame)));
  }
  mark(kind: MarkKind): number[][] {
    return this.rush?.marks.find((one) => one.kind === kind)?.places ?? [];
  }

  /** The list anew, and the recording that lies on the table. */
  async read() {
    const asked = new Asking();
    const path = { shot_id: this.shot };
    const found = await asked.read(() =>
      answered(client.GET("/api/shots/{shot_id}/rushes", { params: { path } })),
    );
    this.list = found ?? this.list;
    this.missing = this.list ? "" : asked.said;
    if (!this.list) return;
    const lines = this.lines;
    if (!lines.some((one) => one.recording_id === this.recording)) {
      const seen = lines.filter((one) => one.seen);
      const circled = seen.filter((one) => one.circled);
      const first = circled.find((one) => !one.aside) ?? circled[0] ?? seen[0];
      this.recording = (first ?? lines[0])?.recording_id ?? 0;
    }
    await this.#readRush();
  }
  async open(recording: number) {
    if (recording === this.recording && this.rush) return;
    this.recording = recording;
    this.rush = null;
    this.frame = 0;
    this.playing = false;
    this.marking = null;
    this.measures = null;
    this.chosen = "";
    await this.#readRush();
  }
  async #readRush() {
    const turn = ++this.#turn;
    if (!this.line?.seen) {
      this.rush = null;
      return;
    }
    const path = { recording_id: this.recording };
    const found = await this.asking.read(() =>
      answered(
        client.GET("/api/recordings/{recording_id}/rush", {
          params: { path, query: { units: session.units, school: session.school } },
        }),
      ),
    );
    if (turn !== this.#turn || !found) return;
    if (this.rush?.recording_id !== found.recording_id) this.frame = found.begins;
    this.rush = found;
    this.ways = null;
    if (found.columns.every((one) => one.verdict === "holds")) return;
    const ways = await this.asking.read(() =>
      answered(client.GET("/api/recordings/{recording_id}/ways", { params: { path } })),
    );
    if (turn === this.#turn) this.ways = ways ?? null;
  }

  /** Look at what waits, or at one recording again. */
  look(recording_id: number | null = null) {
    const { production_id, version } = this.list!;
    return this.looking.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/rushes", {
          params: { path: { production_id } },
          headers: { "Idempotency-Key": key },
          body: { version, recording_id },
        }),
      ),
    );
  }

  /** The mark that a row is measured by: the first that is there. */
  markOf(row: Row): MarkKind | undefined {
    return row.marks.find((kind) => this.mark(kind).length);
  }
  async measure(row: Row, against: number | null) {
    const kind = this.markOf(row);
    this.measures = row.what;
    this.shown = row.what;
    const body = {
      what: row.what,
      against_id: against,
      frame: row.frame && this.clip ? this.frame : null,
      region: [],
      places: [],
      kind: "" as const,
      ...(kind ? marked(kind, this.mark(kind)) : {}),
    };
    const path = { recording_id: this.recording };
    await this.measuring.ask((key) =>
      answered(
        client.POST("/api/recordings/{recording_id}/measures", {
          params: { path },
          headers: { "Idempotency-Key": key },
          body,
        }),
      ),
    );
  }

  begin(kind: MarkKind) {
    this.playing = false;
    this.marking = { kind, places: [] };
  }
  /** What was found by itself for the mark that is being made. */
  get proposed(): number[][] | null {
    const kind = this.marking?.kind;
    return this.rush?.proposed.find((one) => one.kind === kind)?.places ?? null;
  }
  async takeProposed() {
    const { marking, proposed } = this;
    if (!marking || !proposed) return;
    this.marking = null;
    await this.say(marking.kind, proposed);
  }
  /** From which frame to which it counts; neither is all of it after its slate. */
  async sayCounts(first: number | null, last: number | null) {
    const { recording_id, version } = this.rush!;
    const done = await this.way.do("frames that count", (key) =>
      answered(
        client.POST("/api/recordings/{recording_id}/frames", {
          params: { path: { recording_id } },
          headers: { "Idempotency-Key": key },
          body: { version, first, last },
        }),
      ),
    );
    if (done) await this.#readRush();
  }
  /** One place more; with the last one the mark is kept. */
  async put(place: number[]) {
    if (!this.marking) return;
    const { kind, places } = this.marking;
    this.marking = { kind, places: [...places, place] };
    if (this.marking.places.length === placesOf(kind)[1]) await this.keepMark();
  }
  get enough() {
    return this.marking !== null && this.marking.places.length >= placesOf(this.marking.kind)[0];
  }
  async keepMark() {
    if (!this.marking || !this.enough) return;
    const { kind, places } = this.marking;
    this.marking = null;
    await this.say(kind, places);
  }
  forget(kind: MarkKind) {
    return this.say(kind, []);
  }
  private async say(kind: MarkKind, places: number[][]) {
    const set_up = this.rush?.set_up_id;
    if (!set_up) return;
    const done = await this.way.do(`${MARK_NAMES[kind]} marked`, (key) =>
      answered(
        client.POST("/api/set-ups/{set_up_id}/frame-marks", {
          params: { path: { set_up_id: set_up } },
          headers: { "Idempotency-Key": key },
          body: { kind, places },
        }),
      ),
    );
    if (done) await this.#readRush();
  }

  /** What becomes of an amount that does not hold; no choice asks again. */
  async decide(column: Column, choice: "" | "keep" | "mend" | "again", way = "", reason = "") {
    const { recording_id, version } = this.rush!;
    const { what, amount } = column;
    const done = await this.way.do(choice ? "decision" : "question", (key) =>
      answered(
        client.POST("/api/recordings/{recording_id}/decisions", {
          params: { path: { recording_id } },
          headers: { "Idempotency-Key": key },
          body: { version, what, amount, choice, way, reason },
        }),
      ),
    );
    if (done) await this.read();
    return Boolean(done);
  }

  /** What a row tells of a hero's circled take stands for what was logged of it, or the log again. */
  async refer(what: "photograph" | "ball", counts: boolean) {
    const { recording_id, take_version } = this.rush!;
    const done = await this.way.do(counts ? "measured reference" : "logged reference", (key) =>
      answered(
        client.POST("/api/recordings/{recording_id}/reference", {
          params: { path: { recording_id } },
          headers: { "Idempotency-Key": key },
          body: { version: take_version, what, counts },
        }),
      ),
    );
    if (done) await this.#readRush();
  }

  async sayCurve(curve: Omit<Schemas["CurveIn"], "version">) {
    const { recording_id, version } = this.rush!;
    const done = await this.way.do("curve said", (key) =>
      answered(
        client.POST("/api/recordings/{recording_id}/curve", {
          params: { path: { recording_id } },
          headers: { "Idempotency-Key": key },
          body: { ...curve, version },
        }),
      ),
    );
    if (done) await this.#readRush();
    return Boolean(done);
  }
}
